"""A region on screen is the region: its box, its holes, its parts."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import QPointF
from PySide6.QtGui import QColor, QImage, QPainter

from zinnet.geometry.region import EMPTY, Region
from zinnet.ui.region_paths import region_path

FRAME = shapely.box(0, 0, 40, 30) - shapely.box(10, 10, 30, 20)
TWO = Region([FRAME, shapely.Point(60, 15).buffer(12)])


def test_parts_and_holes_of_a_region_are_those_of_its_path():
    path = region_path(TWO)
    box = path.boundingRect()
    assert (box.left(), box.top(), box.right(), box.bottom()) == pytest.approx(TWO.bounds)
    assert path.elementCount() == shapely.get_num_coordinates(TWO)
    assert path.contains(QPointF(5, 5))
    assert path.contains(QPointF(60, 15))
    assert not path.contains(QPointF(20, 15))
    assert not path.contains(QPointF(45, 15))
    assert region_path(EMPTY).isEmpty()


@given(st.lists(st.tuples(*[st.integers(0, 60)] * 2, *[st.integers(2, 30)] * 2), min_size=1, max_size=6))
def test_as_many_pixels_are_filled_as_the_region_has_square_millimetres(qapp, boxes):
    region = Region(
        list(shapely.get_parts(shapely.union_all([shapely.box(x, y, x + w, y + h) for x, y, w, h in boxes])))
    )
    image = QImage(100, 100, QImage.Format.Format_Grayscale8)
    image.fill(QColor("black"))
    with QPainter(image) as painter:
        painter.fillPath(region_path(region), QColor("white"))
    pixels = np.frombuffer(image.constBits(), np.uint8).reshape(100, image.bytesPerLine())[:, :100]
    assert np.count_nonzero(pixels) == region.area
