"""The steps of pressing as values: what is done, with which heat, what lies under it and what covers what."""

from dataclasses import dataclass, field
from typing import Literal

from zinnet.pressing.coverage import Coverage
from zinnet.pressing.recipes import Peel, Pressure
from zinnet.pressing.setting import PressKind

StepKind = Literal[
    "label", "heat up", "lint", "clean", "preheat", "crease", "fix", "tape", "lay", "look", "cover", "press", "wait",
    "peel", "burnish", "turn over", "cool", "care",
]  # fmt: skip
Place = Literal["hands", "press", "cooling", "none"]
"""What a step occupies: hands, the press, a place to cool, or nothing that others wait for."""


@dataclass(frozen=True, eq=False)
class Heat:
    """One press: heat in degC and seconds (None: only the film's sheet knows), and the platen's positions.

    ``back`` presses from behind. ``setting`` is said where the source of heat has only settings.
    """

    kind: PressKind
    heat_c: float | None
    seconds: float | None
    pressure: Pressure | None
    coverage: Coverage
    moving: bool = False
    back: bool = False
    setting: str | None = None

    @property
    def total_s(self) -> float:
        """How long the press is at it, at all positions together."""
        return (self.seconds or 0.0) * max(1, len(self.coverage.positions))


@dataclass(frozen=True, eq=False)
class PressStep:
    """One step. ``pieces`` are those that it is about, by key.

    In a press ``carried`` lie under their own carrier, ``bare`` without one, and ``cover`` is what lies over those;
    None where nothing does. ``seconds`` is how long the step takes for one garment; waits are in it.
    """

    kind: StepKind
    title: str
    lines: tuple[str, ...]
    panel: str | None
    seconds: float
    place: Place
    pieces: tuple[str, ...] = ()
    heat: Heat | None = None
    carried: tuple[str, ...] = ()
    bare: tuple[str, ...] = ()
    cover: str | None = None
    peel: Peel | None = None
    wrong: str | None = None
    lifts: str | None = None
    caution: str | None = None
    once: bool = field(default=False)
    """Whether it is done once for the whole job, not for every garment."""

    @property
    def is_bare(self) -> bool:
        """Whether a platen would touch film that nothing covers."""
        return self.heat is not None and bool(self.bare) and self.cover is None
