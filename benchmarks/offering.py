"""Mends proven beside the window, on a large design: how soon they are offered, and whether the window feels it."""

import os
import time

import numpy as np

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")


def run() -> None:
    """Seconds until the mends of 361 shapes are offered, and the gaps of the event loop meanwhile (offscreen)."""
    from PySide6.QtCore import QSettings

    from benchmarks.dragging import SHAPES, many_shapes
    from zinnet.bench.document import Document
    from zinnet.job.edits import open_artwork, set_placement
    from zinnet.ui.application import make_application
    from zinnet.ui.session import Session
    from zinnet.ui.window import MainWindow
    from zinnet.workshop.model import standard_workshop

    app = make_application()
    document = Document(standard_workshop())
    document.apply(open_artwork("wings.svg", many_shapes()))
    document.apply(set_placement("x", width_mm=250.0))
    session = Session()
    window = MainWindow(session, QSettings("zinnet", "benchmark"))
    window.show()
    session.show_document(document)
    window.go_to("split")
    offers = window.findings.offers

    def gaps_until(is_done) -> tuple[float, list[float]]:
        gaps, begun = [], time.perf_counter()
        last = begun
        while not is_done() and last - begun < 60:
            app.processEvents()
            time.sleep(0.001)
            now = time.perf_counter()
            gaps.append((now - last) * 1000)
            last = now
        return last - begun, gaps

    gaps_until(lambda: not session.background.is_busy and not offers.is_working)
    for width in (249.0, 251.0, 248.0):
        session.apply(set_placement("x", width_mm=width))
        window.grab()
        took, gaps = gaps_until(lambda: not offers.is_working)
        end = time.perf_counter() + took
        _, quiet = gaps_until(lambda end=end: time.perf_counter() > end)
        mends = sum(len(card.mends) for card in window.findings.cards)
        print(
            f"{SHAPES} shapes: {mends} mends of {len(window.findings.cards)} findings offered after {took:.2f} s; gaps "
            f"of the event loop {np.median(gaps):.0f} ms, longest {max(gaps):.0f}, {sum(gap > 50 for gap in gaps)} over "
            f"50 ms; without proofs the longest is {max(quiet):.0f}"
        )
    session.document.saved = session.job
    window.close()
