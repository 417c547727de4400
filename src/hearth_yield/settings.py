"""Settings from the environment. Every one is listed in the README."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

from pydantic import Field
from pydantic_settings import BaseSettings, SettingsConfigDict


class Settings(BaseSettings):
    """HEARTH_PORT, HEARTH_DATA; HEARTH_FEED, the address of a feed, HEARTH_FEED_TOKEN."""

    model_config = SettingsConfigDict(env_prefix="HEARTH_")

    port: int = Field(default=8000, ge=1, le=65535)
    data: Path = Path("data")
    feed: Annotated[str, Field(pattern=r"^https?://[^/\s]+$")] | None = None
    feed_token: str | None = None

    @property
    def database_path(self) -> Path:
        return self.data / "hearth-yield.sqlite"
