"""Split: the layers lifted apart, their thickness, the small detail, the weed map, and films for colours."""

from typing import TYPE_CHECKING

import shapely
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QTransform
from PySide6.QtWidgets import QHBoxLayout, QSlider, QWidget

from zinnet.base.units import write_length
from zinnet.layers.depth import films_at
from zinnet.layers.marks import frame_box
from zinnet.ui.aside import Aside
from zinnet.ui.drawing import draw_chalk_text
from zinnet.ui.in_turn import InTurn
from zinnet.ui.language import tr
from zinnet.ui.page_bar import Page, PageBar
from zinnet.ui.plain import Label
from zinnet.ui.split.apart import ApartView
from zinnet.ui.split.detail_panel import DetailPanel
from zinnet.ui.split.film_table import FilmTable
from zinnet.ui.split.flat import draw_caption, draw_cloth, draw_details, draw_films, draw_legend, draw_thickness
from zinnet.ui.split.layer_cards import LayerCards
from zinnet.ui.split.pointing import order_of_piece, piece_of_layer
from zinnet.ui.split.weed import draw_weed_map
from zinnet.ui.split.weed_panel import WeedPanel
from zinnet.ui.table import TableView

if TYPE_CHECKING:
    from zinnet.films.support import PairMethod
    from zinnet.layers.stack import LayerStack
    from zinnet.plan.fitted import FittedDesign
    from zinnet.ui.session import Session

CARDS_WIDTH, TOP, FOOT = 292, 92, 52
STEPS = 20
"""How finely the slider moves one layer."""
FADED = 0.3
PAGES: tuple[Page, ...] = (
    ("apart", "Lifted apart", "The layers in the order in which they are pressed; the slider lays them down (1)"),
    ("thickness", "Thickness", "How many films lie on one another, and how thick they are (2)"),
    ("detail", "Small detail", "What is too thin, too narrow or too small for its film (3)"),
    ("weed", "Weed map", "What comes out in weeding, in which order, and what stays (4)"),
    ("films", "Films", "Each colour beside its film, and what else is near (5)"),
)


