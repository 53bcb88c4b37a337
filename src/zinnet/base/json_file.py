"""JSON that anybody may have written: read up to a size and a number of values."""

import json
from typing import Any

from zinnet.base.errors import ZinnetError

MARKS = (b",", b"[", b"{", b":")


def read_json(data: bytes, called: str, *, most_values: int, error: type[ZinnetError] = ZinnetError) -> Any:
    """Return what JSON holds. Raises ``error`` where it is none, lies too deep, or holds more values than are read.

    The values are counted before any is made: each takes some fifty times the room in memory that its letters take.

    Examples
    --------
    >>> read_json(b'{"width_mm": 280}', "moth.json", most_values=10)
    {'width_mm': 280}
    """
    if sum(map(data.count, MARKS)) > most_values:
        raise error(f"{called} holds more than {most_values} values; what Zinnet writes holds far fewer.")
    try:
        return json.loads(data)
    except (ValueError, RecursionError):
        raise error(f"{called} is damaged: it is not JSON.") from None
