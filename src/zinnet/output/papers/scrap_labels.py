"""Labels for film on the shelf: the number that it is found by, what it is, and how it looks."""

from collections.abc import Callable, Sequence
from typing import Any

import shapely

from zinnet.base.units import Unit, write_area, write_length
from zinnet.films.catalogue import kind_of
from zinnet.output.papers.labels import USUAL_SHEET, Label, labels_pdf
from zinnet.output.papers.paper import INK, QUIET, region_path
from zinnet.workshop.model import Workshop
from zinnet.workshop.stock import StockItem


def scrap_labels_pdf(
    items: Sequence[StockItem], workshop: Workshop, sheet: str = USUAL_SHEET, *, skip: int = 0, unit: Unit = "mm"
) -> bytes:
    """Return a label for each item; raises :class:`ZinnetError` where there is none."""
    labels = [scrap_label(item, workshop, unit) for item in items]
    return labels_pdf("Film on the shelf", labels, sheet, skip=skip)


def scrap_label(item: StockItem, workshop: Workshop, unit: Unit) -> Label:
    """Return the label of one item."""
    film = workshop.film(item.film)
    name = film.name if film is not None else item.film
    size = f"{write_length(item.width_mm, unit=unit, with_unit=False)} x {write_length(item.length_mm, unit=unit)}"
    count = f", {item.count} of them" if item.count > 1 else ""
    way = "across" if item.turned else "along"
    has_way = film is not None and kind_of(film).direction
    lines = (
        f"{item.kind.capitalize()}, {size}{count}",
        f"{write_area(item.area_mm2, unit=unit)}{f'; its direction runs {way}' if has_way else ''}",
        *(text for text in (item.place, item.note) if text),
    )
    return Label(f"{item.number}  {name}", lines, _picture(item))


def _picture(item: StockItem) -> Callable[[Any, float, float], None]:
    """Return how the item's outline is drawn, its damaged spots struck out."""
    whole = item.outline if item.outline is not None else shapely.box(0, 0, item.length_mm, item.width_mm)

    def draw(canvas: Any, width: float, height: float) -> None:
        scale = min(width / item.length_mm, height / item.width_mm)
        for region, colour, fill in ((whole, INK, 0), (item.spoiled, QUIET, 1)):
            if region is None:
                continue
            path = region_path(canvas, region, lambda x, y: (x * scale, height - y * scale))
            canvas.setLineWidth(0.6)
            canvas.setStrokeColorRGB(*colour)
            canvas.setFillColorRGB(*colour)
            canvas.drawPath(path, stroke=1, fill=fill, fillMode=0)

    return draw
