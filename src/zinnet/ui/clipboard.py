"""What is copied and pasted: drawings, pictures, files, words, lists of names; and pictures of what is on the table."""

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Protocol, cast

from PySide6.QtCore import QMimeData, Qt
from PySide6.QtGui import QGuiApplication, QPainter

from zinnet.ui.language import tr
from zinnet.ui.pictures import clear_picture, png_of

if TYPE_CHECKING:
    from collections.abc import Mapping

    from PySide6.QtWidgets import QWidget

    from zinnet.artwork.source import Source
    from zinnet.layers.stack import FilmLayer
    from zinnet.ui.job_files import JobFiles
    from zinnet.ui.names.page import NamesPage
    from zinnet.ui.session import Session

SVG = "image/svg+xml"
PICTURE_PX = 1200
"""The longer side of a copied picture, in pixels."""
NOTHING = "Nothing was copied that can be put on the table: copy a drawing, a picture or words."
TABLES = (".csv", ".tsv", ".txt")


class Table(Protocol):
    """The window, as far as something is pasted into it."""

    session: "Session"
    files: "JobFiles"

    @property
    def full_pages(self) -> "Mapping[str, QWidget]":
        """The pages that cover the table."""

    def open_page(self, page: str) -> None:
        """Show a page."""

    def begin_design(self, source: "Source") -> None:
        """Put a text on the table."""


class Clipboard:
    """Takes what was copied elsewhere, and copies pictures."""

    def __init__(self, window: Table) -> None:
        self.window = window

    def paste(self) -> None:
        """Bring what was copied to the table."""
        self.take(QGuiApplication.clipboard().mimeData())

    def take(self, mime: QMimeData) -> None:
        """Bring what is pasted or dropped: files, a drawing, a picture, a list of names, or words."""
        files, text = self.window.files, mime.text().strip()
        paths = [Path(url.toLocalFile()) for url in mime.urls() if url.isLocalFile()]
        svg = bytes(mime.data(SVG).data()) or (text.encode() if _is_svg(text) else b"")
        if paths:
            self.take_files(paths)
        elif svg:
            files.bring(tr("the drawing"), partial(files.opener.open_data, "pasted.svg", svg))
        elif mime.hasImage():
            data = png_of(mime.imageData())
            files.bring(tr("the picture"), partial(files.opener.open_data, "pasted.png", data))
        elif _is_table(text):
            self._names().read(text, tr("what was copied"))
        elif text:
            self._write(text)
        else:
            self.window.session.said.emit(
                tr("Nothing was copied that can be put on the table: copy a drawing or words.")
            )

    def take_files(self, paths: list[Path]) -> None:
        """Open files: a table is a list of names, all else jobs and artwork."""
        tables = [path for path in paths if path.suffix.lower() in TABLES]
        for path in tables[:1]:
            self._names().open_list(path)
        others = [path for path in paths if path not in tables]
        if others:
            self.window.files.open_paths(others)

    def copy(self) -> None:
        """Copy a picture of the garment that is looked at, with what is on it."""
        from zinnet.ui.garment import garment_picture

        selection = self.window.session.selection
        garment = selection.garment
        image = garment_picture(garment, selection.chosen_panel or garment.blank.main, PICTURE_PX)
        QGuiApplication.clipboard().setImage(image)
        self.window.session.said.emit(f"Copied: a picture of {garment.blank.name}.")

    def copy_layer(self, row: "FilmLayer") -> None:
        """Copy a picture of a layer of the selected design, as it is seen when worn, with nothing around it."""
        from zinnet.ui.films import layer_brushes
        from zinnet.ui.region_paths import region_path

        design = self.window.session.selection.composed
        if design is None:
            return
        image, to_pixels = clear_picture(row.layer.region.bounds, PICTURE_PX)
        with QPainter(image) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setTransform(to_pixels)
            painter.setPen(Qt.PenStyle.NoPen)
            for brush, region in layer_brushes(design, row):
                painter.setBrush(brush)
                painter.drawPath(region_path(region))
        QGuiApplication.clipboard().setImage(image)
        self.window.session.said.emit(f"Copied: a picture of layer {row.layer.order}.")

    def _names(self) -> "NamesPage":
        self.window.open_page("names")
        return cast("NamesPage", self.window.full_pages["names"])

    def _write(self, text: str) -> None:
        from zinnet.base.errors import ZinnetError
        from zinnet.ui.new_designs import new_text

        try:
            source = new_text(self.window.session, text)
        except ZinnetError as error:
            self.window.session.said.emit(str(error))
        else:
            self.window.begin_design(source)


def _is_svg(text: str) -> bool:
    return "<svg" in text[:2000] and text.startswith("<")


def _is_table(text: str) -> bool:
    """Whether a text is a list of names: its first line names the columns."""
    head, _, rows = text.partition("\n")
    columns = {cell.strip().casefold() for cell in head.replace(";", ",").replace("\t", ",").split(",")}
    return bool(rows.strip()) and "name" in columns
