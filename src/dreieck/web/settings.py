"""Settings, from the environment (``DREIECK_…``) or from the command."""

from __future__ import annotations

from pathlib import Path

from pydantic_settings import BaseSettings, SettingsConfigDict

HOME = Path.home() / ".local" / "share" / "dreieck"


class Settings(BaseSettings):
    """Where the data are, where to listen, which host names are served."""

    model_config = SettingsConfigDict(env_prefix="DREIECK_")

    data: Path = HOME / "dreieck.db"
    host: str = "127.0.0.1"
    port: int = 8765
    demo: bool = False
    hosts: list[str] = ["localhost", "127.0.0.1", "[::1]"]

    def served_hosts(self) -> list[str]:
        """The host names that requests may carry."""
        return [*self.hosts, self.host]
