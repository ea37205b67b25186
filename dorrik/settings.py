"""What the environment says: the settings of a server (docs/operating.md). Nothing else reads the environment."""

import os
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import Field, SecretStr, ValidationError
from pydantic_settings import BaseSettings, SettingsConfigDict

#: Where the data lie in a checkout that nobody told of another place.
VAR = Path(__file__).parents[1] / "var"
_PREFIX = "DORRIK_"


class Settings(BaseSettings):
    """Settings, each a variable DORRIK_… of the environment; one that is empty counts as not set.

    home: the folder of database, photos and caught mail; url: where people reach the server; photos, backup: a folder
    or an address that fsspec knows; smtp: host:port of the mail server; bounces: a folder or imaps://…; inbox: the
    demo's caught mail; delivery: does this server send waiting letters?; little_room: free disk (bytes) below which
    that is told; counts: where several processes keep their counts (set by the server itself); meter_with_parent: does
    the simulated instrument end with the program that started it?
    """

    model_config = SettingsConfigDict(env_prefix=_PREFIX, env_ignore_empty=True, frozen=True)

    home: Path = VAR
    url: str = "http://127.0.0.1:8080"
    database_url: str | None = None
    photos: str | None = None
    drafts: Path | None = None
    smtp: Annotated[str | None, Field(pattern=r"^[^:\s]+(:\d{1,5})?$")] = None
    smtp_user: str = ""
    smtp_password: SecretStr = SecretStr("")
    mail_from: str = "office@localhost.localdomain"
    bounces: str = ""
    inbox: Path | None = None
    delivery: Literal["on", "off"] = "on"
    backup: str | None = None
    backup_hours: Annotated[float, Field(gt=0)] = 24
    backup_keep: Annotated[int, Field(ge=1)] = 14
    access_log: bool = False
    metrics_token: SecretStr | None = None
    little_room: Annotated[int, Field(ge=0)] = 500_000_000
    counts: Annotated[Path | None, Field(validation_alias="PROMETHEUS_MULTIPROC_DIR")] = None
    meter_with_parent: bool = False

    @property
    def address(self) -> str:
        """Where people reach the server, without a slash at the end."""
        return self.url.rstrip("/")

    @property
    def photo_place(self) -> str:
        """Where photos are kept."""
        return self.photos or str(self.home / "photos")


def settings() -> Settings:
    """The settings as the environment has them now. Raises pydantic.ValidationError for a value that cannot be."""
    return Settings()


def mistakes() -> list[str]:
    """What cannot be in the settings, a sentence for each variable; nothing where they are in order."""
    try:
        settings()
    except ValidationError as error:
        return [
            f"{_PREFIX}{'.'.join(map(str, typed_dict_type['loc'])).upper()}: {typed_dict_type['msg']}"
            for typed_dict_type in error.errors()
        ]
    return []


def hand_on(**values: object) -> None:
    """Set settings for this process and for those that it starts."""
    os.environ.update(_named(values))


def is_set(name: str) -> bool:
    """Did somebody set it, to whatever value?"""
    return f"{_PREFIX}{name.upper()}" in os.environ


def for_a_program(**more: object) -> dict[str, str]:
    """The environment for a program that is started, with settings of its own."""
    return os.environ | _named(more)


def _named(values: dict[str, Any]) -> dict[str, str]:
    return {f"{_PREFIX}{name.upper()}": str(value) for name, value in values.items()}
