"""How a server is set up: one table of settings, each from its flag, else from the environment, else its default."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated, Literal

from pydantic import Field, field_validator
from pydantic_settings import BaseSettings, NoDecode, SettingsConfigDict

LogLevel = Literal["debug", "info", "warning", "error"]


class Settings(BaseSettings):
    """Settings of `vessel serve` and of `uvicorn --factory`; `VESSEL_DATABASE` sets `database`, and so on."""

    model_config = SettingsConfigDict(env_prefix="VESSEL_", extra="ignore")

    database: Annotated[Path, Field(description="SQLite file; made if missing")] = Path("var/vessel.sqlite3")
    host: Annotated[str, Field(description="address to listen on")] = "127.0.0.1"
    port: Annotated[int, Field(ge=1, le=65535, description="port to listen on")] = 8420
    allow_host: Annotated[list[str], NoDecode, Field(description="further host name to answer to; repeat for more")] = (
        Field(default_factory=list)
    )
    root_path: Annotated[str, Field(description="path prefix behind a reverse proxy, such as /vessel")] = ""
    log_level: Annotated[LogLevel, Field(description="what is logged")] = "info"
    cores: Annotated[int | None, Field(ge=0, description="worker processes for plans; 0: none")] = None
    instruments: Annotated[
        list[str], NoDecode, Field(description="instrument to attach, such as tcp://127.0.0.1:8430; repeat for more")
    ] = Field(default_factory=list)
    demo: Annotated[bool, Field(description="import the demo jobs into an empty database")] = False

    @field_validator("allow_host", "instruments", mode="before")
    @classmethod
    def _by_comma(cls, given: object) -> object:
        """A list in the environment is written with commas."""
        return [h.strip() for h in given.split(",") if h.strip()] if isinstance(given, str) else given
