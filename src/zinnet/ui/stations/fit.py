"""Fit: the artwork on the blank, dragged and scaled, with guides and live distances."""

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import shapely
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPolygonF, QResizeEvent

from zinnet.base.units import write_length
from zinnet.placement.arrange import Arc, Band, One, Ring, Rows
from zinnet.placement.place import Placement, edge_distances
from zinnet.ui.drawing import draw_chalk_text, draw_distance, draw_tape, mark_pen, pen
from zinnet.ui.garment import draw_centre_line, draw_keep_outs, draw_layers, draw_panel, draw_photo, draw_usable
from zinnet.ui.prepared import prepared_for
from zinnet.ui.proposal_card import ProposalCard
from zinnet.ui.stations.carried import Carried
from zinnet.ui.stations.fit_guides import draw_ends, draw_folds, draw_target, draw_visible
from zinnet.ui.stations.held import Held
from zinnet.ui.stations.under_pointer import piece_at
from zinnet.ui.stations.worn_sash import draw_worn_sash
from zinnet.ui.table import EditableLength, TableView
from zinnet.ui.theme import PLAIN, SMALL, colour

if TYPE_CHECKING:
    from zinnet.plan.blocks import Block
    from zinnet.plan.fitted import FittedDesign, Garment
    from zinnet.ui.session import Session

SNAP_PIXELS = 7
WORN_ABOVE, WORN_PIXELS = 26, 200
"""Where the picture of a sash as it is worn stands: so far above the lower edge, so large."""
HANDLE_PIXELS = 11
STEP_MM, LONG_STEP_MM = 1.0, 10.0
SAME_MM = 0.05
BUTTONS, CLEAR = 326, 4
"""Pixels at the left of the title that belong to the page buttons, and that stay clear on both sides of it."""
ARROWS = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}


@dataclass(frozen=True)
class _Drag:
    """What is dragged: the artwork (corner None) or one of its corners."""

    start: QPointF
    placement: Placement
    width_mm: float
    corner: int | None
    group: "Block | None"