class SplitStation(TableView):
    """The layers of the selected design, looked at in five ways."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "The layers of the artwork")
        self.page = "apart"
        self.chosen_detail = -1
        self.pointer: QPointF | None = None
        self.cards = LayerCards(session)
        self.details = DetailPanel(session)
        self.weed = WeedPanel(session)
        self.films = FilmTable(session)
        self.laying = LayingSlider()
        for panel in (self.cards, self.details, self.weed, self.films, self.laying):
            panel.setParent(self)
        self.pages = PageBar(self, PAGES)
        self.pages.chosen.connect(self.show_page)
        self.details.chosen.connect(self._choose_detail)
        self.weed.turned.connect(self._turned)
        self.laying.slider.valueChanged.connect(lambda value: self.update())
        self._follows = InTurn(session, self._follow_plan, self)
        self._spots_found: LayerStack | None = None
        self._aside = Aside(session, self)
        session.selection.pointed_changed.connect(self.cards.light)
        self.show_page("apart")

    # what is shown

    @property
    def stack(self) -> "LayerStack | None":
        """The layers of the selected design."""
        return self.session.selection.stack

    def show_page(self, page: str) -> None:
        """Look at the layers in another way."""
        self.page = page
        self.pages.select(page)
        self.cards.setVisible(page in ("apart", "thickness"))
        self.details.setVisible(page == "detail")
        self.weed.setVisible(page == "weed")
        self.films.setVisible(page == "films")
        self.laying.setVisible(page == "apart")
        self._follow_panels()
        self.fit_view()
        self.update()

    def _follow_plan(self) -> None:
        if not self.isVisible():
            return
        self.cards.follow()
        self._follow_panels()
        count = len(self.stack.layers) if self.stack is not None else 0
        self.laying.set_layers(count)

    def _follow_panels(self) -> None:
        for panel in (self.details, self.weed, self.films):
            panel.follow()

    def showEvent(self, event: object) -> None:
        """Work out what only this station shows."""
        super().showEvent(event)  # type: ignore[arg-type]
        self._follows.ask()
        self.fit_view()

    def _turned(self) -> None:
        self.weed.follow()
        self.fit_view()
        self.update()

    def _choose_detail(self, index: int) -> None:
        self.chosen_detail = index
        self.update()

    def resizeEvent(self, event: object) -> None:
        """Keep the cards at the right edge of the table, the slider at its foot."""
        super().resizeEvent(event)  # type: ignore[arg-type]
        height = self.height() - TOP
        for panel in (self.cards, self.details, self.weed):
            panel.setGeometry(self.width() - CARDS_WIDTH - 14, TOP - 28, CARDS_WIDTH, height + 14)
        self.films.setGeometry(24, TOP, self.width() - 48, height - 8)
        self.laying.setGeometry(40, self.height() - 46, self.width() - CARDS_WIDTH - 90, 34)

    # the view in mm, for the flat pages

    def margins(self) -> tuple[int, int, int, int]:
        """Keep room for the heading and the cards."""
        return (40, TOP, CARDS_WIDTH + 40, FOOT)

    def content_box(self) -> tuple[float, float, float, float]:
        """Return the box round the artwork with its weed frame."""
        if self.stack is None or not self.stack.layers:
            return (0, 0, 100, 100)
        left, top, right, bottom = frame_box(self.stack.box)
        room = 3.0
        return (left - room, top - room, right + room, bottom + room)

    def wheelEvent(self, event: object) -> None:
        """The lifted layers have no scale of their own."""
        if self.page in ("thickness", "detail", "weed"):
            super().wheelEvent(event)  # type: ignore[arg-type]

    @property
    def _shown(self) -> QTransform:
        """The transform from artwork mm to pixels; from the back it is mirrored."""
        if self.page != "weed" or not self.weed.back.isChecked():
            return self.world
        left, _, right, _ = self.content_box()
        return QTransform(-1, 0, 0, 1, left + right, 0) * self.world

    def _apart(self, design: "FittedDesign") -> ApartView:
        box = QRectF(40, TOP, self.width() - CARDS_WIDTH - 90, self.height() - TOP - FOOT - 24)
        return ApartView(design, box, self.laying.laid)

    def backdrop(self) -> object:
        """Return all that the drawing of a page depends on; its caption is drawn anew with the pointer."""
        design, stack = self.session.selection.composed, self.stack
        if design is None or design.placement is None or stack is None:
            return None
        at = design.placement
        seen: tuple[object, ...] = ()
        if self.page == "apart":
            seen = (at.width_mm, at.height_mm, self.laying.laid, order_of_piece(self.session))
        elif self.page == "thickness":
            seen = (self._knows_spots(stack),)
        elif self.page == "detail":
            seen = (self.details.found, self.chosen_detail)
        elif self.page == "weed":
            weeding = self.weed.weeding()
            seen = () if weeding is None else (weeding.map, weeding.state, self.weed.back.isChecked())
        return self.page, stack, self.session.selection.garment.blank.colour, *seen

    def paint_backdrop(self, painter: QPainter) -> None:
        """Draw the page but for its caption."""
        design, stack = self.session.selection.composed, self.stack
        if design is None or design.placement is None or stack is None:
            return
        blank = self.session.selection.garment.blank
        if self.page == "apart":
            self._apart(design).paint(painter, blank, order_of_piece(self.session))
        elif self.page == "thickness":
            draw_cloth(painter, self.world, design, blank.colour)
            draw_films(painter, self.world, stack.layers, opacity=FADED)
            if self._knows_spots(stack):
                draw_thickness(painter, self.world, stack)
                draw_legend(painter, QPointF(40, self.height() - 34), stack)
        elif self.page == "detail":
            draw_cloth(painter, self.world, design, blank.colour)
            draw_films(painter, self.world, stack.layers, hatched=True)
            draw_details(painter, self.world, self.details.found, self.chosen_detail)
        elif self.page == "weed":
            weeding = self.weed.weeding()
            if weeding is not None:
                draw_weed_map(painter, self._shown, weeding.map, weeding.row, weeding.state)

    def paint_table(self, painter: QPainter) -> None:
        """Draw what the page is, and what is said of it."""
        stack = self.stack
        if stack is None or self.backdrop() is None:
            draw_chalk_text(painter, QPointF(self.width() / 2, self.height() / 2), "Open artwork to see its layers.")
            return
        middle = (self.width() - CARDS_WIDTH) / 2
        if self.page == "apart":
            draw_caption(painter, middle, "Layers, lifted apart", _said(stack, self.session))
        elif self.page == "thickness":
            draw_caption(painter, middle, "Thickness", self._thickness_said(stack))
        elif self.page == "detail":
            draw_caption(painter, middle, "Small detail", "where strokes, gaps, parts or counters are less than holds")
        elif self.page == "weed":
            self._name_weeding(painter, middle)
        else:
            said = "how far apart by CIEDE2000: below 1 is not seen"
            draw_caption(painter, self.width() / 2, "Films for the colours", said)

    def _knows_spots(self, stack: "LayerStack") -> bool:
        """Tell whether it is known what lies on what; if not, it is worked out beside the window."""
        if self._spots_found is not stack:
            self._aside.ask(stack, lambda: stack.spots, lambda _: self._take_spots(stack))
        return self._spots_found is stack

    def _take_spots(self, stack: "LayerStack") -> None:
        self._spots_found = stack
        self.update()

    def _thickness_said(self, stack: "LayerStack") -> str:
        """Return how thick it is under the pointer, else at most."""
        if not self._knows_spots(stack):
            return "is being worked out ..."
        spot = None if self.pointer is None else films_at(stack.spots, self.pointer.x(), self.pointer.y())
        here = spot or max(stack.spots, key=lambda one: (len(one.layers), one.thickness_um))
        count = len(here.layers)
        films = "1 film" if count == 1 else f"{count} films"
        names = ", ".join(film.name for film in (stack.layers[index].film for index in here.layers) if film is not None)
        where = "here" if spot is not None else "at most"
        return f"{where} {films}, {here.thickness_um / 1000:.2f} mm (typical; measure yours): {names}"

    def _name_weeding(self, painter: QPainter, middle: float) -> None:
        weeding = self.weed.weeding()
        if weeding is None:
            if self.weed.maps.is_waiting:
                draw_caption(painter, middle, "Weed map", "is being worked out ...")
            return
        side = "seen from the back, as cut" if self.weed.back.isChecked() else "seen from the front"
        title = f"Weed map, layer {weeding.row.layer.order}"
        number = weeding.state.current
        said = "all is out" if number is None else f"next: {number} of {len(weeding.map.islands)}"
        draw_caption(painter, middle, title, f"{side}; {said}")

    # pointing and ticking

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Light up the layer under the pointer, the topmost first."""
        super().mouseMoveEvent(event)
        design = self.session.selection.composed
        if design is None or design.placement is None or self.stack is None:
            return
        if self.page == "apart":
            row = self._apart(design).layer_at(event.position())
        else:
            spot = self.pointer = self.to_mm(event.position())
            layers = reversed(self.stack.layers) if self.page in ("thickness", "detail") else ()
            row = next((one for one in layers if shapely.contains_xy(one.layer.region, spot.x(), spot.y())), None)
            self.update()
        self.session.selection.point_at(None if row is None else piece_of_layer(self.session, row.layer.order))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose a place of small detail, or tick off waste."""
        super().mousePressEvent(event)
        if event.button() != Qt.MouseButton.LeftButton:
            return
        inverse, can = self._shown.inverted()
        spot = inverse.map(event.position())
        point = shapely.Point(spot.x(), spot.y())
        if self.page == "detail" and can and self.details.found:
            away = [shapely.distance(detail.region, point) for _, detail in self.details.found]
            self.details.list.setCurrentRow(min(range(len(away)), key=lambda index: away[index]))
        weeding = self.weed.weeding() if self.page == "weed" and can else None
        if weeding is not None:
            hit = next((one for one in weeding.map.islands if shapely.intersects(one.region, point)), None)
            if hit is not None:
                weeding.tick(hit)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Change the page with 1 to 5; tick with the space bar, take back with backspace, turn with B."""
        number = event.key() - Qt.Key.Key_1
        weeding = self.weed.weeding() if self.page == "weed" else None
        if 0 <= number < len(PAGES) and not event.modifiers():
            self.show_page(PAGES[number][0])
        elif weeding is not None and event.key() == Qt.Key.Key_Space:
            weeding.tick_next()
        elif weeding is not None and event.key() == Qt.Key.Key_Backspace:
            weeding.take_back()
        elif weeding is not None and event.key() == Qt.Key.Key_B:
            self.weed.back.toggle()
        else:
            super().keyPressEvent(event)


