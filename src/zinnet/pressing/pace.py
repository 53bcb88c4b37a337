"""One's own pace: how long each kind of work by hand really takes at the bench, learned from earlier runs."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from zinnet.base.stages import stage
from zinnet.pressing.hand_time import HandTime
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.steps import PressStep

ROUNDS = 30
"""So often what a card took is shared out anew among its kinds of work."""
HANDLING = "press"
"""The kind of work that loads and unloads the press, for whatever press."""


@dataclass(frozen=True)
class Pace:
    """How many times as long as usual a kind of work takes here.

    ``times`` is the median over so many ``cards``; half of them lie from ``low`` to ``high``.
    """

    kind: str
    usual_s: float
    times: float
    low: float
    high: float
    cards: int

    @property
    def seconds(self) -> float:
        """How long it takes here, in s."""
        return self.usual_s * self.times


def usual_hands(steps: Iterable[tuple[PressStep, float]]) -> dict[str, float]:
    """Return how long hands are at some steps as a rule, by kind of work, in s.

    Each step comes with the share of it that is done: a step that lays several pieces is done piece by piece.
    """
    hands = press_numbers().hands
    found: dict[str, float] = {}
    for step, share in steps:
        if step.heat is not None:
            found[HANDLING] = found.get(HANDLING, 0.0) + (hands.load_s + hands.cover_s) * share
        elif step.place == "hands" and step.base_s:
            found[step.kind] = found.get(step.kind, 0.0) + step.base_s * share
    return found


@stage(most=4)
def paces_of(log: tuple[HandTime, ...]) -> tuple[Pace, ...]:
    """Return one's own pace for each kind of work that the log knows well enough, the most known first.

    What a card took is shared out among its kinds of work by what each takes by all cards, again and again until that
    stays; the median over the cards is taken, each with the weight of its share.
    """
    numbers = press_numbers().pace
    rows = [one for one in log[-numbers.most_cards :] if one.usual_s and one.real_s > 0]
    kinds = sorted({kind for one in rows for kind, _ in one.usual_s})
    counts = {kind: sum(any(kind == name for name, _ in one.usual_s) for one in rows) for kind in kinds}
    kinds = [kind for kind in kinds if counts[kind] >= numbers.least_cards]
    if not kinds:
        return ()
    usual = np.array([[dict(one.usual_s).get(kind, 0.0) for kind in kinds] for one in rows])
    other = np.array([sum(s for kind, s in one.usual_s if kind not in kinds) for one in rows])
    real = np.array([one.real_s for one in rows])
    times = np.ones(len(kinds))
    for _ in range(ROUNDS):
        samples, shares = _shared_out(usual, other, real, times)
        times = np.array([_quantile(samples[:, k], shares[:, k], 0.5) for k in range(len(kinds))])
    samples, shares = _shared_out(usual, other, real, times)
    found = [
        Pace(
            kind,
            usual_s=float(np.median(usual[:, k][usual[:, k] > 0])),
            times=float(times[k]),
            low=_quantile(samples[:, k], shares[:, k], 0.25),
            high=_quantile(samples[:, k], shares[:, k], 0.75),
            cards=counts[kind],
        )
        for k, kind in enumerate(kinds)
    ]
    return tuple(sorted(found, key=lambda pace: (-pace.cards, pace.kind)))


def _shared_out(
    usual: NDArray[np.float64], other: NDArray[np.float64], real: NDArray[np.float64], times: NDArray[np.float64]
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Return how many times as long as usual each card says a kind takes, and the weight with which it says so."""
    expected = usual * times
    whole = expected.sum(axis=1) + other
    shares = np.divide(expected, whole[:, None], out=np.zeros_like(expected), where=whole[:, None] > 0)
    return times[None, :] * np.divide(real, whole, out=np.ones_like(real), where=whole > 0)[:, None], shares


def _quantile(samples: NDArray[np.float64], weights: NDArray[np.float64], at: float) -> float:
    """Return the quantile of samples with weights."""
    order = np.argsort(samples)
    heaped = np.cumsum(weights[order])
    return float(samples[order][min(int(np.searchsorted(heaped, at * heaped[-1])), len(samples) - 1)])


def at_pace(steps: Sequence[PressStep], paces: Sequence[Pace]) -> tuple[PressStep, ...]:
    """Return steps as long as they take at one's own pace; what no pace is known of takes as long as usual."""
    times = {pace.kind: pace.times for pace in paces}
    if not times:
        return tuple(steps)
    return tuple(_paced(step, times) for step in steps)


def _paced(step: PressStep, times: Mapping[str, float]) -> PressStep:
    kind = HANDLING if step.heat is not None else step.kind if step.place == "hands" else ""
    return replace(step, pace=times[kind]) if kind in times else step


WORK = {
    HANDLING: "load, unload",
    "ready": "lay ready",
    "crease": "find the place",
    "fix": "fix a print",
}
"""What kinds of work are called, where that is not plain."""


def pace_cells(pace: Pace) -> tuple[str, str, str, str, str]:
    """Return a pace in words: what is done, how long as a rule, how long here, the span of half the cards, how many."""
    low, high = pace.low * pace.usual_s, pace.high * pace.usual_s
    name = WORK.get(pace.kind, pace.kind)
    return name, f"{pace.usual_s:.0f} s", f"{pace.seconds:.0f} s", f"{low:.0f}-{high:.0f} s", str(pace.cards)
