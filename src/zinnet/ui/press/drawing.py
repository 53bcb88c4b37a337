"""A garment as it lies while it is pressed: film with and without carrier, covers, the platen, and seconds of heat."""

from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QPainter, QPen, QPolygonF, QTransform

from zinnet.ui.drawing import draw_label, mark_on, pen
from zinnet.ui.films import film_brush, ink_brush
from zinnet.ui.garment import draw_keep_outs, draw_panel, fit_into
from zinnet.ui.region_paths import region_path
from zinnet.ui.theme import colour

if TYPE_CHECKING:
    from zinnet.geometry.region import Region
    from zinnet.plan.presses import GarmentPress
    from zinnet.pressing.heat_map import HeatSpot
    from zinnet.pressing.pieces import PanelWork
    from zinnet.pressing.platen_positions import Position
    from zinnet.pressing.steps import PressStep

Box = tuple[float, float, float, float]
SPREAD, MOST_TIMES = 1.15, 6
"""How much is shown about the platen, where the panel is so many times as large."""
HEAT = ("#ffe9a8", "#ffc45c", "#f59331", "#dd5f2a", "#b2321f", "#7c1d1d")


def lying_at(steps: Sequence["PressStep"], index: int, panel: str) -> tuple[list[str], list[str]]:
    """Return which pieces of a panel lie under their carriers, and which are bare, when a step is done."""
    carried: list[str] = []
    bare: list[str] = []
    for step in steps[: index + 1]:
        if step.panel != panel:
            continue
        if step.kind in ("lay", "fix"):
            carried += step.pieces
        elif step.kind in ("peel", "burnish"):
            carried = [key for key in carried if key not in step.pieces]
            bare += step.pieces
    return carried, bare


def work_at(press: "GarmentPress", step: "PressStep | None") -> "PanelWork | None":
    """Return the panel that a step is about, else the first that is pressed."""
    if step is not None and step.panel is not None:
        found = [work for work in press.works if work.panel.id == step.panel]
        keyed = [work for work in found if any(piece.key in step.pieces for piece in work.pieces)]
        return next(iter(keyed or found), None)
    return next(iter(press.works), None)


def shown_box(press: "GarmentPress", work: "PanelWork", *, close: bool = False) -> Box:
    """Return what of a panel is shown: all of it, or the film and the platen; also where the panel is much larger."""
    steps = [step for step in press.presses if step.panel == work.panel.id and step.heat is not None]
    positions = [one for step in steps if step.heat is not None for one in step.heat.coverage.positions]
    boxes = np.array([work.film.bounds, *(one.box.bounds for one in positions)])
    near = np.concatenate([boxes[:, :2].min(axis=0), boxes[:, 2:].max(axis=0)])
    half = SPREAD * float(max(near[2:] - near[:2])) / 2
    panel = np.array(work.panel.bounds)
    if not close and float(np.prod(panel[2:] - panel[:2])) < MOST_TIMES * (2 * half) ** 2:
        near = np.concatenate([np.minimum(near, panel)[:2], np.maximum(near, panel)[2:]])
        return tuple(near.tolist())
    x, y = ((near[:2] + near[2:]) / 2).tolist()
    return x - half, y - half, x + half, y + half


def draw_step(painter: QPainter, box: QRectF, press: "GarmentPress", index: int, *, numbered: bool = True) -> None:
    """Draw the garment as it lies at a step; what the step is about is lit up."""
    step = press.steps[index]
    work = work_at(press, step)
    if work is None:
        return
    positions = step.heat.coverage.positions if step.heat is not None else ()
    world = fit_into(box, shown_box(press, work, close=step.panel is not None))
    painter.save()
    painter.setClipRect(box)
    draw_panel(painter, world, press.garment.blank, work.panel)
    carried, bare = lying_at(press.steps, index - (step.kind in ("peel", "burnish")), work.panel.id)
    if step.kind == "preheat":
        carried = []
    draw_pieces(painter, world, work, carried, bare, set(step.pieces), cloth=press.garment.blank.colour)
    if step.cover is not None or step.kind == "cover":
        _draw_cover(painter, world, [piece.carrier for piece in work.pieces if piece.key in bare])
    if positions:
        draw_keep_outs(painter, world, press.garment.blank, work.panel)
        draw_positions(painter, world, positions, numbered=numbered)
    painter.restore()


