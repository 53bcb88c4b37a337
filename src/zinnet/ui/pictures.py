"""Pictures: clear ones to draw on in mm, and as bytes."""

from PySide6.QtCore import QBuffer, QIODevice
from PySide6.QtGui import QColor, QImage, QTransform


def clear_picture(box: tuple[float, float, float, float], side: int) -> tuple[QImage, QTransform]:
    """Return a clear picture of a box in mm, its longer side so many pixels, and what brings mm to its pixels."""
    left, top, right, bottom = box
    scale = side / max(right - left, bottom - top)
    wide, high = (max(1, round(length * scale)) for length in (right - left, bottom - top))
    image = QImage(wide, high, QImage.Format.Format_ARGB32)
    image.fill(QColor(0, 0, 0, 0))
    return image, QTransform.fromScale(scale, scale).translate(-left, -top)


def png_of(image: QImage) -> bytes:
    """Return a picture as a PNG."""
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")  # type: ignore[call-overload]
    return bytes(buffer.data().data())
