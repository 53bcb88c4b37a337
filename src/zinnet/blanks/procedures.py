"""Procedures: how each kind of object is worked on, what holds it, and what of it can't be taken back."""

from collections.abc import Mapping
from functools import cache
from typing import Any, Literal

from pydantic import Field

from zinnet.base.errors import BlankError
from zinnet.base.frozen import Frozen
from zinnet.data import read_toml
from zinnet.films.catalogue import Bond
from zinnet.machines.platens import HeatSource

Moment = Literal["day before", "first", "ready", "pressed", "after"]
MOMENTS: tuple[Moment, ...] = ("day before", "first", "ready", "pressed", "after")


class ProcedureStep(Frozen):
    """Something that is done to an object: when, in which words, how long (s, or hours the day before).

    A ``gate`` can't be taken back; ``wrong`` says why. ``with_`` is the bond that it belongs to, None for all. One
    that is ``repeated`` is done only where a motif is repeated, one ``once`` for all objects of the job together.
    """

    when: Moment
    title: str
    words: tuple[str, ...]
    seconds: float = Field(default=0.0, ge=0)
    hours: float = Field(default=0.0, ge=0)
    gate: bool = False
    with_: Bond | None = Field(default=None, alias="with")
    wrong: str | None = None
    caution: str | None = None
    once: bool = False
    repeated: bool = False


class Procedure(Frozen):
    """How one kind of object is worked on. ``sources`` are the sources of heat that reach it, the usual one first.

    ``holds`` says by what bond films hold on it where its cloth is not known; ``recess``: the plate has to go into it;
    ``turned``: it is turned over and pressed from the back; ``collar``: its places hang on a collar.
    """

    id: str
    noun: str
    sources: tuple[HeatSource, ...]
    holds: tuple[Bond, ...] = ("heat",)
    recess: bool = False
    flat: bool = True
    turned: bool = False
    collar: bool = False
    centre: tuple[str, ...]
    aside: tuple[str, ...]
    hold: tuple[str, ...] = ()
    clear: tuple[str, ...] = ()
    care: tuple[str, ...]
    sizes: tuple[tuple[str, str], ...] = ()
    steps: tuple[ProcedureStep, ...] = ()

    def at(self, *moments: Moment, bond: Bond) -> tuple[ProcedureStep, ...]:
        """Return the steps of some moments that belong to a bond."""
        return tuple(step for step in self.steps if step.when in moments and step.with_ in (None, bond))


@cache
def procedures() -> dict[str, Procedure]:
    """Return every procedure by its id."""
    rows = read_toml("procedures")
    return {name: Procedure.model_validate(_merged(rows, name)) for name in rows}


def _merged(rows: Mapping[str, Mapping[str, Any]], name: str) -> dict[str, Any]:
    """Return a row with what it takes over from the one that it is like, but for its sizes."""
    row = dict(rows[name])
    like = row.pop("like", None)
    base = {} if like is None else {k: v for k, v in _merged(rows, like).items() if k not in ("sizes", "id")}
    sizes = tuple(row.pop("sizes", {}).items())
    return {**base, **row, "id": name, "sizes": sizes}


def procedure_of(name: str, size_class: str) -> Procedure:
    """Return how a kind of object is worked on in a class of sizes. Raises :class:`BlankError` for an unknown one."""
    known = procedures()
    if name not in known:
        raise BlankError(f"There is no procedure “{name}”; known are: {', '.join(known)}.")
    return known[dict(known[name].sizes).get(size_class, name)]