def _said(stack: "LayerStack", session: "Session") -> str:
    """Return in words how the layers lie."""
    count = len(stack.layers)
    layers = "1 layer" if count == 1 else f"{count} layers"
    ways = [pair.rule.method for pair in stack.pairs]
    words: dict[PairMethod, str] = {"on-top": "on top", "side-by-side": "side by side", "lap": "with a lap of "}
    said = []
    for way, word in words.items():
        many = ways.count(way)
        if many:
            length = write_length(stack.lap_mm, unit=session.job.unit) if way == "lap" else ""
            said.append(f"{many} pair{'s' if many > 1 else ''} {word}{length}")
    if stack.spared:
        said.append(f"{len(stack.spared)} cut away to keep to {stack.most_films} films")
    if stack.through_glass:
        said.append("seen through the glass: the front colour is pressed first")
    return ", ".join([layers, *said])


class LayingSlider(QWidget):
    """A slider that lays the layers down one after another."""

    def __init__(self) -> None:
        super().__init__()
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setAccessibleName(tr("How many layers are laid down"))
        self.slider.setToolTip(tr("Lay the layers down one after another, as they will be pressed"))
        self.slider.setMaximum(0)
        self.slider.setPageStep(STEPS)
        self.slider.setSingleStep(STEPS // 4)
        self.label = Label()
        self.label.setProperty("chalk", True)
        self.label.setFixedWidth(130)
        self.slider.valueChanged.connect(self._follow)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(12)
        row.addWidget(self.label)
        row.addWidget(self.slider, 1)
        self._follow()

    @property
    def laid(self) -> float:
        """How many layers lie on the garment; a part for the one that is moving."""
        return self.slider.value() / STEPS

    def set_layers(self, count: int) -> None:
        """Let the slider reach to the last layer."""
        self.slider.setMaximum(count * STEPS)

    def _follow(self) -> None:
        laid = int(self.laid)
        self.label.setText("Lay them down" if laid == 0 else "1 layer laid" if laid == 1 else f"{laid} layers laid")
