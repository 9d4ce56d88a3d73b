"""Settings of the application, read once; nothing else reads the environment."""

import os
from dataclasses import dataclass, field
from pathlib import Path


@dataclass(frozen=True)
class AppSettings:
    """Where things are and how to serve."""

    host: str = "127.0.0.1"
    port: int = 8765
    data: Path = Path("data")
    database_url: str | None = None
    web: Path = field(default_factory=lambda: Path(__file__).resolve().parents[1] / "web")


def from_environment() -> AppSettings:
    """Settings from MAINSPRING_HOST, _PORT, _DATA and _DATABASE_URL, defaults where unset."""
    env = os.environ
    return AppSettings(
        host=env.get("MAINSPRING_HOST", AppSettings.host),
        port=int(env.get("MAINSPRING_PORT", AppSettings.port)),
        data=Path(env.get("MAINSPRING_DATA", AppSettings.data)),
        database_url=env.get("MAINSPRING_DATABASE_URL"),
    )
