"""Pictures as bytes."""

from PySide6.QtCore import QBuffer, QIODevice
from PySide6.QtGui import QImage


def png_of(image: QImage) -> bytes:
    """Return a picture as a PNG."""
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")  # type: ignore[call-overload]
    return bytes(buffer.data().data())
