"""Printing by the system's printers: pages come out at their true size, on paper of their own size."""

import numpy as np
import pypdfium2
import pytest
from PySide6.QtPrintSupport import QPrinter, QPrintPreviewDialog
from PySide6.QtWidgets import QApplication
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from zinnet.ui.printing import print_pages

BAR_MM, LEFT_MM, FOOT_MM = 100.0, 23.4, 41.7
DPI = 600
SIZES = {"a4": (210, 297), "letter": (215.9, 279.4), "wide": (420, 297)}


def paper(path, sizes):
    """Write a PDF with a bar of 100 mm on each page."""
    canvas = Canvas(str(path))
    for wide, high in sizes:
        canvas.setPageSize((wide * mm, high * mm))
        canvas.rect(LEFT_MM * mm, FOOT_MM * mm, BAR_MM * mm, 4 * mm, stroke=0, fill=1)
        canvas.showPage()
    canvas.save()
    return path.read_bytes()


def pdf_printer(path):
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(path))
    return printer


def bar_on(page):
    """Return left, right, foot of what is black on a page, in mm."""
    dark = np.asarray(page.render(scale=DPI / 72).to_pil().convert("L")) < 128
    rows, columns = np.nonzero(dark.any(axis=1))[0], np.nonzero(dark.any(axis=0))[0]
    return tuple(v * 25.4 / DPI for v in (columns[0], columns[-1] + 1, dark.shape[0] - rows[-1] - 1))


def test_lengths_on_paper_are_true_to_a_tenth_of_a_millimetre(qtbot, tmp_path):
    pdf = paper(tmp_path / "made.pdf", SIZES.values())
    print_pages(pdf_printer(tmp_path / "printed.pdf"), pdf)
    printed = pypdfium2.PdfDocument(tmp_path / "printed.pdf")
    assert len(printed) == len(SIZES)
    for page, (wide, high) in zip(printed, SIZES.values(), strict=True):
        assert [v / mm for v in page.get_size()] == pytest.approx([wide, high], abs=0.4)
        left, right, foot = bar_on(page)
        assert right - left == pytest.approx(BAR_MM, abs=0.1)
        assert (left, foot) == pytest.approx((LEFT_MM, FOOT_MM), abs=0.3)


def test_the_job_sheet_is_shown_before_it_is_printed(demo, qtbot):
    demo.papers.print(demo.papers.job_sheet())

    def shown():
        return next((one for one in QApplication.topLevelWidgets() if isinstance(one, QPrintPreviewDialog)), None)

    qtbot.waitUntil(lambda: shown() is not None)
    assert demo.session.job.title in shown().windowTitle()
    shown().close()
