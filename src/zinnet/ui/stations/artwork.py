"""Artwork: the design by itself, large, with its parts to point at, its source and the steps done to it."""

from typing import TYPE_CHECKING, Any

import shapely
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPixmap

from zinnet.artwork.lettering.kerning import kerned
from zinnet.artwork.source import PictureArt, TextArt
from zinnet.base.units import write_length
from zinnet.job.edits import add_step, set_recipe
from zinnet.steps import model
from zinnet.ui.artwork_cards import NEED_PARTS, ArtworkCards
from zinnet.ui.drawing import draw_chalk_text, draw_tape, lit_pen, pen
from zinnet.ui.films import ink_brush
from zinnet.ui.region_paths import region_path
from zinnet.ui.stations.chosen_parts import ChosenParts
from zinnet.ui.table import EditableLength, TableView
from zinnet.ui.theme import LARGE

if TYPE_CHECKING:
    from zinnet.artwork.source import Source
    from zinnet.layers.split import Split
    from zinnet.plan.fitted import FittedDesign
    from zinnet.ui.session import Session

CARDS_WIDTH = 292
TAPE_BELOW = 34
KERNS: dict[int, float] = {Qt.Key.Key_Left: -0.02, Qt.Key.Key_Right: 0.02}
"""By how much, in em, a key moves the chosen letters of a text."""
PICTURE_GAP = 0.16
FRAME_FROM_PX = 6
"""A drag that is shorter is a click."""


