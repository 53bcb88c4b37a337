"""Prints: each piece on its page with its colours."""

from collections.abc import Iterator
from dataclasses import replace

from zinnet.geometry.region import Region, common
from zinnet.geometry.transform import moved, shift
from zinnet.layers.inks import Ink
from zinnet.plan.loading import LoadedMat
from zinnet.plan.model import Facts


def printed_pieces(facts: Facts, load: LoadedMat) -> Iterator[tuple[Region, list[Ink]]]:
    """Yield each piece of a mat with its inks, the lowest first, where they lie on the mat."""
    for trim, mat in zip(load.trims, load.mats, strict=True):
        x, y = load.stuck_at(trim)
        for placed, region in zip(mat.layout.placed, mat.regions, strict=True):
            part = mat.nest.part(placed.piece)
            design = facts.composition_of(part)
            piece = moved(region, shift(x, y))
            inks = []
            for ink in design.shown(part.layer):
                there = ink.moved(shift(x, y) @ placed.matrix @ part.to_cut)
                inks.append(replace(there, region=common(there.region, piece)))
            yield piece, inks or [Ink(part.layer.layer.colour, piece)]