class FitStation(TableView):
    """The panel with its designs where they will be pressed."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "The artwork on the blank")
        self._drag: _Drag | None = None
        self.snapped = False
        self.carried = Carried(session, self)
        self.carried.changed.connect(self.update)
        self.held = Held(session, self.carried.shown)
        self.show_square = self.show_folds = False
        self.card = ProposalCard(session, self)
        for slow in (session.following, session.later):
            slow.prepare = prepared_for(session)

    def toggle_square(self) -> None:
        """Show or hide the guide square."""
        self.show_square = not self.show_square
        self.update()

    def toggle_folds(self) -> None:
        """Show or hide the fold lines."""
        self.show_folds = not self.show_folds
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep the card at the right edge of the table."""
        super().resizeEvent(event)
        self.card.place_in(self.rect())

    @property
    def placement(self) -> Placement | None:
        """The placement of the selected design, or of its group, where its panel is the one on the table."""
        return self.held.placement

    def content_box(self) -> tuple[float, float, float, float]:
        """Return the panel's box, and the artwork's where it reaches beyond."""
        designs = self.session.selection.garment.on_panel(self.session.selection.panel.id)
        boxes = [
            self.session.selection.panel.bounds,
            *(design.art.bounds for design in designs if design.art is not None),
        ]
        left, top, right, bottom = shapely.total_bounds([shapely.box(*box) for box in boxes]).tolist()
        return left, top, right, bottom

    def margins(self) -> tuple[int, int, int, int]:
        """Keep room for the title, the distances, and the card at the right."""
        return (30, 88, 140, 34)

    def is_dragging(self) -> bool:
        """Hold the view still while the artwork is dragged."""
        return self._drag is not None

    def backdrop(self) -> object:
        """Show the panel."""
        return self.session.selection.garment.blank, self.session.selection.panel, self.session.selection.backdrop

    def paint_backdrop(self, painter: QPainter) -> None:
        """Draw the panel, its usable area and what must be kept off."""
        blank, panel = self.session.selection.garment.blank, self.session.selection.panel
        photo = self.session.selection.backdrop
        if photo is None:
            draw_panel(painter, self.world, blank, panel)
        else:
            draw_photo(painter, self.world, photo)
        draw_keep_outs(painter, self.world, blank, panel)
        draw_usable(painter, self.world, blank, panel)

    def paint_table(self, painter: QPainter) -> None:
        """Draw the guides, the designs and the distances."""
        garment, panel = self.session.selection.garment, self.session.selection.panel
        lit = self.snapped and self._drag is not None
        draw_centre_line(painter, self.world, garment.blank, panel, lit=lit)
        left, right = BUTTONS + CLEAR, self.card.x() - CLEAR
        middle = QPointF((left + right) / 2, 26)
        seen = "seen through the glass" if panel.seen == "through-glass" else "as worn"
        said = f"{garment.blank.name}: {panel.name.lower()}, {seen}"
        draw_chalk_text(painter, middle, said, pixels=PLAIN, name="quiet_chalk", most_pixels=right - left)
        draw_ends(painter, self, panel, words=panel.visible_mm is not None)
        draw_visible(painter, self, panel)
        placement = self.placement
        if placement is not None:
            draw_target(painter, self, placement, square=self.show_square)
        for composed in self._shown(garment, panel.id):
            draw_layers(painter, self.world, composed, self.lit_layers(composed))
        if any(panel.ends) and panel.visible_mm is not None:
            worn = garment.composed_on(panel.id)
            shoulder = self.session.job.blank.shoulder
            draw_worn_sash(painter, self.rect(), garment.blank, shoulder, worn, above=WORN_ABOVE, pixels=WORN_PIXELS)
        if placement is None:
            return
        if self.show_folds:
            draw_folds(painter, self, placement)
        if isinstance(placement.arrangement, Rows | Ring | Band):
            self._draw_copies(painter, placement)
        else:
            self._draw_frame(painter, placement)
            self._draw_distances(painter, placement)
        self._draw_width(painter, placement)

    def _shown(self, garment: "Garment", panel: str) -> list["FittedDesign"]:
        """Return what is drawn: what is cut, or while something moves in the hand each design where it is held."""
        if not self.carried.is_active and self.session.selection.drawn is None:
            return list(garment.composed_on(panel))
        if self.carried.ahead is not None:
            (there,) = (one for one in self.carried.ahead.garments if one.size == garment.size)
            return list(there.composed_on(panel))
        composed = garment.composed_on(panel)
        designs = sorted((one for each in composed for one in each.made_of), key=lambda one: one.index)
        return [replace(one, placement=self.carried.shown(one)) for one in designs]

    def lit_layers(self, composed: "FittedDesign") -> frozenset[int]:
        """Return the layers of what is cut together that are pointed at, in whatever view."""
        pointed = self.session.selection.pointed
        parts = (part for nest in self.session.plan.nests for part in nest.parts if part.name == pointed)
        return frozenset(part.layer.layer.order for part in parts if part.designs == composed.indices)

    # the selected design

    def _draw_frame(self, painter: QPainter, placement: Placement) -> None:
        design = self.session.selection.design
        member = self.carried.shown(design) if design is not None and self.held.group is not None else None
        if member is not None:
            painter.setPen(pen("accent", 1.0, dashed=True))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolygon(QPolygonF([self.to_pixels(x, y) for x, y in member.corners]))
        corners = [self.to_pixels(x, y) for x, y in placement.corners]
        painter.setPen(pen("accent", 1.6))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolygon(QPolygonF(corners))
        painter.setBrush(colour("card_light"))
        for corner in corners:
            painter.drawEllipse(corner, 5, 5)

    def _draw_copies(self, painter: QPainter, placement: Placement) -> None:
        """Draw a fine frame around all copies, and say how many there are."""
        left, top, right, bottom = placement.block
        painter.setPen(pen("accent", 1.4, dashed=True))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        frame = QRectF(self.to_pixels(left, top), self.to_pixels(right, bottom))
        painter.drawRect(frame)
        said = f"{len(placement.matrices)} times"
        where = QPointF(frame.center().x(), frame.top() - 14)
        draw_chalk_text(painter, where, said, bold=True, cloth=self.session.selection.garment.blank.colour)

    def _draw_distances(self, painter: QPainter, placement: Placement) -> None:
        unit, cloth = self.session.job.unit, self.session.selection.garment.blank.colour
        corners = placement.corners
        left, right = min(x for x, _ in corners), max(x for x, _ in corners)
        edges, distances = placement.panel.edges_at(placement.centre[1]), edge_distances(placement)
        if edges and distances:
            y = placement.centre[1]
            for outer, inner, mm in ((edges[0], left, distances[0]), (edges[1], right, distances[1])):
                end, start = self.to_pixels(outer, y), self.to_pixels(inner, y)
                if abs(end.x() - start.x()) < 26:
                    continue
                at = QPointF((end.x() + start.x()) / 2, end.y() - 14)
                draw_distance(painter, start, end, write_length(mm, unit=unit), at=at, cloth=cloth)
        self._draw_from_reference(painter, placement)
        self._draw_across(painter, placement)
        self._draw_difference(painter, placement)

    def _draw_difference(self, painter: QPainter, placement: Placement) -> None:
        """Say how far off the guide the artwork is, in both directions."""
        unit = self.session.job.unit
        if not self.held.is_all_of_its_place:
            return
        off = placement.from_centre_mm - placement.across.target_mm
        low = placement.from_reference_mm - placement.down.target_mm
        low = -low if placement.place.anchor == "bottom" else low
        said = []
        if abs(off) >= SAME_MM:
            said.append(f"{write_length(abs(off), unit=unit)} {'right' if off > 0 else 'left'}")
        if abs(low) >= SAME_MM:
            said.append(f"{write_length(abs(low), unit=unit)} {'low' if low > 0 else 'high'}")
        if not said:
            return
        lowest = max(self.to_pixels(x, y).y() for x, y in placement.corners)
        where = QPointF(self.to_pixels(*placement.centre).x(), lowest + 108)
        cloth = self.session.selection.garment.blank.colour
        draw_chalk_text(painter, where, f"{', '.join(said)} of the guide", pixels=SMALL, cloth=cloth)

    def _draw_from_reference(self, painter: QPainter, placement: Placement) -> None:
        x, y = placement.reference
        sign = -1 if placement.place.anchor == "bottom" else 1
        across = x if placement.place.centred else placement.centre[0]
        start = self.to_pixels(across, y)
        end = self.to_pixels(across, y + sign * placement.from_reference_mm)
        if abs(end.y() - start.y()) < 4 and placement.place.anchor == "middle":
            return
        text = write_length(placement.from_reference_mm, unit=self.session.job.unit)
        if abs(end.y() - start.y()) < 34:
            beside = self.to_pixels(placement.corners[1][0], 0).x() + 14
            aside = QPointF(beside - start.x(), 0)
            painter.setPen(mark_pen(self.session.selection.garment.blank.colour, 1.0, dashed=True, alpha=160))
            for point in (start, end):
                painter.drawLine(point, point + aside)
            start, end = start + aside, end + aside
            card = draw_tape(painter, start, end, text, card_at=QPointF(start.x() + 48, (start.y() + end.y()) / 2))
        else:
            card = draw_tape(painter, start, end, text)
        name = "Above" if placement.place.anchor == "bottom" else "Below"
        self.lengths.append(
            EditableLength(
                f"{name} the {placement.place.reference_name}",
                card,
                placement.from_reference_mm,
                self.held.set_distance,
            )
        )

    def _draw_across(self, painter: QPainter, placement: Placement) -> None:
        """Draw the distance from the centre line, where the artwork is beside it or belongs there."""
        if placement.place.centred and abs(placement.from_centre_mm) < SAME_MM:
            return
        y = max(corner[1] for corner in placement.corners) + 66 / self.pixels_per_mm
        start, end = self.to_pixels(placement.reference[0], y), self.to_pixels(placement.centre[0], y)
        text = write_length(abs(placement.from_centre_mm), unit=self.session.job.unit)
        if abs(end.x() - start.x()) < 60:
            middle = QPointF((start.x() + end.x()) / 2, start.y() + 22)
            card = draw_tape(painter, start, end, text, card_at=middle)
        else:
            card = draw_tape(painter, start, end, text)
        sign = -1 if placement.from_centre_mm < 0 else 1
        self.lengths.append(
            EditableLength(
                "From the centre line",
                card,
                abs(placement.from_centre_mm),
                lambda mm: self.held.set_aside(sign * mm),
            )
        )

    def _draw_width(self, painter: QPainter, placement: Placement) -> None:
        design = self.session.selection.design
        assert design is not None
        corners = placement.corners
        left, right = min(x for x, _ in corners), max(x for x, _ in corners)
        bottom = max(y for _, y in corners)
        room = 16 / self.pixels_per_mm
        text = write_length(self.held.width_mm, unit=self.session.job.unit)
        if design.setting is not None:
            text = f"{text} laid straight"
        start, end = self.to_pixels(left, bottom + room), self.to_pixels(right, bottom + room)
        middle = None
        if end.x() - start.x() < 100:
            middle = QPointF((start.x() + end.x()) / 2, start.y() + 20)
        card = draw_tape(painter, start, end, text, card_at=middle)
        name = "Width of the artwork" if self.held.group is None else "Width of the group"
        self.lengths.insert(0, EditableLength(name, card, self.held.width_mm, self.held.set_width))

    # mouse and keys

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold of the selected design or one of its corners, or select another one."""
        super().mousePressEvent(event)
        if event.button() != Qt.MouseButton.LeftButton or self.editor is not None:
            return
        placement, design = self.placement, self.session.selection.design
        if placement is not None and design is not None and isinstance(placement.arrangement, One | Arc):
            corners = [self.to_pixels(x, y) for x, y in placement.corners]
            for number, corner in enumerate(corners):
                if (corner - event.position()).manhattanLength() < HANDLE_PIXELS:
                    self._drag = _Drag(event.position(), placement, self.held.width_mm, number, self.held.group)
                    return
            if QPolygonF(corners).containsPoint(event.position(), Qt.FillRule.OddEvenFill):
                if self.carried.suits(design):
                    self.carried.take(design)
                self._drag = _Drag(event.position(), placement, self.held.width_mm, None, self.held.group)
                return
        at = self.to_mm(event.position())
        for other in reversed(self.session.selection.garment.on_panel(self.session.selection.panel.id)):
            if other.art is not None and shapely.box(*other.art.bounds).contains(shapely.Point(at.x(), at.y())):
                self.session.selection.look_at(design=other.index)
                return

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Drag, or light up the piece under the pointer."""
        super().mouseMoveEvent(event)
        if self._drag is None:
            self.session.selection.point_at(piece_at(self.session, self.to_mm(event.position())))
            return
        shift = (event.position() - self._drag.start) / self.pixels_per_mm
        if self._drag.corner is None:
            self._move_art(self._drag, shift)
        else:
            self._scale_art(self._drag, self.to_mm(event.position()))

    def _move_art(self, drag: _Drag, shift: QPointF) -> None:
        start = drag.placement
        from_centre = round(start.from_centre_mm + shift.x(), 1)
        down = -shift.y() if start.place.anchor == "bottom" else shift.y()
        home = start.across.target_mm
        self.snapped = abs(from_centre - home) * self.pixels_per_mm < SNAP_PIXELS
        if self.carried.is_active:
            self.carried.carry((home if self.snapped else from_centre) - start.from_centre_mm, round(shift.y(), 1))
            return
        self.session.set_fit(
            "move the artwork",
            merge="move",
            width_mm=drag.width_mm,
            from_centre_mm=home if self.snapped else from_centre,
            from_reference_mm=round(start.from_reference_mm + down, 1),
        )

    def _scale_art(self, drag: _Drag, pointer: QPointF) -> None:
        """Scale about the held edge's middle, so that the centre line and the distance stay."""
        start = drag.placement
        factor = 2 * abs(pointer.x() - start.centre[0]) / start.width_mm
        self.held.scale(start, drag.group, drag.width_mm, factor)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go."""
        super().mouseReleaseEvent(event)
        if self._drag is not None:
            self._drag = None
            self.snapped = False
            if self.carried.is_active:
                self.carried.let_go()
            else:
                self.session.document.close_step()
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Move the artwork with the arrow keys by 1 mm, with Shift by 10 mm."""
        placement, design = self.placement, self.session.selection.design
        arrow = ARROWS.get(Qt.Key(event.key()))
        if arrow is None or placement is None or design is None:
            super().keyPressEvent(event)
            return
        step = LONG_STEP_MM if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else STEP_MM
        self.session.following.when_pictured(lambda: self._nudge(arrow, step))

    def _nudge(self, arrow: tuple[int, int], step: float) -> None:
        """Move the artwork a step from where it is shown."""
        placement, design = self.placement, self.session.selection.design
        if placement is None or design is None:
            return
        if design.group:
            self.carried.nudge(design, arrow[0] * step, arrow[1] * step)
            return
        down = -arrow[1] if placement.place.anchor == "bottom" else arrow[1]
        self.session.set_fit(
            "move the artwork",
            merge="arrow",
            width_mm=design.word_width_mm,
            from_centre_mm=round(placement.from_centre_mm + arrow[0] * step, 1),
            from_reference_mm=round(placement.from_reference_mm + down * step, 1),
        )
