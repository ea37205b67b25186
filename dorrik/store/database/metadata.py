"""What every table shares: the naming of its keys, its engine and alphabet, and how an identifier is kept."""

from typing import Any

from sqlalchemy import MetaData
from sqlalchemy.dialects.mysql import CHAR

metadata = MetaData(
    naming_convention={
        "ix": "ix_%(table_name)s_%(column_0_N_name)s",
        "uq": "uq_%(table_name)s_%(column_0_N_name)s",
        "fk": "fk_%(table_name)s_%(column_0_N_name)s",
        "pk": "pk_%(table_name)s",
    }
)

OPTIONS: dict[str, Any] = {"mysql_engine": "InnoDB", "mysql_charset": "utf8mb4"}


def identifier() -> CHAR:
    """A UUID as text, 36 characters."""
    return CHAR(36, charset="ascii", collation="ascii_bin")
