"""Settings, from the environment (``DREIECK_…``) or from the command."""

from __future__ import annotations

import socket
from ipaddress import ip_address
from pathlib import Path

from pydantic_settings import BaseSettings, SettingsConfigDict

HOME = Path.home() / ".local" / "share" / "dreieck"


class Settings(BaseSettings):
    """Where the data are, where to listen, which host names are served, and to whom.

    With a ``key`` only those who have it may come in. Beyond this machine there always is one:
    where none is set one is made up at each start.
    """

    model_config = SettingsConfigDict(env_prefix="DREIECK_")

    data: Path = HOME / "dreieck.db"
    host: str = "127.0.0.1"
    port: int = 8765
    demo: bool = False
    hosts: list[str] = ["localhost", "127.0.0.1", "[::1]"]

    key: str = ""

    people: bool = False
    """Whether everybody signs in with a name, and has workbooks of their own."""

    sources: dict[str, str] = {}
    """Where outside figures come from: addresses by name. Nobody else is ever asked."""

    @property
    def is_local(self) -> bool:
        """Whether only this machine can reach the server."""
        if self.host == "localhost":
            return True
        try:
            return ip_address(self.host).is_loopback
        except ValueError:
            return False

    def served_hosts(self) -> list[str]:
        """The host names that requests may carry."""
        own = [] if self.is_local else [socket.gethostname()]
        host = f"[{self.host}]" if ":" in self.host else self.host
        return [*self.hosts, host, *own]
