"""Platens: the sources of heat with their sizes, the user's own among them, and how large artwork may be under one."""

from collections.abc import Mapping
from functools import cache
from pathlib import Path
from typing import Any, Literal

import platformdirs
from pydantic import Field, ValidationError, model_validator

from zinnet.base.errors import SettingsError, ZinnetError
from zinnet.base.frozen import Frozen
from zinnet.base.own_toml import read_own_toml
from zinnet.data import read_toml

HeatSource = Literal["press", "plate", "hand", "cap", "iron", "round"]
HeatSetting = Literal["low", "middle", "high"]
Range = tuple[float, float]
Millimetres = Field(ge=20, le=2000)
LEAST_C, MOST_C = 40.0, 300.0
MOST_PRESSES = 100


def usual_margin_mm() -> float:
    """Return how far in from its edge a platen heats and presses evenly (mm), where it does not say."""
    return float(read_toml("platens")["usual"]["margin_mm"])


class HeatKind(Frozen):
    """A kind of source of heat: the range of its thermostat in degC, or the heat of each of its settings.

    One without a timer is timed by hand; one that is ``moving`` is kept moving while it presses.
    """

    name: str
    heat_c: Range | None = None
    settings_c: dict[HeatSetting, Range] = {}
    timer: bool = False
    moving: bool = False
    source: str

    def __hash__(self) -> int:
        return hash(self.name)


class Platen(Frozen):
    """A press, plate or iron: lengths in mm, heat in degC where it is not what its kind has.

    ``margin_mm`` is how far in from its edge it heats and presses evenly.
    """

    name: str = Field(min_length=1, max_length=80)
    heat_source: HeatSource
    width_mm: float = Millimetres
    height_mm: float = Millimetres
    margin_mm: float = Field(default_factory=usual_margin_mm, ge=0, le=50)
    heat_c: Range | None = None
    own: bool = False
    source: str = "common practice, no source"

    @model_validator(mode="after")
    def _sound(self) -> "Platen":
        """Refuse margins that leave nothing, and heats that no press has."""
        if min(self.width_mm, self.height_mm) <= 2 * self.margin_mm:
            raise ValueError("the margins leave nothing of the plate; make them smaller")
        if self.heat_c is not None and not LEAST_C <= self.heat_c[0] < self.heat_c[1] <= MOST_C:
            raise ValueError(f"its heat lies between {LEAST_C:.0f} and {MOST_C:.0f} degC, the lower end first")
        return self

    @property
    def kind(self) -> HeatKind:
        """What kind of source of heat it is."""
        return heat_kinds()[self.heat_source]

    @property
    def range_c(self) -> Range | None:
        """The range of its thermostat in degC; None where it has only settings."""
        return self.heat_c or self.kind.heat_c

    def setting_for(self, heat_c: float) -> HeatSetting | None:
        """Return the setting whose heat is nearest to one in degC; None where it has a thermostat."""
        if self.range_c is not None:
            return None
        settings = self.kind.settings_c
        off = {name: abs((low + high) / 2 - heat_c) for name, (low, high) in settings.items()}
        return min(off, key=lambda name: off[name], default=None)

    @property
    def inner(self) -> tuple[float, float]:
        """Its width and height in mm inside its margins."""
        return self.width_mm - 2 * self.margin_mm, self.height_mm - 2 * self.margin_mm


class Presses(Frozen):
    """Every platen by its id: those that ship with Zinnet, and the user's own, which are taken first."""

    platens: tuple[tuple[str, Platen], ...]

    @property
    def own(self) -> tuple[tuple[str, Platen], ...]:
        """The user's own."""
        return tuple((name, one) for name, one in self.platens if one.own)

    def platen(self, name: str) -> Platen:
        """Return one by its id. Raises :class:`ZinnetError` where there is none."""
        known = dict(self.platens)
        if name not in known:
            raise ZinnetError(f"There is no press “{name}”; known are: {', '.join(known)}.")
        return known[name]

    def name_of(self, platen: Platen | None) -> str | None:
        """Return the id of a platen."""
        return next((name for name, one in self.platens if one == platen), None)


@cache
def heat_kinds() -> dict[HeatSource, HeatKind]:
    """Return the kinds of sources of heat."""
    return {name: HeatKind.model_validate(row) for name, row in read_toml("platens")["kinds"].items()}


@cache
def platens() -> dict[str, Platen]:
    """Return the platens that ship with Zinnet."""
    return {name: Platen.model_validate(row) for name, row in read_toml("platens")["platens"].items()}


@cache
def shipped_presses() -> Presses:
    """Return what ships with Zinnet."""
    return Presses(platens=tuple(platens().items()))


def presses_file() -> Path:
    """Return where the user's own presses lie."""
    return platformdirs.user_config_path("zinnet") / "presses.toml"


def read_presses(path: Path | None = None) -> Presses:
    """Return what ships with Zinnet and the user's own, which are the first.

    Raises :class:`SettingsError` where the user's file can't be made sense of.
    """
    path = path or presses_file()
    if not path.exists():
        return shipped_presses()
    own = own_platens(read_own_toml(path), str(path))
    return Presses(platens=(*own.items(), *((name, one) for name, one in platens().items() if name not in own)))


def own_platens(data: Mapping[str, Any], called: str) -> dict[str, Platen]:
    """Return the presses of a file of the user's. Raises :class:`SettingsError` where they make no sense."""
    table = data.get("platens", {})
    if not isinstance(table, dict) or not all(isinstance(row, dict) for row in table.values()):
        raise SettingsError(f"{called}: “platens” is not a table of tables, such as [platens.my-plate].")
    if len(table) > MOST_PRESSES:
        raise SettingsError(f"{called}: more than {MOST_PRESSES} presses.")
    found = {}
    for name, row in table.items():
        try:
            found[name] = Platen.model_validate({"source": "as the user says", **row, "own": True})
        except ValidationError as error:
            first = error.errors()[0]
            where = " ".join(map(str, first["loc"]))
            raise SettingsError(f"{called}: {name}: {where}: {first['msg']}; mend it there.") from None
    return found


def platen(name: str) -> Platen:
    """Return one of the platens that ship with Zinnet."""
    return shipped_presses().platen(name)


def widest_under(one: Platen, aspect: float) -> float:
    """Return the largest width in mm at which artwork of ``aspect`` = height / width is pressed at once."""
    wide, high = one.inner
    return max(min(wide, high / aspect), min(high, wide / aspect))
