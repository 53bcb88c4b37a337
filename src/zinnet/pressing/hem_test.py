"""Hem tests: small bars pressed on a hem at heats and times that bracket the recipe's, peeled, and washed."""

from collections.abc import Sequence

from pydantic import Field

from zinnet.base.frozen import Frozen
from zinnet.blanks.fabrics import Fabric
from zinnet.machines.platens import HeatSource
from zinnet.pressing.heat_values import Range, middle, press_numbers
from zinnet.pressing.recipes import Peel, Recipe

SCHOOL = "hem test"
SAME_C = 0.5
"""Heats that differ by no more are one: a thermostat knows no less."""


class HemBar(Frozen):
    """One bar: heat in degC and seconds, and whether it held, the cloth unhurt; after a wash too, if it was washed."""

    heat_c: float = Field(ge=40, le=300)
    seconds: float = Field(gt=0, le=600)
    held: bool | None = None
    washed: bool | None = None

    @property
    def is_good(self) -> bool:
        """Whether it held, and nothing that is known of a wash speaks against it."""
        return self.held is True and self.washed is not False


class HemTest(Frozen):
    """A strip of bars of a kind of film on a cloth, by a source of heat, and how it was peeled."""

    fabric: str = Field(min_length=1, max_length=100)
    kind: str = Field(min_length=1, max_length=100)
    heat_source: HeatSource
    bars: tuple[HemBar, ...] = Field(min_length=1, max_length=24)
    peel: Peel = "cool"
    note: str = Field(default="", max_length=500)
    at: str = ""

    @property
    def best(self) -> HemBar | None:
        """The gentlest bar that is good: the coolest, and of those the shortest."""
        good = [bar for bar in self.bars if bar.is_good]
        return min(good, key=lambda bar: (bar.heat_c, bar.seconds)) if good else None


def bars_to_try(
    heat_c: Range, seconds: Range, *, label_c: float | None = None, most_c: float | None = None
) -> tuple[HemBar, ...]:
    """Return the bars that bracket a recipe: its heats and the label's, at short, usual and long times.

    Parameters
    ----------
    heat_c : (low, high), degC
        From the lower end of the film's range to what its recipe wants.
    seconds : (low, high), s
        Of the recipe's full press.
    label_c : float, degC, or None
        What the care label says, tried too where it lies between.
    most_c : float, degC, or None
        What the cloth bears: nothing is tried above it.

    Returns
    -------
    bars
        Row by row, the coolest and shortest first.
    """
    numbers = press_numbers().hem
    low, high = heat_c
    if high - low < numbers.least_span_c:
        low, high = (low + high - numbers.least_span_c) / 2, (low + high + numbers.least_span_c) / 2
    if most_c is not None:
        low, high = min(low, most_c), min(high, most_c)
    heats = {round(low), round((low + high) / 2), round(high)}
    if label_c is not None and low < label_c < high:
        heats.add(round(label_c))
    usual = middle(seconds)
    times = {max(numbers.least_s, round(usual * share)) for share in numbers.time_shares}
    return tuple(HemBar(heat_c=heat, seconds=time) for heat in sorted(heats) for time in sorted(times))


def tested(tests: Sequence[HemTest], fabric: Fabric | None, kind: str, heat_source: HeatSource) -> HemTest | None:
    """Return the latest test of a kind of film on a fabric by a source of heat, None where there is none."""
    if fabric is None:
        return None
    about = (fabric.name, kind, heat_source)
    return next((one for one in reversed(tests) if (one.fabric, one.kind, one.heat_source) == about), None)


def allowed_c(tests: Sequence[HemTest], fabric: Fabric | None, kind: str, heat_source: HeatSource) -> float | None:
    """Return the highest heat in degC that a hem test found good, None where none did."""
    test = tested(tests, fabric, kind, heat_source)
    good = [bar.heat_c for bar in test.bars if bar.is_good] if test is not None else []
    return max(good, default=None)


def recipe_of(test: HemTest) -> Recipe | None:
    """Return what a test found out as a recipe of one's own, None where no bar is good."""
    best = test.best
    if best is None:
        return None
    return Recipe(
        school=SCHOOL,
        heat_c=(best.heat_c, best.heat_c),
        seconds=(best.seconds, best.seconds),
        peel=(test.peel,),
        origin="mine",
        source=f"hem test on {test.fabric}, {test.at[:10]}" if test.at else f"hem test on {test.fabric}",
    )
