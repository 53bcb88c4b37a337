"""The steps of pressing as values: what is done, with which heat, what lies under it and what covers what."""

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from zinnet.machines.platens import HeatSetting
from zinnet.pressing.applied_recipe import PressKind
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.platen_positions import Coverage
from zinnet.pressing.position_words import turn_said
from zinnet.pressing.press_area import Spread
from zinnet.pressing.recipes import Peel, Pressure

StepKind = Literal[
    "gate", "ready", "label", "heat up", "dry fit", "lint", "clean", "preheat", "crease", "fix", "tape", "lay", "look",
    "cover", "press", "wait", "peel", "burnish", "turn over", "cool", "care",
]  # fmt: skip
Place = Literal["hands", "press", "cooling", "none"]
"""What a step occupies: hands, the press, a place to cool, or nothing that others wait for."""


FINAL = " (can't be taken back)"


@dataclass(frozen=True, eq=False)
class Heat:
    """One press: heat in degC and seconds (None: only the film's sheet knows), and what the platen has to cover.

    ``back`` presses from behind. ``setting`` is said where the source of heat has only settings.
    """

    kind: PressKind
    heat_c: float | None
    seconds: float | None
    pressure: Pressure | None
    spread: Spread
    moving: bool = False
    back: bool = False
    setting: HeatSetting | None = None

    @property
    def coverage(self) -> Coverage:
        """The platen's positions, worked out when somebody asks."""
        return self.spread.coverage

    @property
    def total_s(self) -> float:
        """How long the press is at it, at all positions together, with the time to move it and what lies under it."""
        count = max(1, len(self.coverage.positions))
        return (self.seconds or 0.0) * count + press_numbers().hands.move_s * (count - 1)


@dataclass(frozen=True, eq=False)
class PressStep:
    """One step. ``pieces`` are those that it is about, by key.

    In a press ``carried`` lie under their own carrier, ``bare`` without one, and ``cover`` is what lies over those;
    None where nothing does. ``base_s`` is how long the step takes for one object where nothing is heated.
    """

    kind: StepKind
    title: str
    words: tuple[str, ...]
    panel: str | None
    base_s: float
    place: Place
    pieces: tuple[str, ...] = ()
    heat: Heat | None = None
    carried: tuple[str, ...] = ()
    bare: tuple[str, ...] = ()
    cover: str | None = None
    reused: bool = False
    """Whether the cover is a carrier that is there anyway, not a sheet that wears."""
    peel: Peel | None = None
    wrong: str | None = None
    lifts: str | None = None
    caution: str | None = None
    once: bool = False
    """Whether it is done once for the whole job, not for every object."""
    gate: bool = False
    """Whether it can't be taken back: it is asked for, and confirmed."""
    hours: float = 0.0
    """How long it takes the day before, in hours; 0 where it is done on the day."""
    pace: float = 1.0
    """How many times as long as usual hands are at it here; of a press, at loading and unloading it."""

    @property
    def seconds(self) -> float:
        """How long it takes for one object, in s; waits are in it."""
        return self.base_s * self.pace if self.heat is None else self.heat.total_s

    @cached_property
    def lines(self) -> tuple[str, ...]:
        """What to do, in sentences: of a press first its heat, then its positions."""
        if self.heat is None:
            return self.words
        return (self.words[0], *_positions_said(self.heat.coverage), *self.words[1:])

    @property
    def headline(self) -> str:
        """Its title, with what is to be known of it at once: that it is for the day before, that it is final."""
        before = f"The day before, about {self.hours:g} h: " if self.hours else ""
        title = self.title if not before else self.title[0].lower() + self.title[1:]
        return f"{before}{title}{FINAL if self.gate else ''}"

    @property
    def confirmed_as(self) -> str:
        """By what it is told among the moments that were confirmed."""
        return f"gate {self.title}"

    @property
    def is_bare(self) -> bool:
        """Whether a platen would touch film that nothing covers."""
        return self.heat is not None and bool(self.bare) and self.cover is None


def _positions_said(coverage: Coverage) -> list[str]:
    count = len(coverage.positions)
    said = [f"In {count} positions that overlap a little; hold the first part still."] if count > 1 else []
    turned = dict.fromkeys(turn_said(position).removeprefix(", ") for position in coverage.positions)
    if count and len(turned) == 1 and any(turned):
        said.append(f"The platen {next(iter(turned)).removeprefix('the platen ')}: so it holds more.")
    pads = dict.fromkeys(pad for position in coverage.positions for pad in position.pads)
    if pads:
        said.append(f"Fill up {' and '.join(pads)} from behind with a pillow or folded cloth.")
    return said