def draw_pieces(
    painter: QPainter,
    world: QTransform,
    work: "PanelWork",
    carried: Sequence[str],
    bare: Sequence[str],
    lit: set[str],
    *,
    cloth: str,
) -> None:
    """Draw film where it lies, with its carrier where that is on."""
    for piece in work.pieces:
        if piece.key not in carried and piece.key not in bare:
            continue
        painter.setTransform(world, True)
        painter.setPen(pen("accent", 2.4) if piece.key in lit else Qt.PenStyle.NoPen)
        painter.setBrush(film_brush(piece.film))
        painter.drawPath(region_path(piece.region, painter))
        for ink in piece.inks:
            painter.setBrush(ink_brush(ink))
            painter.drawPath(region_path(ink.region))
        if piece.key in carried:
            edge = pen("ink", 1.4, dashed=True)
            edge.setColor(mark_on(cloth))
            painter.setPen(edge)
            painter.setBrush(QColor(255, 255, 255, 70))
            painter.drawPath(region_path(piece.carrier, painter))
        painter.resetTransform()


def _draw_cover(painter: QPainter, world: QTransform, regions: Sequence["Region"]) -> None:
    hatch = QBrush(QColor(255, 255, 255, 120), Qt.BrushStyle.Dense6Pattern)
    inverse, can = world.inverted()
    if can:
        hatch.setTransform(QTransform(inverse.m11(), 0, 0, inverse.m22(), 0, 0))
    painter.setTransform(world, True)
    painter.setPen(pen("chalk", 1.4))
    painter.setBrush(hatch)
    for region in regions:
        painter.drawPath(region_path(region))
    painter.resetTransform()


def draw_positions(
    painter: QPainter,
    world: QTransform,
    positions: Sequence["Position"],
    *,
    numbered: bool = True,
    lit: int | None = None,
) -> None:
    """Draw where the platen goes, numbered in the order of pressing."""
    for number, position in enumerate(positions, start=1):
        corners = QPolygonF([QPointF(x, y) for x, y in position.box.exterior.coords])
        on_screen = world.map(corners)
        painter.setPen(pen("accent", 3.4 if lit == number - 1 else 2.2))
        painter.setBrush(colour("accent", 34 if lit in (None, number - 1) else 12))
        painter.drawPolygon(on_screen)
        if numbered and len(positions) > 1:
            draw_label(painter, world.map(QPointF(position.x, position.y)), str(number))


def heat_colour(seconds: float, most: float) -> QColor:
    """Return the colour of so many seconds of heat: the more, the darker."""
    share = min(max(seconds / most, 0.0), 1.0) if most > 0 else 0.0
    return QColor(HEAT[min(int(share * len(HEAT)), len(HEAT) - 1)])


def draw_heat(painter: QPainter, world: QTransform, spots: Sequence["HeatSpot"], film: "Region") -> None:
    """Draw the seconds of heat as a map, with the number on the largest part of each, and the film's outline."""
    most = max((spot.seconds for spot in spots), default=0.0)
    for spot in spots:
        painter.setTransform(world, True)
        painter.setPen(Qt.PenStyle.NoPen)
        fill = heat_colour(spot.seconds, most)
        fill.setAlpha(190)
        painter.setBrush(fill)
        painter.drawPath(region_path(spot.region))
        painter.resetTransform()
    painter.setTransform(world, True)
    outline = QPen(colour("ink"), 1.2)
    outline.setCosmetic(True)
    painter.setPen(outline)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPath(region_path(film, painter))
    painter.resetTransform()
    taken: list[QRectF] = []
    for spot in sorted(spots, key=lambda one: -one.region.area):
        largest = max(spot.region.geoms, key=lambda part: part.area)
        at = largest.representative_point()
        centre = world.map(QPointF(at.x, at.y))
        card = QRectF(centre.x() - 24, centre.y() - 12, 48, 24)
        if not any(card.intersects(other) for other in taken):
            taken.append(card)
            draw_label(painter, centre, f"{spot.seconds:.0f} s")
