"""Settings, from the environment; every one is listed in docs/SETTINGS.md."""

import os
from dataclasses import dataclass, field
from pathlib import Path


def state_folder() -> Path:
    """Where the private cluster and its secret live: NOMISMA_HOME, else a folder by whoever runs it."""
    if home := os.environ.get("NOMISMA_HOME"):
        return Path(home)
    if os.geteuid() == 0:
        return Path("/var/lib/nomisma")
    return Path(os.environ.get("XDG_DATA_HOME", Path.home() / ".local" / "share")) / "nomisma"


@dataclass(frozen=True)
class Settings:
    """What the web application is told at its start."""

    database_url: str
    secret: str = field(repr=False)
    demo: bool = False
    secure_cookies: bool = False
    session_hours: float = 12
    sign_in_tries: int = 5
    sign_in_pause_minutes: float = 15
    pool_size: int = 10
    gauge_port: int = 0
    hosts: tuple[str, ...] = ()
    open_calculations: int = 0
    calculation_seconds: float = 5

    @classmethod
    def from_environment(cls) -> "Settings":
        """Read them; DATABASE_URL and NOMISMA_SECRET are needed (server.py provides both)."""
        env = os.environ
        return cls(
            database_url=env["DATABASE_URL"],
            secret=env["NOMISMA_SECRET"],
            demo=env.get("NOMISMA_DEMO") == "1",
            secure_cookies=env.get("NOMISMA_SECURE_COOKIES") == "1",
            session_hours=float(env.get("NOMISMA_SESSION_HOURS", "12")),
            sign_in_tries=int(env.get("NOMISMA_SIGN_IN_TRIES", "5")),
            sign_in_pause_minutes=float(env.get("NOMISMA_SIGN_IN_PAUSE_MINUTES", "15")),
            pool_size=int(env.get("NOMISMA_POOL_SIZE", "10")),
            gauge_port=int(env.get("NOMISMA_GAUGE_PORT", "0")),
            hosts=tuple(env.get("NOMISMA_HOSTS", "").lower().replace(",", " ").split()),
            open_calculations=int(env.get("NOMISMA_OPEN_CALCULATIONS", "0")),
            calculation_seconds=float(env.get("NOMISMA_CALCULATION_SECONDS", "5")),
        )
