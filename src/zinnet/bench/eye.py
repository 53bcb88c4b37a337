"""What pictures are held against: the layers of a job as they are split, and where they belong on the garment."""

from zinnet.camera.found_sheet import PhotoError
from zinnet.geometry.region import Region
from zinnet.geometry.transform import moved
from zinnet.layers.stack import FilmLayer
from zinnet.plan.fitted import FittedDesign
from zinnet.plan.model import Facts


def layer_numbered(facts: Facts, number: int) -> FilmLayer:
    """Return a layer of the job's own size by its number, counted from 1 through all designs, the lowest first.

    Raises :class:`PhotoError` where there is none.
    """
    return _numbered(facts, number)[1]


def planned_on_panel(facts: Facts, number: int) -> tuple[Region, Region, str]:
    """Return the outline of the panel that a layer belongs on, the layer at its place there, and its film's colour.

    Raises :class:`PhotoError` where there is no such layer.
    """
    composed, row = _numbered(facts, number)
    assert composed.placement is not None
    assert row.film is not None
    return composed.panel.region, moved(row.layer.region, composed.placement.matrix), row.film.colour


def _numbered(facts: Facts, number: int) -> tuple[FittedDesign, FilmLayer]:
    rows = [
        (composed, row)
        for composed in facts.garments[0].compositions
        for row in composed.layers
        if row.film is not None and composed.placement is not None
    ]
    if not 1 <= number <= len(rows):
        raise PhotoError(f"There are {len(rows)} layers; {number} is none of them.")
    return rows[number - 1]
