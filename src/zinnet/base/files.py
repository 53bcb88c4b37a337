"""Writing files whole or not at all."""

import os
from pathlib import Path

from zinnet.base.errors import ZinnetError


def write_whole(path: Path, data: bytes, *, error: type[ZinnetError] = ZinnetError) -> Path:
    """Write a file beside its place and move it there, its folder made where it is missing; return the path.

    Raises ``error`` where that can't be done; a file that was there before is then as it was.
    """
    part = path.with_name(f".{path.name}.part")
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        part.write_bytes(data)
        os.replace(part, path)
    except OSError as raised:
        raise error(f"{path} can't be written: {raised.strerror}. Choose another folder.") from None
    return path
