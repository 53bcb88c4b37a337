"""Prints: each piece on its page with its colours."""

from collections.abc import Iterator

from zinnet.geometry.region import Region, common
from zinnet.geometry.transform import moved, shift
from zinnet.plan.loading import LoadedMat
from zinnet.plan.model import Facts


def printed_pieces(facts: Facts, load: LoadedMat) -> Iterator[tuple[Region, list[tuple[str, Region]]]]:
    """Yield each piece of a mat with its colours, the lowest first, where they lie on the mat."""
    for trim, mat in zip(load.trims, load.mats, strict=True):
        x, y = load.stuck_at(trim)
        for placed, region in zip(mat.layout.placed, mat.regions, strict=True):
            part = mat.nest.part(placed.piece)
            design = facts.composition_of(part)
            piece = moved(region, shift(x, y))
            rows = design.split.layers if design.split is not None else ()
            colours = []
            for row in rows:
                if row.colour in part.layer.colours:
                    there = moved(row.region, shift(x, y) @ placed.matrix @ part.to_cut)
                    colours.append((row.colour, common(there, piece)))
            yield piece, colours or [(part.layer.layer.colour, piece)]
