"""The price list in a TOML file of the configuration folder: what differs from the usual prices."""

from decimal import Decimal
from pathlib import Path

import platformdirs
from pydantic import ValidationError

from zinnet.base.errors import SettingsError
from zinnet.base.own_toml import read_own_toml
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
    if not path.exists():
        return usual
    said = read_own_toml(path, parse_float=Decimal)
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
