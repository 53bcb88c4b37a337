"""ZIP files that anybody may have made: one entry is unpacked up to a limit, whatever the file says of its size."""

import zipfile
import zlib

from zinnet.base.errors import ZinnetError

KNOWN = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED)


def zip_entry(
    archive: zipfile.ZipFile, name: str, called: str, *, most_bytes: int, error: type[ZinnetError] = ZinnetError
) -> bytes:
    """Return the bytes of one entry. Raises ``error`` where it is missing, damaged, too large, or rarely packed."""
    try:
        if archive.getinfo(name).compress_type not in KNOWN:
            raise error(f"{called} is packed in a way that is not read; pack it as an ordinary ZIP.")
        with archive.open(name) as file:
            data = file.read(most_bytes + 1)
    except KeyError:
        raise error(f"{called} is damaged: it holds no {name}.") from None
    except (zlib.error, zipfile.BadZipFile, EOFError, NotImplementedError, RuntimeError, ValueError, OSError):
        raise error(f"{called} is damaged: its entry {name} can't be unpacked.") from None
    if len(data) > most_bytes:
        raise error(f"{called} holds an entry {name} of more than {most_bytes / 1e6:.0f} MB.")
    return data
