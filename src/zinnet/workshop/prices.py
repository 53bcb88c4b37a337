"""The price list in a TOML file of the configuration folder: what differs from the usual prices."""

import tomllib
from decimal import Decimal
from pathlib import Path
from typing import Any

import platformdirs
from pydantic import ValidationError

from zinnet.base.errors import SettingsError
from zinnet.workshop.price_list import PriceList, usual_prices

MOST_BYTES = 200_000


def prices_file() -> Path:
    """Return where the price list lies."""
    return platformdirs.user_config_path("zinnet") / "prices.toml"


def read_prices(path: Path | None = None) -> PriceList:
    """Return the usual prices with what the file says instead.

    Raises :class:`SettingsError` where the file can't be made sense of.
    """
    path = path or prices_file()
    usual = usual_prices()
    try:
        if path.stat().st_size > MOST_BYTES:
            raise SettingsError(f"{path} has more than {MOST_BYTES // 1000} kB; a price list is far smaller.")
        said: dict[str, Any] = tomllib.loads(path.read_text(encoding="utf-8"), parse_float=Decimal)
    except FileNotFoundError:
        return usual
    except (OSError, UnicodeDecodeError, tomllib.TOMLDecodeError) as error:
        raise SettingsError(f"{path} can't be read ({error}); mend it, or move it away.") from None
    data = usual.model_dump() | {"source": f"from {path.name}"} | said
    for table in ("time", "blanks"):
        if isinstance(said.get(table), dict):
            data[table] = usual.model_dump()[table] | said[table]
    try:
        return PriceList.model_validate(data)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(map(str, first["loc"])) or "it"
        raise SettingsError(f"{path}: {where}: {first['msg'].lower()}; mend it there.") from None
