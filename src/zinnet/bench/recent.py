"""The jobs that were opened last."""

import contextlib
import json
from hashlib import sha256
from pathlib import Path

import platformdirs

from zinnet.base.errors import ZinnetError
from zinnet.base.files import read_file, write_whole
from zinnet.base.json_file import read_json

MOST_RECENT = 8
MOST_BYTES = 100_000


def recent_jobs() -> list[Path]:
    """Return the jobs opened last that still exist, the latest first."""
    try:
        names = read_json(read_file(_recent_file(), MOST_BYTES), "recent.json", most_values=1000)
    except ZinnetError:
        return []
    found = []
    for name in names if isinstance(names, list) else []:
        with contextlib.suppress(OSError, ValueError):
            if isinstance(name, str) and Path(name).is_file():
                found.append(Path(name))
    return found[:MOST_RECENT]


def remember_job(path: Path, picture: bytes = b"") -> None:
    """Put a job at the head of the recent ones, with a small picture of it as PNG; without one it keeps what it has."""
    names = [str(path.resolve()), *(str(one) for one in recent_jobs() if one != path.resolve())][:MOST_RECENT]
    with contextlib.suppress(ZinnetError):  # a list that can't be kept must not keep anyone from working
        write_whole(_recent_file(), json.dumps(names).encode())
        if picture:
            write_whole(picture_of(path), picture)
    kept = {picture_of(Path(name)) for name in names}
    for old in _pictures().glob("*.png"):
        if old not in kept:
            with contextlib.suppress(OSError):
                old.unlink()


def picture_of(path: Path) -> Path:
    """Return where the small picture of a job is kept, if there is one."""
    return _pictures() / f"{sha256(str(path.resolve()).encode()).hexdigest()[:24]}.png"


def _pictures() -> Path:
    return platformdirs.user_state_path("zinnet") / "pictures"


def _recent_file() -> Path:
    return platformdirs.user_state_path("zinnet") / "recent.json"
