"""A report on its way: submitted, sent back, authorised; what a reviewer asks, and up to where they have read; the
code that a paper is known by, and the firm's logo on it."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "review_step",
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("inspection_id", _identifier(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(length=20), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", _identifier(), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        sa.Column("words", sa.String(length=1000), nullable=True),
        sa.Column("signature", sa.JSON(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_review_step_inspection_id")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_review_step_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_review_step")),
        sa.UniqueConstraint("inspection_id", "number", name=op.f("uq_review_step_inspection_id_number")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "review_look",
        sa.Column("inspection_id", _identifier(), nullable=False),
        sa.Column("person_id", _identifier(), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_review_look_inspection_id")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_review_look_person_id")),
        sa.PrimaryKeyConstraint("inspection_id", "person_id", name=op.f("pk_review_look")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.add_column("firm", sa.Column("logo", mysql.MEDIUMTEXT(), nullable=True))
    code = mysql.CHAR(14, charset="ascii", collation="ascii_bin")
    op.add_column("issued_report", sa.Column("check_code", code, nullable=True))
    op.create_index(op.f("ix_issued_report_check_code"), "issued_report", ["check_code"])
    # What was issued before is known by the same code, though it is not printed on it.
    op.execute(
        "UPDATE issued_report SET check_code = UPPER(CONCAT_WS('-', SUBSTR(SHA2(document, 256), 1, 4), "
        "SUBSTR(SHA2(document, 256), 5, 4), SUBSTR(SHA2(document, 256), 9, 4))) WHERE erased_at IS NULL"
    )
    op.add_column("come_back", sa.Column("asked_by", sa.String(length=120), nullable=True))
    op.add_column("come_back", sa.Column("answer", sa.String(length=500), nullable=True))


def downgrade() -> None:
    op.drop_column("firm", "logo")
    op.drop_index(op.f("ix_issued_report_check_code"), table_name="issued_report")
    op.drop_column("issued_report", "check_code")
    op.drop_column("come_back", "answer")
    op.drop_column("come_back", "asked_by")
    op.drop_table("review_look")
    op.drop_table("review_step")


def _identifier() -> sa.types.TypeEngine[str]:
    return mysql.CHAR(36, charset="ascii", collation="ascii_bin")
