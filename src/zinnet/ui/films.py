"""How films look: in their colour, as their pattern's picture at life size, or with the specks of glitter."""

import base64
import random
from functools import lru_cache
from typing import TYPE_CHECKING

from PySide6.QtCore import QBuffer, QPointF, QSize, Qt
from PySide6.QtGui import QBrush, QColor, QIcon, QImageReader, QPainter, QPixmap, QTransform
from PySide6.QtSvg import QSvgRenderer

from zinnet.data import path_of
from zinnet.films.catalogue import Film, in_words, kind_of

if TYPE_CHECKING:
    from zinnet.geometry.region import Region
    from zinnet.layers.inks import Ink
    from zinnet.layers.stack import FilmLayer
    from zinnet.plan.fitted import FittedDesign

PIXELS_PER_MM = 6.0
SPECKS_MM = 12.0
SPECKS = 260
MOST_PATTERN_PX = 600
MOST_PICTURE_PX = 900
CHIP = 16
MATCHES = {"same": "same colour", "near": "close match", "visible": "fair match", "far": "poor match"}


def layer_brush(row: "FilmLayer") -> QBrush:
    """Return the brush of a layer, for a painter in mm: its film's, or the drawn colour where it has none."""
    return QBrush(QColor(row.layer.colour)) if row.film is None else film_brush(row.film)


def layer_brushes(design: "FittedDesign", row: "FilmLayer") -> list[tuple[QBrush, "Region"]]:
    """Return the brushes of a layer with what each of them fills: of a print every colour of the artwork."""
    if not row.is_print:
        return [(layer_brush(row), row.layer.region)]
    return [(ink_brush(ink), ink.region) for ink in design.shown(row)]


def ink_brush(ink: "Ink") -> QBrush:
    """Return the brush of an ink, for a painter in mm: its colour, or the picture that it is."""
    if not ink.picture:
        return QBrush(QColor(ink.colour))
    pixmap, shrunk = _picture(ink.picture)
    brush = QBrush(pixmap)
    brush.setTransform(QTransform.fromScale(shrunk, shrunk) * QTransform(*ink.matrix.T.ravel().tolist()))
    return brush


@lru_cache(maxsize=8)
def _picture(data: bytes) -> tuple[QPixmap, float]:
    """Return a picture, upright and no larger than a screen, and how many of its file's pixels each pixel spans."""
    file = QBuffer()
    file.setData(data)
    reader = QImageReader(file)
    reader.setAutoTransform(True)
    size = reader.size()
    shrunk = max(1.0, max(size.width(), size.height()) / MOST_PICTURE_PX)
    reader.setScaledSize(size / shrunk)
    pixmap = QPixmap.fromImage(reader.read())
    return pixmap, max(size.width(), size.height()) / max(1, pixmap.width(), pixmap.height())


@lru_cache(maxsize=256)
def film_brush(film: Film) -> QBrush:
    """Return a film's brush for a painter in mm."""
    picture = _own_pattern(film) if film.picture is not None else _pattern(film)
    if picture is None and kind_of(film).finish == "sparkling":
        picture = _sparkling(film.colour)
    if picture is None:
        return QBrush(QColor(film.colour))
    brush = QBrush(picture)
    brush.setTransform(QTransform.fromScale(1 / PIXELS_PER_MM, 1 / PIXELS_PER_MM))
    return brush


def _pattern(film: Film) -> QPixmap | None:
    """Return the picture of a film's pattern that ships with Zinnet; None where there is none."""
    path = path_of("patterns", film.pattern) if film.pattern and "/" not in film.pattern else None
    if path is None or not path.is_file() or path.suffix not in (".svg", ".png"):
        return None
    if path.suffix == ".png":
        reader = QImageReader(str(path))
        reader.setScaledSize(reader.size().boundedTo(QSize(MOST_PATTERN_PX, MOST_PATTERN_PX)))
        return QPixmap.fromImage(reader.read())
    renderer = QSvgRenderer(str(path))
    side = round(renderer.viewBoxF().width() / 10 * PIXELS_PER_MM)
    picture = QPixmap(side, side)
    picture.fill(QColor(film.colour))
    with QPainter(picture) as painter:
        renderer.render(painter)
    return picture


def _own_pattern(film: Film) -> QPixmap | None:
    """Return the picture of a pattern of the user's own; None where it can't be read."""
    picture = QPixmap()
    if not picture.loadFromData(base64.b64decode(film.picture or "")):
        return None
    wide = max(1, min(MOST_PATTERN_PX, round(film.picture_mm * PIXELS_PER_MM)))
    return picture.scaledToWidth(wide, Qt.TransformationMode.SmoothTransformation)


def _sparkling(film_colour: str) -> QPixmap:
    side = round(SPECKS_MM * PIXELS_PER_MM)
    picture = QPixmap(side, side)
    base = QColor(film_colour)
    picture.fill(base)
    with QPainter(picture) as painter:
        painter.setPen(Qt.PenStyle.NoPen)
        rng = random.Random(film_colour)
        for _ in range(SPECKS):
            painter.setBrush(rng.choice((base.lighter(118), base.lighter(135), base.darker(112), base.darker(125))))
            painter.drawEllipse(QPointF(rng.uniform(0, side), rng.uniform(0, side)), 1.1, 1.1)
    return picture


@lru_cache(maxsize=500)
def film_chip(film: Film, side: int = CHIP) -> QIcon:
    """Return a small square of a film."""
    pixmap = QPixmap(side, side)
    with QPainter(pixmap) as painter:
        brush = QBrush(film_brush(film))
        brush.setTransform(QTransform())
        painter.fillRect(pixmap.rect(), brush)
    return QIcon(pixmap)


def match_said(difference: float) -> str:
    """Return in words how well a film meets a colour, from their difference by CIEDE2000."""
    return MATCHES[in_words(difference)]
