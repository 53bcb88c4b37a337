"""Fabrics and other surfaces: which films hold on them, and what heat they bear."""

import re
from functools import cache

from pydantic import Field

from zinnet.base.frozen import Frozen
from zinnet.data import read_toml
from zinnet.films.catalogue import Bond

WORDS = re.compile(r"[a-z]+")


class Fabric(Frozen):
    """A surface of the catalogue: cloth, or something hard.

    ``holds`` says by what bond films hold on it, the usual one first. ``most_c`` is the heat in degC that it bears,
    None where it is not heated. One that is ``tender`` is hurt by heat so easily that it is tried on a hem first.
    """

    name: str
    holds: tuple[Bond, ...] = Field(default=("heat",), min_length=1)
    most_c: float | None = None
    usual_dots: int | None = Field(default=None, ge=1, le=3)
    cloth: bool = True
    tender: bool = False
    like: tuple[str, ...] = ()
    wash_first: str | None = None

    @property
    def is_heated(self) -> bool:
        """Whether anything hot may be laid on it."""
        return self.most_c is not None


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
