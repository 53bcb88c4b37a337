"""Designs that are drawn anew at every width: how wide, or of how many rows, they must be for their films to hold them.

What of them is set in mm does not grow with them, so that nothing but drawing them again tells.
"""

import math
from collections.abc import Callable

from zinnet.artwork.source import WordThroughArt
from zinnet.base.errors import ArtworkError
from zinnet.data.limits import limits
from zinnet.job.model import Design
from zinnet.layers.detail import details
from zinnet.plan.fitted import FittedDesign, Garment, at_width, fit_at
from zinnet.plan.fitting import Fitting

STEP_MM = 0.5


def places_not_held(design: FittedDesign) -> int:
    """Return how many places of a design its films can't hold: too thin, too near one another, or too small."""
    return sum(len(details(row)) for row in design.layers)


def width_that_holds(
    fitting: Fitting, garment: Garment, design: FittedDesign, *, may_be: Callable[[float], bool] = lambda _: True
) -> float | None:
    """Return the least of some greater widths at which the films of a design hold all of it.

    Parameters
    ----------
    fitting : Fitting
        Of the job.
    garment : Garment
        The size that the design is on.
    design : FittedDesign
        As it is.
    may_be : function of a width in mm
        Whether the design may be so wide.

    Returns
    -------
    float or None, mm
        None where no width holds that may be.
    """
    for times in map(float, limits()["mends"]["drawn_times"]):
        width = math.ceil(design.word_width_mm * times / STEP_MM) * STEP_MM
        if not may_be(width):
            return None
        if _holds(fitting, garment, design, fitting.designs[design.index], width):
            return width
    return None


def rows_that_hold(fitting: Fitting, garment: Garment, design: FittedDesign) -> int | None:
    """Return how many rows of a word its films hold at the width that it has, the most that are less than it has now.

    None where no less do, or where it is no word through a shape.
    """
    drawn = fitting.designs[design.index]
    if not isinstance(drawn.source, WordThroughArt):
        return None
    for rows in range(drawn.source.word.rows - 1, 0, -1):
        word = drawn.source.word.model_copy(update={"rows": rows})
        fewer = drawn.model_copy(update={"source": drawn.source.model_copy(update={"word": word})})
        if _holds(fitting, garment, design, fewer, design.word_width_mm):
            return rows
    return None


def _holds(fitting: Fitting, garment: Garment, design: FittedDesign, drawn: Design, width_mm: float) -> bool:
    try:
        other = fit_at(fitting, design.index, drawn, at_width(design.spec, width_mm), garment.blank)
    except ArtworkError:
        return False
    return places_not_held(other) == 0
