"""Small detail of a layer: strokes thinner and gaps narrower than its film holds, found on the true geometry."""

import math
from collections.abc import Callable
from functools import lru_cache

from zinnet.geometry.region import Region, as_region
from zinnet.geometry.thickness import narrow_gaps, thin_parts
from zinnet.geometry.transform import moved, scale
from zinnet.layers.split import Split

STEP = 1.04
"""Limits are looked at in steps of 4 %, the next lower one, so that a change of size seldom asks for it anew."""
FLAT_SHARE = 50
"""What is flatter than this part of the limit does not matter to a thickness."""


def thin_strokes(split: Split, order: int, limit_mm: float) -> Region:
    """Return where a layer is thinner than a limit, in artwork mm."""
    return _found(thin_parts, split, order, limit_mm)


def tight_gaps(split: Split, order: int, limit_mm: float) -> Region:
    """Return the gaps and counters of a layer that are narrower than a limit, in artwork mm."""
    return _found(narrow_gaps, split, order, limit_mm)


def _found(look: Callable[[Region, float], Region], split: Split, order: int, limit_mm: float) -> Region:
    larger = split.larger
    if larger is None or abs(split.stretch - 1) > 1e-3:
        return _in_layer(look, split, order, limit_mm)
    factor = larger.width_mm / split.width_mm
    limit = STEP ** math.floor(math.log(limit_mm * factor, STEP) + 1e-9)
    return moved(_in_layer(look, larger, order, limit), scale(1 / factor))


@lru_cache(maxsize=128)
def _in_layer(look: Callable[[Region, float], Region], split: Split, order: int, limit_mm: float) -> Region:
    region = next(layer.region for layer in split.layers if layer.order == order)
    simple = region.simplify(limit_mm / FLAT_SHARE)
    return look(as_region(simple if simple.is_valid else region), limit_mm)
