"""Dated copies of the workshop's file: one a day, the last ones kept, any of them put back."""

import contextlib
import datetime
import os
import sqlite3
from pathlib import Path

from zinnet.base.errors import WorkshopError
from zinnet.base.files import written_beside

KEPT = 14


def folder_of(path: Path) -> Path:
    """Return where the copies of a workshop's file lie."""
    return path.with_name("backups")


def backups(path: Path) -> list[Path]:
    """Return the copies of a workshop's file, the newest first."""
    return sorted(folder_of(path).glob(f"{path.stem}-*.sqlite"), reverse=True)


def back_up(path: Path, today: datetime.date | None = None) -> Path | None:
    """Copy a sound workshop file, once a day; return the copy, or None where there is one of today or nothing to copy.

    The copy is made beside its place and moved there, so a full disk never leaves half of one.
    """
    day = today or datetime.date.today()
    copy = folder_of(path) / f"{path.stem}-{day.isoformat()}.sqlite"
    if copy.exists() or not path.exists() or not is_sound(path):
        return None
    try:
        copy.parent.mkdir(parents=True, exist_ok=True)
        with written_beside(copy) as part:
            _copy_database(path, part)
        for old in backups(path)[KEPT:]:
            old.unlink(missing_ok=True)
    except (OSError, sqlite3.Error):
        return None  # a copy that can't be made must not keep anyone from working
    return copy


def _copy_database(path: Path, to: Path) -> None:
    with contextlib.closing(sqlite3.connect(path)) as source, contextlib.closing(sqlite3.connect(to)) as target:
        source.backup(target)
        target.execute("PRAGMA journal_mode=DELETE")


def is_sound(path: Path) -> bool:
    """Tell whether a file is a whole SQLite database."""
    try:
        with contextlib.closing(
            sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True, timeout=1)
        ) as connection:
            return bool(connection.execute("PRAGMA quick_check").fetchone()[0] == "ok")
    except (sqlite3.Error, UnicodeDecodeError):  # what is wrong is said in words of the file's own
        return False


def restore(path: Path, copy: Path | None = None) -> Path:
    """Put a copy back in the place of the workshop's file, the newest sound one by default; return the copy.

    What was there is moved aside, not deleted. Raises :class:`WorkshopError` where there is no sound copy.
    """
    if copy is None:
        copy = next((one for one in backups(path) if is_sound(one)), None)
        if copy is None:
            raise WorkshopError(f"There is no sound backup of {path} in {folder_of(path)}.")
    elif not is_sound(copy):
        raise WorkshopError(f"{copy} is no sound backup of a workshop; choose another one.")
    stamp = datetime.datetime.now(datetime.UTC).strftime("%Y%m%d-%H%M%S-%f")
    try:
        with written_beside(path) as part:
            part.write_bytes(copy.read_bytes())
            for suffix in ("", "-wal", "-shm"):
                file = path.with_name(path.name + suffix)
                if file.exists():
                    os.replace(file, path.with_name(f"{path.name}{suffix}.aside-{stamp}"))
    except OSError as error:
        raise WorkshopError(f"{copy} can't be put in the place of {path}: {error.strerror}.") from None
    return copy
