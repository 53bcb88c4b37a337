"""Printing at true size: the pages of a PDF on a printer of the system, with a preview before."""

from PySide6.QtCore import QMarginsF, QRectF, QSizeF, Qt
from PySide6.QtGui import QImage, QPageLayout, QPageSize, QPainter
from PySide6.QtPrintSupport import QPrinter, QPrintPreviewDialog
from PySide6.QtWidgets import QWidget

from zinnet.ui.language import tr

POINTS_PER_IN = 72
MOST_DPI = 400
"""Finer is no page drawn: a dot of it is 0.06 mm."""


class Preview(QPrintPreviewDialog):
    """The pages as they will be printed; its button asks for the printer, by the dialog of the system."""

    def __init__(self, window: QWidget, pdf: bytes, title: str) -> None:
        self._printer = QPrinter(QPrinter.PrinterMode.HighResolution)  # the dialog itself does not keep it
        super().__init__(self._printer, window)
        self._printer.setDocName(title)
        self.setWindowTitle(f"{tr('Print')}: {title}")
        self.resize(900, 700)
        self.paintRequested.connect(lambda on: print_pages(on, pdf))
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)


def print_pages(printer: QPrinter, pdf: bytes) -> None:
    """Print the pages of a PDF, each on paper of its own size and at its true size, whatever the printer's margins."""
    import pypdfium2

    document = pypdfium2.PdfDocument(pdf)
    try:
        before: tuple[float, float] | None = None
        dpi = min(printer.resolution(), MOST_DPI)
        for number in range(len(document)):
            page = document[number]
            wide, high = page.get_size()
            if (wide, high) != before:
                _set_page(printer, wide, high)
                before = wide, high
            if number == 0:
                painter = QPainter(printer)
                painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            else:
                printer.newPage()
            picture = page.render(scale=dpi / POINTS_PER_IN).to_pil().convert("RGB")
            image = QImage(
                picture.tobytes(), picture.width, picture.height, 3 * picture.width, QImage.Format.Format_RGB888
            )
            dots = printer.resolution() / POINTS_PER_IN
            painter.drawImage(QRectF(0, 0, wide * dots, high * dots), image)
        painter.end()
    finally:
        document.close()


def _set_page(printer: QPrinter, wide_pt: float, high_pt: float) -> None:
    size = QPageSize(
        QSizeF(min(wide_pt, high_pt), max(wide_pt, high_pt)),
        QPageSize.Unit.Point,
        "",
        QPageSize.SizeMatchPolicy.FuzzyMatch,
    )
    turned = QPageLayout.Orientation.Landscape if wide_pt > high_pt else QPageLayout.Orientation.Portrait
    printer.setFullPage(True)
    printer.setPageLayout(QPageLayout(size, turned, QMarginsF(0, 0, 0, 0)))
    printer.setFullPage(True)