class ArtworkStation(TableView):
    """The artwork in its own colours. Parts are chosen by pointing at them; a step acts on what is chosen."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "The artwork")
        self.parts = ChosenParts()
        self._frame_from: QPointF | None = None
        self._frame: QRectF | None = None
        self._shown_design = 0
        self._pixmap_of: tuple[bytes, QPixmap] | None = None
        self.cards = ArtworkCards(session)
        self.cards.setParent(self)
        self.cards.step_asked.connect(self.do_step)
        session.busy_changed.connect(self.update)

    def resizeEvent(self, event: Any) -> None:
        """Keep the cards at the right edge of the table."""
        super().resizeEvent(event)
        self.cards.setGeometry(self.width() - CARDS_WIDTH - 14, 16, CARDS_WIDTH, self.height() - 30)

    def margins(self) -> tuple[int, int, int, int]:
        """Return the room around the artwork: at the right for the cards, below for the tape."""
        return (40, 92, CARDS_WIDTH + 50, 76)

    @property
    def design(self) -> "FittedDesign | None":
        """The design that is shown."""
        return self.session.selection.design

    @property
    def split(self) -> "Split | None":
        """The artwork's layers in artwork mm."""
        return self.design.split if self.design is not None else None

    def content_box(self) -> tuple[float, float, float, float]:
        """Return the artwork's box, with the picture it was traced from beside it."""
        split = self.split
        if split is None:
            return (0, 0, 100, 100)
        left, top, right, bottom = split.bounds
        if self.traced_picture() is not None:
            left -= split.width_mm * (1 + PICTURE_GAP)
        return (left, top, right, bottom)

    def traced_picture(self) -> QPixmap | None:
        """Return the picture that the design is traced from, where it is."""
        index = self.design.index if self.design is not None else 0
        designs = self.session.job.designs
        source = designs[index].source if index < len(designs) else None
        if not isinstance(source, PictureArt) or self._stays_picture():
            return None
        if self._pixmap_of is None or self._pixmap_of[0] is not source.file.data:
            pixmap = QPixmap()
            pixmap.loadFromData(source.file.data)
            self._pixmap_of = (source.file.data, pixmap)
        return self._pixmap_of[1]

    def _stays_picture(self) -> bool:
        """Tell whether the design is a picture that is printed as it is."""
        return self.design is not None and bool(self.design.artwork.whole_picture)

    def paint_table(self, painter: QPainter) -> None:
        """Draw the artwork, what is chosen of it, and its tape."""
        self._forget_other_design()
        middle = (self.width() - CARDS_WIDTH) / 2
        split, design = self.split, self.design
        if split is None or design is None:
            draw_chalk_text(painter, QPointF(middle, 26), "Nothing to cut yet", bold=True, pixels=LARGE)
            draw_chalk_text(painter, QPointF(middle, 47), "See the findings for what to do", name="quiet_chalk")
            return
        unit = self.session.job.unit
        colours = "1 colour" if len(split.layers) == 1 else f"{len(split.layers)} colours"
        parts = sum(layer.pieces for layer in split.layers)
        said = f"{colours}, {parts} part{'s' if parts != 1 else ''}"
        if self._stays_picture():
            _, _, wide, high = split.source_box
            said = f"a picture of {wide:.0f} by {high:.0f} pixels, {wide / split.width_mm * 25.4:.0f} to the inch"
        draw_chalk_text(painter, QPointF(middle, 26), "Artwork", bold=True, pixels=LARGE)
        size = f"{write_length(split.width_mm, unit=unit)} by {write_length(split.height_mm, unit=unit)}"
        state = "working ..." if self.session.is_working else self._chosen_in_words()
        draw_chalk_text(painter, QPointF(middle, 47), f"{size}, {said}{state and '; '}{state}", name="quiet_chalk")
        self._draw_picture(painter, split)
        self._draw_layers(painter, design, split)
        left, _, right, bottom = split.bounds
        start, end = self.to_pixels(left, bottom), self.to_pixels(right, bottom)
        below = QPointF(0, TAPE_BELOW)
        card = draw_tape(painter, start + below, end + below, write_length(split.width_mm, unit=unit))
        self.lengths.append(EditableLength("Width of the artwork", card, split.width_mm, self._set_width))

    def _forget_other_design(self) -> None:
        """Give up what was chosen of another design."""
        index = self.design.index if self.design is not None else 0
        if index != self._shown_design:
            self._shown_design = index
            self.choose_nothing()

    def choose_nothing(self) -> None:
        """Give up what was chosen."""
        self.parts.clear()
        self.update()

    def choose_all(self) -> None:
        """Choose every part."""
        if self.split is not None:
            self.parts.take_all(self.split)
            self.update()

    def choose_others(self) -> None:
        """Choose what is not chosen, and give up what is."""
        if self.split is not None:
            self.parts.take_others(self.split)
            self.update()

    def _chosen_in_words(self) -> str:
        if self._stays_picture():
            return ""
        if self.parts.colour is not None:
            return f"all of {self.parts.colour} chosen"
        if not self.parts:
            return "click parts, draw a frame around them, or double-click a colour"
        count = len(self.parts.points)
        return "1 part chosen" if count == 1 else f"{count} parts chosen"

    def _set_width(self, mm: float) -> bool:
        return self.session.set_fit("width", width_mm=mm)

    def _draw_layers(self, painter: QPainter, design: "FittedDesign", split: "Split") -> None:
        left, top, right, bottom = split.bounds
        cloth = QRectF(self.to_pixels(left, top), self.to_pixels(right, bottom)).adjusted(-14, -14, 14, 14)
        painter.setPen(pen("chalk", 1, alpha=90))
        painter.setBrush(QColor(self.session.plan.blank.colour))
        painter.drawRoundedRect(cloth, 8, 8)
        painter.save()
        painter.setTransform(self.world)
        gone = self.session.selection.gone
        for layer, ink in zip(split.layers, design.inks, strict=True):
            if layer.colour in gone:
                continue
            path = region_path(layer.painted if gone else layer.region, painter)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(ink_brush(ink))
            painter.drawPath(path)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(pen("chalk", 0.8, alpha=70))
            painter.drawPath(path)
        painter.setPen(lit_pen())
        painter.drawPath(region_path(self.parts.region(split), painter))
        painter.restore()
        if self._frame is not None:
            painter.setPen(pen("accent", 1.5, dashed=True))
            painter.drawRect(self._frame)

    def _draw_picture(self, painter: QPainter, split: "Split") -> None:
        """Draw the picture at the left, as it was before it was traced, as wide as the artwork."""
        picture = self.traced_picture()
        if picture is None or picture.isNull():
            return
        left, top, _, bottom = split.bounds
        high = split.width_mm * picture.height() / picture.width()
        corner = (left - split.width_mm * (1 + PICTURE_GAP), (top + bottom - high) / 2)
        frame = QRectF(self.to_pixels(*corner), self.to_pixels(corner[0] + split.width_mm, corner[1] + high))
        painter.fillRect(frame, QColor("#ffffff"))
        painter.drawPixmap(frame, picture, QRectF(picture.rect()))
        draw_chalk_text(painter, QPointF(frame.center().x(), frame.bottom() + 18), "the picture", name="quiet_chalk")

    # choosing parts

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Begin to choose: a part by a click, several by a frame."""
        super().mousePressEvent(event)
        if event.button() == Qt.MouseButton.LeftButton and self.split is not None and self.editor is None:
            self._frame_from = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Draw the frame."""
        super().mouseMoveEvent(event)
        start = self._frame_from
        if start is None:
            return
        if self._frame is not None or (event.position() - start).manhattanLength() >= FRAME_FROM_PX:
            self._frame = QRectF(start, event.position()).normalized()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Choose what the frame holds, with Shift besides; without one the part under the pointer, or give it up."""
        super().mouseReleaseEvent(event)
        split, frame, start = self.split, self._frame, self._frame_from
        self._frame_from = self._frame = None
        if event.button() != Qt.MouseButton.LeftButton or split is None or start is None:
            return
        if frame is not None:
            first, last = self.to_mm(frame.topLeft()), self.to_mm(frame.bottomRight())
            add = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self.parts.take_inside(split, (first.x(), first.y(), last.x(), last.y()), add=add)
        else:
            spot = self.to_mm(start)
            self.parts.toggle(split, (spot.x(), spot.y()))
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Choose all that has the colour under the pointer."""
        spot, split = self.to_mm(event.position()), self.split
        point = shapely.Point(spot.x(), spot.y())
        for layer in reversed(split.layers if split is not None else ()):
            if layer.region.intersects(point):
                self.parts.take_colour(layer.colour)
                self._frame_from = None
                self.update()
                return

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Take out what is chosen with Delete, open the steps with Ctrl+Return, give up the choice with Escape."""
        if event.key() == Qt.Key.Key_Delete and self.has_choice:
            self.do_step(model.Drop)
        elif event.key() == Qt.Key.Key_Return and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.cards.add.showMenu()
        elif event.key() in KERNS and event.modifiers() & Qt.KeyboardModifier.AltModifier and self.parts.points:
            self.move_letters(KERNS[event.key()])
        elif event.key() == Qt.Key.Key_Escape and self.has_choice:
            self.choose_nothing()
        else:
            super().keyPressEvent(event)

    @property
    def has_choice(self) -> bool:
        """Whether anything is chosen."""
        return bool(self.parts)

    def move_letters(self, em: float) -> None:
        """Add room, in em, before each chosen letter of a text, or take some away."""
        design, split = self.design, self.split
        source = self._laid_source(design.index) if design is not None else None
        if design is None or split is None or not isinstance(source, TextArt):
            self.session.said.emit("Letters are moved by hand where the design is a text.")
            return
        spots = [(x * split.width_mm, y * split.width_mm) for x, y in self.parts.points]
        kerns = kerned(source.text, spots, split.width_mm, em)
        if kerns is None:
            self.session.said.emit("Choose letters that have one before them on their line.")
            return
        self.session.apply_later(set_recipe("room between letters", "text", design.index, "kern", kerns=kerns))

    def _laid_source(self, index: int) -> "Source":
        """Return what a design is made of, as its place asks for it."""
        from zinnet.plan.fitting import as_laid

        return as_laid(self.session.job.designs[index], self.session.plan.blank).source

    def do_step(self, kind: type[Any]) -> None:
        """Add a step of a kind on what is chosen, or on everything."""
        if self.design is None or self.split is None:
            return
        which = model.Which(
            points=tuple(self.parts.points), colours=() if self.parts.colour is None else (self.parts.colour,)
        )
        if kind in NEED_PARTS and not self.has_choice:
            self.session.said.emit("Click the parts on the table first; this step acts on them.")
            return
        fields: dict[str, Any] = {"which": which}
        if kind in (model.CutAway, model.Intersect):
            fields = {"by": which}
        elif kind in (model.Simplify, model.ReduceColours):
            fields = {}
        if kind is model.Recolour:
            fields["colour"] = self.session.workshop.films[0].colour
        if kind is model.ReduceColours:
            fields["count"] = max(1, len(self.split.layers) - 1)
        self.choose_nothing()
        if kind is model.Drop and self.session.beside:
            self.session.selection.leave_out(which.colours)
        self.session.apply_later(add_step(kind(**fields), self.design.index))
