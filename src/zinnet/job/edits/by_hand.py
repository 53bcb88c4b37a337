"""Edits of a nest by hand: pieces are moved, held where they are, or let go; the rest is nested around them."""

from collections.abc import Sequence

from zinnet.base.frozen import with_fields
from zinnet.job.edits.edit import Edit
from zinnet.job.model import Job
from zinnet.nesting.model import NestSpec, Pin


def move_pieces(name: str, pins: Sequence[Pin], *, merge: str = "") -> Edit:
    """Put copies of pieces where the pins say; what was done to them by hand before is replaced."""
    fresh = {(pin.piece, pin.copy_number) for pin in pins}

    def change(spec: NestSpec) -> NestSpec:
        others = tuple(pin for pin in spec.moved if (pin.piece, pin.copy_number) not in fresh)
        return with_fields(spec, moved=(*others, *pins))

    return Edit(name, lambda job: with_fields(job, nesting=change(job.nesting)), merge)


def nest_again(held: Sequence[Pin] = ()) -> Edit:
    """Look for another nest, around the copies that are held where they are; what else was moved is free again."""

    def change(job: Job) -> Job:
        spec = with_fields(job.nesting, pins=tuple(held), moved=(), seed=job.nesting.seed + 1)
        return with_fields(job, nesting=spec)

    return Edit("nest again around what is held" if held else "nest again", change)


def held_copies(spec: NestSpec) -> set[tuple[str, int]]:
    """Return the copies (piece, number) that stay where they are when the rest is nested again."""
    held = {(pin.piece, pin.copy_number): True for pin in spec.pins}
    held |= {(pin.piece, pin.copy_number): pin.held for pin in spec.moved}
    return {key for key, stays in held.items() if stays}
