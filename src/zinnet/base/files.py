"""Reading files that are files, and writing them whole or not at all."""

import contextlib
import os
import stat
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

from zinnet.base.errors import ZinnetError

USUAL_MODE = 0o666
WRITABLE = 0o222
PART = ".part"
LEFT_S = 600
"""What was written first and is as old as this was left by a break."""


def read_file(path: Path, most_bytes: int, *, error: type[ZinnetError] = ZinnetError) -> bytes:
    """Return the bytes of a file.

    Nothing but a regular file is opened for reading, so that a pipe or a device never keeps anyone waiting. Raises
    ``error`` where there is none, where it can't be read, and where it has more bytes than are read.
    """
    try:
        descriptor = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_NOCTTY | os.O_CLOEXEC)
        with open(descriptor, "rb") as file:
            found = os.fstat(descriptor)
            if not stat.S_ISREG(found.st_mode):
                raise error(f"{path} can't be read: it is no file. Choose a file.")
            data = file.read(most_bytes + 1) if found.st_size <= most_bytes else b""
            if found.st_size > most_bytes or len(data) > most_bytes:
                raise error(f"{path} has {max(found.st_size, len(data)) / 1e6:.1f} MB; {_most(most_bytes)} are read.")
            return data
    except FileNotFoundError:
        raise error(f"There is no file {path}; check its name.") from None
    except (OSError, ValueError) as raised:
        why = raised.strerror if isinstance(raised, OSError) and raised.strerror else "it has no name of a file"
        raise error(f"{path} can't be read: {why}. Choose another file.") from None


def _most(most_bytes: int) -> str:
    return f"at most {most_bytes / 1e6:.0f} MB" if most_bytes >= 1_000_000 else f"at most {most_bytes / 1e3:.0f} kB"


def write_whole(path: Path, data: bytes, *, error: type[ZinnetError] = ZinnetError) -> Path:
    """Write a file beside its place and move it there, its folder made where it is missing; return the path.

    What is behind a link is written, the link stays. Mode and owner of a file that was there are kept; a new one has
    the mode that any program's would. File and folder are synced: a break at any moment leaves the old file or the new
    one. The file that is written first has a name by chance, so that nobody can lay a link in its way; what a break
    left of such files is taken away by and by.

    Raises ``error`` where that can't be done, and where the file is write-protected or is no regular file; what was
    there before is then as it was.
    """
    try:
        target = path.resolve() if path.is_symlink() else path
        target.parent.mkdir(parents=True, exist_ok=True)
        before = _before(target)
        if before is not None and not stat.S_ISREG(before.st_mode):
            raise error(f"{path} can't be written: something else than a file is there. Choose another name.")
        if before is not None and not before.st_mode & WRITABLE:
            raise error(f"{path} can't be written: it is write-protected. Choose another name.")
        with written_beside(target) as part:
            part.write_bytes(data)
        _sweep(target)
    except (OSError, RuntimeError) as raised:
        why = raised.strerror if isinstance(raised, OSError) and raised.strerror else "its link leads nowhere"
        raise error(f"{path} can't be written: {why}. Choose another folder.") from None
    return path


def _before(target: Path) -> os.stat_result | None:
    try:
        return target.stat()
    except FileNotFoundError:
        return None


@contextlib.contextmanager
def written_beside(target: Path) -> Iterator[Path]:
    """Give a file beside its place, to be written within the block; it is moved there at the end of it.

    It has a name by chance and can be read by nobody else until it is moved. Where the block raises, it is taken away
    and what was at the place stays.
    """
    descriptor, name = tempfile.mkstemp(dir=target.parent, prefix=_prefix(target), suffix=PART)
    os.close(descriptor)
    part = Path(name)
    try:
        yield part
        _take_over(part, _before(target))
        os.replace(part, target)
    except BaseException:
        with contextlib.suppress(OSError):
            part.unlink()
        raise
    _sync_folder(target.parent)


def _take_over(part: Path, before: os.stat_result | None) -> None:
    """Give a new file the mode and the owner of the one before it, and sync it."""
    descriptor = os.open(part, os.O_RDWR | os.O_NOFOLLOW)
    try:
        os.fchmod(descriptor, _usual_mode() if before is None else stat.S_IMODE(before.st_mode))
        if before is not None and before.st_uid != os.getuid():
            with contextlib.suppress(PermissionError):  # only the superuser gives files away
                os.fchown(descriptor, before.st_uid, before.st_gid)
        os.fsync(descriptor)
    finally:
        os.close(descriptor)


def _prefix(target: Path) -> str:
    return f".{target.name[:100]}."


def _sweep(target: Path) -> None:
    """Take away what breaks left of this file; what another program may be writing now is left alone."""
    oldest = time.time() - LEFT_S
    for one in target.parent.iterdir():
        if one.name.startswith(_prefix(target)) and one.name.endswith(PART) and not one.is_symlink():
            with contextlib.suppress(OSError):
                if one.stat().st_mtime < oldest:
                    one.unlink()


def _usual_mode() -> int:
    """Return the mode of a new file: what any program's would have, less what the user's mask takes away."""
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
