"""Artwork: the design by itself, large, with its parts to point at, its source and the steps done to it."""

from typing import TYPE_CHECKING, Any

import shapely
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPixmap
from shapely.geometry import Polygon

from zinnet.artwork.lettering.kerning import kerned
from zinnet.artwork.source import PictureArt, TextArt
from zinnet.base.units import write_length
from zinnet.geometry.region import Region
from zinnet.job.edits import add_step, set_recipe
from zinnet.steps import model
from zinnet.ui.artwork_cards import NEED_PARTS, ArtworkCards
from zinnet.ui.drawing import draw_chalk_text, draw_tape, lit_pen, pen
from zinnet.ui.films import ink_brush
from zinnet.ui.region_paths import region_path
from zinnet.ui.table import EditableLength, TableView
from zinnet.ui.theme import LARGE

if TYPE_CHECKING:
    from zinnet.layers.split import Split
    from zinnet.plan.fitted import FittedDesign
    from zinnet.ui.session import Session

CARDS_WIDTH = 292
TAPE_BELOW = 34
KERNS: dict[int, float] = {Qt.Key.Key_Left: -0.02, Qt.Key.Key_Right: 0.02}
"""By how much, in em, a key moves the chosen letters of a text."""
PICTURE_GAP = 0.16


class ArtworkStation(TableView):
    """The artwork in its own colours. Parts are chosen by pointing at them; a step acts on what is chosen."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "The artwork")
        self.chosen: list[tuple[float, float]] = []
        self.chosen_colour: str | None = None
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
        self.chosen, self.chosen_colour = [], None
        self.update()

    def _chosen_in_words(self) -> str:
        if self._stays_picture():
            return ""
        if self.chosen_colour is not None:
            return f"all of {self.chosen_colour} chosen"
        if not self.chosen:
            return "click parts, or double-click a colour"
        return "1 part chosen" if len(self.chosen) == 1 else f"{len(self.chosen)} parts chosen"

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
        for layer in split.layers:
            if layer.colour == self.chosen_colour:
                painter.drawPath(region_path(layer.region, painter))
        for x, y in self.chosen:
            part = self.part_at(x * split.width_mm, y * split.width_mm)
            if part is not None:
                painter.drawPath(region_path(Region([part])))
        painter.restore()

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

    def part_at(self, x_mm: float, y_mm: float) -> Polygon | None:
        """Return the topmost part at a place in artwork mm."""
        split = self.split
        point = shapely.Point(x_mm, y_mm)
        for layer in reversed(split.layers if split is not None else ()):
            for part in layer.region.geoms:
                if part.intersects(point):
                    return part
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose the part under the pointer, or give it up again; a click beside all parts gives up all."""
        super().mousePressEvent(event)
        split = self.split
        if event.button() != Qt.MouseButton.LeftButton or split is None or self.editor is not None:
            return
        spot = self.to_mm(event.position())
        part = self.part_at(spot.x(), spot.y())
        self.chosen_colour = None
        if part is None:
            self.chosen = []
        else:
            wide = split.width_mm
            kept = [(x, y) for x, y in self.chosen if not part.intersects(shapely.Point(x * wide, y * wide))]
            self.chosen = [*kept, (spot.x() / wide, spot.y() / wide)] if len(kept) == len(self.chosen) else kept
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Choose all that has the colour under the pointer."""
        spot, split = self.to_mm(event.position()), self.split
        point = shapely.Point(spot.x(), spot.y())
        for layer in reversed(split.layers if split is not None else ()):
            if layer.region.intersects(point):
                self.chosen, self.chosen_colour = [], layer.colour
                self.update()
                return

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Drop what is chosen with Delete, open the steps with Ctrl+Return, give up the choice with Escape."""
        if event.key() == Qt.Key.Key_Delete and self.has_choice:
            self.do_step(model.Drop)
        elif event.key() == Qt.Key.Key_Return and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.cards.add.showMenu()
        elif event.key() in KERNS and event.modifiers() & Qt.KeyboardModifier.AltModifier and self.chosen:
            self.move_letters(KERNS[event.key()])
        elif event.key() == Qt.Key.Key_Escape and self.has_choice:
            self.choose_nothing()
        else:
            super().keyPressEvent(event)

    @property
    def has_choice(self) -> bool:
        """Whether anything is chosen."""
        return bool(self.chosen) or self.chosen_colour is not None

    def move_letters(self, em: float) -> None:
        """Add room, in em, before each chosen letter of a text, or take some away."""
        design, split = self.design, self.split
        source = self.session.job.designs[design.index].source if design is not None else None
        if design is None or split is None or not isinstance(source, TextArt):
            self.session.said.emit("Letters are moved by hand where the design is a text.")
            return
        spots = [(x * split.width_mm, y * split.width_mm) for x, y in self.chosen]
        kerns = kerned(source.text, spots, split.width_mm, em)
        if kerns is None:
            self.session.said.emit("Choose letters that have one before them on their line.")
            return
        self.session.apply_later(set_recipe("room between letters", "text", design.index, "kern", kerns=kerns))

    def do_step(self, kind: type[Any]) -> None:
        """Add a step of a kind on what is chosen, or on everything."""
        if self.design is None or self.split is None:
            return
        which = model.Which(
            points=tuple(self.chosen), colours=() if self.chosen_colour is None else (self.chosen_colour,)
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
