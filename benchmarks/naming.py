"""Five hundred names on bags 9.5 in wide: fitted, nested, and every piece accounted for."""

import random
import time

import shapely

from tests.names.bags import bags
from zinnet.bench.nesting import nest_document
from zinnet.nesting.verify import faults
from zinnet.plan.check_list import name_lines

COUNT = 500
SYLLABLES = (
    "al", "be", "bri", "da", "do", "el", "fen", "ga", "ha", "iv", "ja", "kes", "lar", "mer", "nor", "o", "pip", "ro",
    "sor", "ta", "um", "ve", "wil", "yar",
)  # fmt: skip
WITHIN_MM = 0.05


def run() -> None:
    """Fit and nest 500 random names, all of one size and each its own."""
    luck = random.Random(1)
    words = tuple("".join(luck.choices(SYLLABLES, k=luck.randint(1, 4))).capitalize() for _ in range(COUNT))
    for sizing in ("one size", "each its own"):
        began = time.perf_counter()
        document = bags(words, sizing=sizing)
        fitted = time.perf_counter() - began
        nest_document(document)
        nested = time.perf_counter() - began - fitted
        plan = document.plan
        inside = 0
        for one in plan.named:
            field = plan.garments[one.garment].designs[0].words
            art, panel = one.designs[0].art, one.designs[0].panel
            left, top, right, bottom = art.bounds
            fits = right - left <= field.width_mm + WITHIN_MM and bottom - top <= field.height_mm + WITHIN_MM
            inside += fits and shapely.covers(shapely.buffer(panel.usable, WITHIN_MM), art)
        wrong = sum(len(faults(nest.task, nest.layout)) for nest in plan.nests if nest.layout is not None)
        lines = name_lines(plan)
        whole = sum(
            bool(line.mats) and sum(count for _, count in line.pieces) == 1 and line.steps > 0 for line in lines
        )
        placed = sum(len(mat.layout.placed) for mat in plan.mats)
        print(
            f"{sizing}: fitted in {fitted:.1f} s, nested in {nested:.1f} s; {inside} of {COUNT} inside their field, "
            f"{placed} pieces on {len(plan.mats)} mats with {wrong} faults, {whole} garments accounted for"
        )
