"""The user's own settings: TOML files that anybody may have written."""

import tomllib
from collections.abc import Callable
from pathlib import Path
from typing import Any

from zinnet.base.errors import SettingsError, ZinnetError
from zinnet.base.files import read_file

MOST_BYTES = 2_000_000


def read_own_toml(
    path: Path, *, error: type[ZinnetError] = SettingsError, parse_float: Callable[[str], Any] = float
) -> dict[str, Any]:
    """Return what a TOML file of the user's says. Raises ``error`` where it can't be read."""
    data = read_file(path, MOST_BYTES, error=error)
    try:
        return tomllib.loads(data.decode("utf-8"), parse_float=parse_float)
    except (ValueError, ArithmeticError, RecursionError) as raised:
        why = "tables lie too deep in it" if isinstance(raised, RecursionError) else str(raised)
        raise error(f"{path} can't be read ({why}); mend it, or move it away.") from None
