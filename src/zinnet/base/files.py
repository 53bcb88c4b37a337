"""Writing files whole or not at all."""

import contextlib
import os
import stat
import tempfile
from pathlib import Path

from zinnet.base.errors import ZinnetError

USUAL_MODE = 0o666


def write_whole(path: Path, data: bytes, *, error: type[ZinnetError] = ZinnetError) -> Path:
    """Write a file beside its place and move it there, its folder made where it is missing; return the path.

    What is behind a link is written, the link stays. The mode of a file that was there is kept; a new one has the mode
    that any program's would. File and folder are synced: a break at any moment leaves the old file or the new one.

    Raises ``error`` where that can't be done; a file that was there before is then as it was.
    """
    try:
        target = path.resolve() if path.is_symlink() else path
        target.parent.mkdir(parents=True, exist_ok=True)
        _replace(target, data)
    except (OSError, RuntimeError) as raised:
        why = raised.strerror if isinstance(raised, OSError) and raised.strerror else "its link leads nowhere"
        raise error(f"{path} can't be written: {why}. Choose another folder.") from None
    return path


def _replace(target: Path, data: bytes) -> None:
    descriptor, part = tempfile.mkstemp(dir=target.parent, prefix=f".{target.name[:100]}.", suffix=".part")
    try:
        with os.fdopen(descriptor, "wb") as file:
            os.fchmod(file.fileno(), _mode(target))
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.replace(part, target)
    except BaseException:
        with contextlib.suppress(OSError):
            os.unlink(part)
        raise
    _sync_folder(target.parent)


def _mode(target: Path) -> int:
    """Return the mode of the file that is there, else the usual one less what the user's mask takes away."""
    try:
        return stat.S_IMODE(target.stat().st_mode)
    except FileNotFoundError:
        mask = os.umask(0)
        os.umask(mask)
        return USUAL_MODE & ~mask


def _sync_folder(folder: Path) -> None:
    descriptor = os.open(folder, os.O_RDONLY)
    try:
        with contextlib.suppress(OSError):  # some file systems can't sync a folder
            os.fsync(descriptor)
    finally:
        os.close(descriptor)
