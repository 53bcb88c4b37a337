"""How much heat a blank bears: by the dots of its care label, and by its fabric."""

from typing import NamedTuple

from zinnet.blanks.fabrics import Fabric
from zinnet.pressing.heat_values import press_numbers


class Limit(NamedTuple):
    """A limit of heat in degC, and whose it is; a ``soft`` one may be passed: a care label is about ironing."""

    most_c: float
    whose: str
    soft: bool = False


def label_limit(dots: int | None) -> Limit | None:
    """Return the limit of a care label's dots by ISO 3758; None where the label was not read."""
    if not dots:
        return None
    said = f"{dots} dot{'s' * (dots > 1)} on the care label (ISO 3758)"
    return Limit(press_numbers().dots.most_c[dots - 1], said, soft=True)


def heat_limits(fabric: Fabric | None, dots: int | None) -> tuple[Limit, ...]:
    """Return all limits of a blank, the lowest first.

    Parameters
    ----------
    fabric : Fabric or None
        Where it is known.
    dots : int or None
        Of the iron on the care label; None where it was not read.

    Returns
    -------
    limits, degC
        The lowest first.
    """
    found = [label_limit(dots)]
    if fabric is not None and fabric.most_c is not None:
        found.append(Limit(fabric.most_c, f"what {fabric.name} bears (typical, unsourced)"))
    return tuple(sorted(limit for limit in found if limit is not None))
