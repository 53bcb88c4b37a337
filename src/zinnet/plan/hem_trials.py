"""The hem tests that a job asks for: each kind of film on its cloth, with the bars to press and what is known."""

from collections.abc import Sequence
from dataclasses import dataclass

from zinnet.plan.presses import GarmentPress
from zinnet.pressing.heat_limits import label_limit
from zinnet.pressing.hem_test import HemBar, HemTest, bars_to_try, tested
from zinnet.pressing.recipes import Peel, source_said
from zinnet.workshop.model import Workshop

HOW = (
    "Cut a strip of small bars, about 10 x 5 mm, of the very film, and weed it.",
    "Press each bar on a hem, from the coolest and shortest on; write its heat beside it.",
    "Peel as the film asks; pull at the edges when it is cold: does it hold? Is the cloth hurt: shine, a dent, another "
    "colour?",
    "Wash the hem as the label says, and look again.",
)


@dataclass(frozen=True)
class HemTrial:
    """One hem test that a job may need: what it is about, its bars, and the one that was kept before, if any."""

    film: str
    kind: str
    fabric: str
    heat_source: str
    said: str
    bars: tuple[HemBar, ...]
    peel: Peel
    kept: HemTest | None

    def filled(self, bars: Sequence[HemBar], peel: Peel | None = None, note: str = "") -> HemTest:
        """Return the test with what became of its bars."""
        return HemTest.model_validate(
            {
                "fabric": self.fabric,
                "kind": self.kind,
                "heat_source": self.heat_source,
                "bars": [bar.model_dump() for bar in bars],
                "peel": peel or self.peel,
                "note": note,
            }
        )


def hem_trials(press: GarmentPress, workshop: Workshop) -> tuple[HemTrial, ...]:
    """Return the hem tests of a garment's films, those of one kind together, in the order of pressing."""
    found: dict[str, HemTrial] = {}
    label = label_limit(press.garment.blank.care_dots)
    for work in press.works:
        for piece in work.pieces:
            setting, span = piece.setting, piece.kind.heat_c
            if work.bond != "heat" or work.fabric is None or setting is None or piece.film.kind in found:
                continue
            wanted = setting.wanted_c or (span[1] if span is not None else None)
            if wanted is None:
                continue
            low = min(span[0], wanted) if span is not None else wanted
            seconds = setting.recipe.seconds or (10.0, 30.0)
            found[piece.film.kind] = HemTrial(
                film=piece.film.name,
                kind=piece.film.kind,
                fabric=work.fabric.name,
                heat_source=work.heat_source,
                said=f"{piece.kind.name} film on {work.fabric.name}, with a {source_said(work.heat_source)}",
                bars=bars_to_try(
                    (low, wanted), seconds, label_c=None if label is None else label.most_c, most_c=work.fabric.most_c
                ),
                peel=setting.peel,
                kept=tested(workshop.hem_tests, work.fabric, piece.film.kind, work.heat_source),
            )
    return tuple(found.values())
