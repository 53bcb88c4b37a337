"""A mat as it is loaded, seen from above: the mat with its edge, the films stuck on it, and the lines that are cut."""

from collections.abc import Collection, Iterable, Iterator
from contextlib import contextmanager
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPixmap, QPolygonF, QTransform
from shapely.geometry.base import BaseGeometry

from zinnet.base.units import Unit, write_length
from zinnet.nesting.sheet import film_of
from zinnet.ui.drawing import draw_label, mark_on, pen
from zinnet.ui.films import film_brush, ink_brush
from zinnet.ui.garment import fit_into
from zinnet.ui.region_paths import region_path
from zinnet.ui.theme import colour, theme

if TYPE_CHECKING:
    from zinnet.cutting.paths import CutPath, CutSheet
    from zinnet.geometry.region import Region
    from zinnet.layers.inks import Ink
    from zinnet.plan.loading import LoadedMat

BED, BED_EDGE = "#8fa3a0", "#5d706d"
GRID_MM = 50.0
MOST_LINES = 4000
_lines: dict[int, tuple["CutPath", QPolygonF]] = {}


def line_of(path: "CutPath") -> QPolygonF:
    """Return a line as a polygon of the painter's, made once."""
    kept = _lines.get(id(path))
    if kept is not None and kept[0] is path:
        return kept[1]
    made = QPolygonF([QPointF(x, y) for x, y in path.points.tolist()])
    if len(_lines) > MOST_LINES:
        _lines.clear()
    _lines[id(path)] = (path, made)
    return made


def mat_world(load: "LoadedMat", box: QRectF) -> QTransform:
    """Return the transform from mat mm to pixels so that the whole mat lies in a box."""
    width, height = load.size
    return fit_into(box, (0.0, 0.0, width, height))


