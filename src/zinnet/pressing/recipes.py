"""Recipes as values: heat, times, pressure and peel as ranges, where they come from, and the catalogue of habits."""

from collections.abc import Sequence
from functools import cache
from typing import Any, Literal

from pydantic import Field, model_validator

from zinnet.base.frozen import Frozen
from zinnet.base.units import Degrees, read_temperature, write_temperature
from zinnet.data import read_toml
from zinnet.machines.platens import HeatSource, heat_kinds
from zinnet.pressing.heat_values import Range

Peel = Literal["hot", "warm", "cool", "cold"]
Pressure = Literal["light", "medium", "firm"]
Origin = Literal["typical", "maker", "mine", "learned"]
PEELS: tuple[Peel, ...] = ("hot", "warm", "cool", "cold")
PRESSURES: tuple[Pressure, ...] = ("light", "medium", "firm")
ORIGINS_SAID: dict[Origin, str] = {
    "typical": "typical",
    "maker": "maker's sheet",
    "mine": "mine",
    "learned": "learned here",
}
MOST_S = 600.0
HABIT = "common practice, no source"


class Recipe(Frozen):
    """How a film is pressed. Heat in degC, times in s, each as a range.

    ``seconds`` is the full, last press; ``lower_s`` a full press under further layers; ``tack_s`` where layers are
    tacked; ``covered_s`` once more under a cover; ``back_s`` from the back. ``setting`` stands for heat where the
    source has only settings. By the sheet: only the sheet in the film's roll knows heat and time.
    """

    school: str = Field(min_length=1, max_length=80)
    heat_c: Range | None = None
    most_c: float | None = Field(default=None, ge=0, le=400)
    setting: Literal["middle"] | None = None
    seconds: Range | None = None
    seconds_said: str | None = None
    lower_s: Range | None = None
    tack_s: Range | None = None
    back_s: Range | None = None
    covered_s: Range | None = None
    wait_s: Range | None = None
    pressure: tuple[Pressure, ...] = ()
    pressure_said: str | None = None
    peel: tuple[Peel, ...] = ()
    moving: bool = False
    by_sheet: bool = False
    in_parts: bool = False
    last: bool = False
    origin: Origin = "typical"
    source: str = HABIT

    @model_validator(mode="after")
    def _sound(self) -> "Recipe":
        """Refuse ranges that run backwards or are no times or heats of a press."""
        if self.heat_c is not None and not 40 <= self.heat_c[0] <= self.heat_c[1] <= 300:
            raise ValueError("the heat lies between 40 and 300 degC, the lower one first")
        for name in ("seconds", "lower_s", "tack_s", "back_s", "covered_s", "wait_s"):
            span = getattr(self, name)
            if span is not None and not 0 < span[0] <= span[1] <= MOST_S:
                raise ValueError(f"{name.removesuffix('_s')} lies between 1 and {MOST_S:.0f} s, the lower one first")
        return self

    def in_words(self, degrees: Degrees = "C") -> str:
        """What it says, in one line."""
        parts = []
        if self.by_sheet:
            parts.append("heat and time by the sheet in the roll")
        if self.setting is not None:
            parts.append("middle setting")
        if self.heat_c is not None:
            low, high = (write_temperature(one, degrees=degrees) for one in self.heat_c)
            parts.append(low if low == high else f"{low} to {high}")
        for span, what in (
            (self.tack_s, "tack "),
            (self.seconds, ""),
            (self.covered_s, "then covered "),
            (self.back_s, "back "),
        ):
            if span is not None:
                said = self.seconds_said if span is self.seconds and self.seconds_said else _span_said(span)
                parts.append(f"{what}{said}")
        parts += ["moving"] if self.moving else []
        parts += ["in parts"] if self.in_parts else []
        parts += [f"{self.pressure_said or ' to '.join(_ends(self.pressure))} pressure"] if self.pressure else []
        parts += [f"after {_span_said(self.wait_s)}"] if self.wait_s is not None else []
        parts += [f"peel {' or '.join(self.peel)}"] if self.peel else []
        return ", ".join(parts)


def _ends(words: Sequence[str]) -> Sequence[str]:
    return words if len(words) == 1 else (words[0], words[-1])


def _span_said(span: Range) -> str:
    low, high = span
    return f"{low:g} s" if low == high else f"{low:g}-{high:g} s"


def source_said(source: HeatSource) -> str:
    """Return what a source of heat is called."""
    return heat_kinds()[source].name


class Habit(Frozen):
    """A row of the catalogue: which films, fabrics and source of heat it is about, and the recipe."""

    films: tuple[str, ...]
    fabrics: tuple[str, ...]
    with_: tuple[HeatSource, ...]
    beside: tuple[str, ...] = ()
    usual: bool = False
    recipe: Recipe


class KeptRecipe(Frozen):
    """A recipe from a maker's sheet or of one's own, for a film or a whole kind; fabric and source None: for all."""

    film: str
    fabric: str | None = None
    heat_source: HeatSource | None = None
    recipe: Recipe


class Pressed(Frozen):
    """What became of a film that was pressed: a line of the log of pressing. Heat in degC, times in s.

    ``lifted`` is how often it came up with its carrier and was pressed again, ``more_s`` for how long in all. ``made``
    is the number of the log's entry, ``washes`` what it survived since.
    """

    film: str
    kind: str = ""
    fabric: str
    heat_source: HeatSource
    school: str
    heat_c: float | None = None
    seconds: float | None = None
    worked: bool
    at: str = ""
    lifted: int = 0
    more_s: float = 0.0
    made: int = 0
    washes: int = 0


@cache
def habits() -> tuple[Habit, ...]:
    """Return the catalogue of habits."""
    return tuple(_habit(row) for row in read_toml("recipes")["recipe"])


def _habit(row: dict[str, Any]) -> Habit:
    about = {"films", "fabrics", "with", "beside", "usual", "heat", "most_heat"}
    said = {key: value for key, value in row.items() if key not in about}
    if "heat" in row:
        said["heat_c"] = (read_temperature(row["heat"]),) * 2
    if "most_heat" in row:
        said["most_c"] = read_temperature(row["most_heat"])
    return Habit(
        films=row["films"],
        fabrics=row["fabrics"],
        with_=(row["with"],) if isinstance(row["with"], str) else tuple(row["with"]),
        beside=row.get("beside", ()),
        usual=row.get("usual", False),
        recipe=Recipe.model_validate(said),
    )
