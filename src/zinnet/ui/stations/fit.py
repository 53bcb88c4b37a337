"""Fit: the artwork on the blank, dragged and scaled, with guides and live distances."""

from dataclasses import dataclass

import shapely
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPolygonF, QTransform

from zinnet.edits import set_placement
from zinnet.facts import FilmNest
from zinnet.geometry.transform import moved
from zinnet.placement.guides import school
from zinnet.placement.place import Placement, edge_distances
from zinnet.ui.drawing import draw_chalk_text, draw_distance, draw_tape, lit_pen, mark_pen, pen, region_path
from zinnet.ui.garment import draw_blank, draw_centre_line
from zinnet.ui.session import Session
from zinnet.ui.table import EditableLength, TableView
from zinnet.ui.theme import LARGE, PLAIN, SMALL, colour
from zinnet.units import write_length

SNAP_PIXELS = 7
HANDLE_PIXELS = 11
STEP_MM, LONG_STEP_MM = 1.0, 10.0
ARROWS = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}


@dataclass(frozen=True)
class _Drag:
    """What is dragged: the artwork (corner None) or one of its corners."""

    start: QPointF
    placement: Placement
    corner: int | None


class FitStation(TableView):
    """The blank with the artwork where it will be pressed."""

    def __init__(self, session: Session) -> None:
        super().__init__(session, "The artwork on the blank")
        self._drag: _Drag | None = None
        self.snapped = False

    def content_box(self) -> tuple[float, float, float, float]:
        """Return the blank's box, and the artwork's where it reaches beyond."""
        plan = self.session.plan
        boxes = [plan.blank.outline.bounds] + ([plan.art.bounds] if plan.art is not None else [])
        left, top, right, bottom = shapely.total_bounds([shapely.box(*box) for box in boxes]).tolist()
        return left, top, right, bottom

    def is_dragging(self) -> bool:
        """Hold the view still while the artwork is dragged."""
        return self._drag is not None

    def backdrop(self) -> object:
        """Show the blank."""
        return self.session.plan.blank

    def paint_backdrop(self, painter: QPainter) -> None:
        """Draw the blank and its usable area."""
        draw_blank(painter, self, self.session.plan.blank)
        self._draw_usable(painter)

    def paint_table(self, painter: QPainter) -> None:
        """Draw the guides, the artwork and the distances."""
        plan = self.session.plan
        draw_centre_line(painter, self, plan.blank, lit=self.snapped and self._drag is not None)
        draw_chalk_text(painter, QPointF(self.width() / 2, 26), self.session.job.title, bold=True, pixels=LARGE)
        draw_chalk_text(
            painter, QPointF(self.width() / 2, 47), "as worn, from the front", pixels=PLAIN, name="quiet_chalk"
        )
        if plan.placement is None:
            return
        self._draw_school(painter, plan.placement)
        self._draw_art(painter)
        self._draw_frame(painter, plan.placement)
        self._draw_distances(painter, plan.placement)

    def _draw_usable(self, painter: QPainter) -> None:
        painter.save()
        painter.setTransform(self.world)
        painter.setPen(mark_pen(self.session.plan.blank.colour, dashed=True, alpha=150))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(region_path(self.session.plan.blank.usable))
        painter.restore()

    def _draw_school(self, painter: QPainter, placement: Placement) -> None:
        """Draw the band under the collar in which the school puts the top edge."""
        guide, blank = school(placement.school), self.session.plan.blank
        collar = blank.collar_point[1]
        half = blank.measures["chest"] * 0.36
        painter.setPen(mark_pen(blank.colour, dashed=True, alpha=190))
        for y in (guide.low_mm, guide.high_mm):
            painter.drawLine(self.to_pixels(-half, collar + y), self.to_pixels(half, collar + y))
        middle = self.to_pixels(half, collar + (guide.low_mm + guide.high_mm) / 2)
        draw_chalk_text(painter, middle, guide.name, pixels=SMALL, cloth=blank.colour)

    def _draw_art(self, painter: QPainter) -> None:
        plan = self.session.plan
        assert plan.placement is not None
        lit = self.lit_layers()
        painter.save()
        painter.setTransform(QTransform(*plan.placement.matrix.T.ravel()) * self.world)
        for row in plan.layers:
            path = region_path(row.layer.region)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(row.film.colour if row.film else row.layer.colour))
            painter.drawPath(path)
            if row.film is None:
                painter.setPen(pen("stop", 2, dashed=True))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawPath(path)
            if row.layer.order in lit:
                painter.setPen(lit_pen())
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawPath(path)
        painter.restore()

    def lit_layers(self) -> set[int]:
        """Return the orders of the layers that are pointed at, in whatever view."""
        pointed = self.session.pointed
        return {
            part.layer.layer.order for nest in self.session.plan.nests for part in nest.parts if part.name == pointed
        }

    def _draw_frame(self, painter: QPainter, placement: Placement) -> None:
        corners = [self.to_pixels(x, y) for x, y in placement.corners]
        painter.setPen(pen("accent", 1.6))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolygon(QPolygonF(corners))
        painter.setBrush(colour("card_light"))
        for corner in corners:
            painter.drawEllipse(corner, 5, 5)

    def _draw_distances(self, painter: QPainter, placement: Placement) -> None:
        plan, unit = self.session.plan, self.session.job.unit
        blank = plan.blank
        corners = placement.corners
        left, right = min(x for x, _ in corners), max(x for x, _ in corners)
        bottom = max(y for _, y in corners)
        edges, distances = blank.edges_at(placement.centre[1]), edge_distances(placement, blank)
        if edges and distances:
            y = placement.centre[1]
            for outer, inner, mm in ((edges[0], left, distances[0]), (edges[1], right, distances[1])):
                end = self.to_pixels(outer, y)
                draw_distance(
                    painter,
                    self.to_pixels(inner, y),
                    end,
                    write_length(mm, unit=unit),
                    at=QPointF((end.x() + self.to_pixels(inner, y).x()) / 2, end.y() - 14),
                    cloth=blank.colour,
                )
        collar = self.to_pixels(*blank.collar_point)
        under = self.to_pixels(blank.collar_point[0], blank.collar_point[1] + placement.below_collar_mm)
        card = draw_tape(painter, collar, under, write_length(placement.below_collar_mm, unit=unit))
        self.lengths.append(
            EditableLength(
                "Below the collar",
                card,
                placement.below_collar_mm,
                lambda mm: self.session.apply(set_placement("distance from the collar", below_collar_mm=mm)),
            )
        )
        room = 16 / self.pixels_per_mm
        card = draw_tape(
            painter,
            self.to_pixels(left, bottom + room),
            self.to_pixels(right, bottom + room),
            write_length(placement.width_mm, unit=unit),
        )
        self.lengths.insert(0, EditableLength("Width of the artwork", card, placement.width_mm, self._set_width))

    def _set_width(self, mm: float) -> bool:
        if mm < 5:
            self.session.said.emit("The artwork can't be narrower than 5 mm; type a larger width.")
            return False
        return self.session.apply(set_placement("width of the artwork", width_mm=mm))

    # mouse and keys

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold of the artwork or one of its corners."""
        super().mousePressEvent(event)
        placement = self.session.plan.placement
        if event.button() != Qt.MouseButton.LeftButton or placement is None or self.editor is not None:
            return
        corners = [self.to_pixels(x, y) for x, y in placement.corners]
        for number, corner in enumerate(corners):
            if (corner - event.position()).manhattanLength() < HANDLE_PIXELS:
                self._drag = _Drag(event.position(), placement, number)
                return
        if QPolygonF(corners).containsPoint(event.position(), Qt.FillRule.OddEvenFill):
            self._drag = _Drag(event.position(), placement, None)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Drag, or light up the piece under the pointer."""
        super().mouseMoveEvent(event)
        if self._drag is None:
            self.session.point_at(self._piece_at(self.to_mm(event.position())))
            return
        shift = (event.position() - self._drag.start) / self.pixels_per_mm
        if self._drag.corner is None:
            self._move_art(self._drag.placement, shift)
        else:
            self._scale_art(self._drag.placement, self.to_mm(event.position()))

    def _move_art(self, start: Placement, shift: QPointF) -> None:
        from_centre = round(start.from_centre_mm + shift.x(), 1)
        below = round(start.below_collar_mm + shift.y(), 1)
        self.snapped = abs(from_centre) * self.pixels_per_mm < SNAP_PIXELS
        self.session.apply(
            set_placement(
                "move the artwork",
                merge="move",
                width_mm=start.width_mm,
                from_centre_mm=0.0 if self.snapped else from_centre,
                below_collar_mm=below,
            )
        )

    def _scale_art(self, start: Placement, pointer: QPointF) -> None:
        """Scale about the middle of the top edge, so that the centre line and the collar distance stay."""
        half = abs(pointer.x() - start.centre[0])
        self.session.apply(
            set_placement(
                "width of the artwork",
                merge="scale",
                width_mm=max(5.0, round(2 * half, 1)),
                below_collar_mm=start.below_collar_mm,
            )
        )

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go."""
        super().mouseReleaseEvent(event)
        if self._drag is not None:
            self._drag = None
            self.snapped = False
            self.session.document.close_step()
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Move the artwork with the arrow keys by 1 mm, with Shift by 10 mm."""
        placement = self.session.plan.placement
        arrow = ARROWS.get(Qt.Key(event.key()))
        if arrow is None or placement is None:
            super().keyPressEvent(event)
            return
        step = LONG_STEP_MM if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else STEP_MM
        self.session.apply(
            set_placement(
                "move the artwork",
                merge="arrow",
                width_mm=placement.width_mm,
                from_centre_mm=round(placement.from_centre_mm + arrow[0] * step, 1),
                below_collar_mm=round(placement.below_collar_mm + arrow[1] * step, 1),
            )
        )

    def _piece_at(self, point: QPointF) -> str | None:
        plan = self.session.plan
        if plan.placement is None:
            return None
        spot = shapely.Point(point.x(), point.y())
        for nest in reversed(plan.nests):
            found = _part_at(nest, spot, plan.panel_to_cut(nest.mirrored))
            if found is not None:
                return found
        return None


def _part_at(nest: FilmNest, spot: shapely.Point, panel_to_cut: object) -> str | None:
    """Return the part of a film under a point of the panel."""
    as_cut = moved(spot, panel_to_cut)  # type: ignore[arg-type]
    for part in nest.parts:
        box = QRectF(QPointF(*part.region.bounds[:2]), QPointF(*part.region.bounds[2:]))
        if box.contains(as_cut.x, as_cut.y) and shapely.contains(part.region, as_cut):
            return part.name
    return None