def draw_bed(painter: QPainter, world: QTransform, load: "LoadedMat") -> None:
    """Draw the mat with its margin, and the films where they are stuck, spoiled spots hatched."""
    width, height = load.size
    mat = world.mapRect(QRectF(0, 0, width, height))
    painter.setPen(QPen(QColor(BED_EDGE), 2))
    painter.setBrush(QColor(BED))
    painter.drawRoundedRect(mat.adjusted(-5, -5, 5, 5), 6, 6)
    painter.setPen(QPen(QColor(255, 255, 255, 60), 1))
    for k in range(1, int(width // GRID_MM) + 1):
        x = world.map(QPointF(k * GRID_MM, 0)).x()
        painter.drawLine(QPointF(x, mat.top()), QPointF(x, mat.bottom()))
    for k in range(1, int(height // GRID_MM) + 1):
        y = world.map(QPointF(0, k * GRID_MM)).y()
        painter.drawLine(QPointF(mat.left(), y), QPointF(mat.right(), y))
    for trim in load.trims:
        stick = QTransform.fromTranslate(*load.stuck_at(trim)) * world
        painter.setTransform(stick, True)
        painter.setPen(pen("ink", 1))
        painter.setBrush(film_brush(trim.mat.nest.film))
        painter.drawPath(region_path(film_of(trim.mat.sheet)))
        painter.resetTransform()


def draw_pieces(painter: QPainter, world: QTransform, load: "LoadedMat", sheet: "CutSheet | None" = None) -> None:
    """Draw the pieces and the test cut where they lie; by the lines that are cut, where they are known."""
    for spot in load.test_spots:
        _draw_spot(painter, world, spot)
    if sheet is not None:
        for mat in load.mats:
            line = QPen(mark_on(mat.nest.film.colour), 1.2)
            line.setCosmetic(True)
            _draw(painter, world, [path for path in sheet.paths if path.film == mat.nest.film.id], line)
        return
    for trim, mat in zip(load.trims, load.mats, strict=True):
        ink = mark_on(mat.nest.film.colour)
        painter.setTransform(QTransform.fromTranslate(*load.stuck_at(trim)) * world, True)
        line = QPen(ink, 1.2)
        line.setCosmetic(True)
        painter.setPen(line)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for region in mat.regions:
            painter.drawPath(region_path(region, painter))
        painter.resetTransform()


def draw_print(painter: QPainter, world: QTransform, pieces: Iterable[tuple["Region", list["Ink"]]]) -> None:
    """Draw what is printed on a page, in its colours or as the picture that it is."""
    painter.setTransform(world, True)
    painter.setPen(Qt.PenStyle.NoPen)
    for _, inks in pieces:
        for ink in inks:
            painter.setBrush(ink_brush(ink))
            painter.drawPath(region_path(ink.region))
    painter.resetTransform()


def _draw_spot(painter: QPainter, world: QTransform, spot: BaseGeometry) -> None:
    left, top, right, bottom = spot.bounds
    box = world.mapRect(QRectF(QPointF(left, top), QPointF(right, bottom)))
    painter.setPen(pen("accent", 1.6, dashed=True))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(box)
    inner = box.adjusted(*(side * box.width() / 4 for side in (1, 1, -1, -1)))
    painter.drawPolygon(QPolygonF([QPointF(inner.center().x(), inner.top()), inner.bottomRight(), inner.bottomLeft()]))


def draw_film_corners(painter: QPainter, world: QTransform, load: "LoadedMat", unit: Unit) -> None:
    """Draw how far each film's corner lies from the mat's left and upper edge, where it does not lie in its corner."""
    for trim in load.trims:
        left, top = load.stuck_at(trim)
        corner = world.map(QPointF(left, top))
        for end, mm, label in (
            (world.map(QPointF(0, top)), left, QPointF(corner.x() + 8, world.map(QPointF(0, 0)).y() - 18)),
            (world.map(QPointF(left, 0)), top, QPointF(world.map(QPointF(0, 0)).x() - 36, corner.y() + 8)),
        ):
            if mm > 0:
                painter.setPen(pen("accent", 2.5))
                painter.drawLine(end, corner)
                draw_label(painter, label, write_length(mm, unit=unit))


class MatLayers:
    """A mat with its lines as pictures: what is to come is drawn once, what is cut is added line by line."""

    def __init__(self) -> None:
        self._key: tuple[object, ...] | None = None
        self._base = self._done = QPixmap()
        self._drawn: set[str] = set()

    def draw(
        self,
        painter: QPainter,
        world: QTransform,
        load: "LoadedMat",
        sheet: "CutSheet",
        *,
        done: Collection[str],
        doubtful: Collection[str],
        current: str | None,
    ) -> None:
        """Draw lines to come thin, those that are cut strong, those in doubt and the one under the knife lit."""
        device = painter.device()
        ratio = device.devicePixelRatioF()
        size = QSize(device.width(), device.height())
        key = (id(sheet.paths), load.key, size, ratio, theme(), world.m11(), world.dx(), world.dy())
        if key != self._key or not self._drawn <= set(done):
            self._key, self._drawn = key, set()
            self._base, self._done = _empty(size, ratio), _empty(size, ratio)
            with _painting(self._base) as on_base:
                draw_bed(on_base, world, load)
                plain = QPen(QColor(40, 40, 40, 130), 1)
                plain.setCosmetic(True)
                _draw(on_base, world, sheet.paths, plain)
        fresh = [path for path in sheet.paths if path.name in done and path.name not in self._drawn]
        if fresh:
            with _painting(self._done) as on_done:
                _draw(on_done, world, fresh, pen("good", 2.4))
            self._drawn |= {path.name for path in fresh}
        painter.drawPixmap(0, 0, self._base)
        painter.drawPixmap(0, 0, self._done)
        for path in sheet.paths:
            if path.name in doubtful:
                _draw(painter, world, [path], pen("accent", 3, dashed=path.name != current))


def _empty(size: QSize, ratio: float) -> QPixmap:
    picture = QPixmap(size * ratio)
    picture.setDevicePixelRatio(ratio)
    picture.fill(Qt.GlobalColor.transparent)
    return picture


@contextmanager
def _painting(picture: QPixmap) -> Iterator[QPainter]:
    with QPainter(picture) as painter:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        yield painter


def _draw(painter: QPainter, world: QTransform, paths: Iterable["CutPath"], with_pen: QPen) -> None:
    painter.setTransform(world, True)
    painter.setPen(with_pen)
    for path in paths:
        painter.drawPolyline(line_of(path))
    painter.resetTransform()


def draw_head(painter: QPainter, world: QTransform, at: QPointF, *, down: bool) -> None:
    """Draw the head over the mat: a bar across with the knife's holder on it."""
    point = world.map(at)
    painter.setPen(pen("ink", 1.5))
    painter.setBrush(colour("accent" if down else "card_light"))
    painter.drawEllipse(point, 7, 7)
    painter.drawLine(QPointF(point.x(), point.y() - 16), QPointF(point.x(), point.y() - 7))
