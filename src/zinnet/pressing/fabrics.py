"""Fabrics: how much heat they bear by habit, and by the dots of the care label."""

import re
from functools import cache
from typing import NamedTuple

from pydantic import Field

from zinnet.base.frozen import Frozen
from zinnet.data import read_toml
from zinnet.pressing.heat_values import press_numbers

WORDS = re.compile(r"[a-z]+")


class Fabric(Frozen):
    """A fabric of the catalogue. ``most_c`` is the heat in degC that it bears, None where film is not pressed on it."""

    name: str
    most_c: float | None = None
    usual_dots: int | None = Field(default=None, ge=1, le=3)
    cloth: bool = True
    like: tuple[str, ...] = ()
    wash_first: str | None = None


class Limit(NamedTuple):
    """A limit of heat in degC, and whose it is."""

    most_c: float
    whose: str


@cache
def fabrics() -> dict[str, Fabric]:
    """Return the catalogue of fabrics."""
    return {name: Fabric.model_validate({"name": name, **row}) for name, row in read_toml("fabrics").items()}


def fabric_of(text: str) -> Fabric | None:
    """Return the fabric that a label's words mean, the one that most of its words name; None where none does.

    >>> fabric_of("50 % cotton, 50 % polyester").name
    'cotton-polyester'
    """
    said = set(WORDS.findall(text.lower()))
    named = {name: set(WORDS.findall(name)) for name in fabrics()}
    fitting = [name for name, words in named.items() if words <= said]
    return fabrics()[max(fitting, key=lambda name: len(named[name]))] if fitting else None


def label_limit(dots: int | None) -> Limit | None:
    """Return the limit of a care label's dots by ISO 3758; None where the label was not read."""
    if not dots:
        return None
    said = f"{dots} dot{'s' * (dots > 1)} on the care label (ISO 3758)"
    return Limit(press_numbers().dots.most_c[dots - 1], said)


def heat_limits(fabric: Fabric | None, dots: int | None) -> tuple[Limit, ...]:
    """Return all limits of a garment, the lowest first.

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
        found.append(Limit(fabric.most_c, f"what {fabric.name} bears (typical, from memory)"))
    return tuple(sorted(limit for limit in found if limit is not None))
