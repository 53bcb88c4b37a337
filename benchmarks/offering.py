"""Mends proven beside the window, on a large design: how soon they are offered, and whether the window feels it."""

import os
import time
from unittest import mock

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

BEAT_MS, MOST_S = 10, 60


def _over(gaps: list[float]) -> int:
    return sum(gap > 50 for gap in gaps)


def run() -> None:
    """Seconds until the mends of 361 shapes are offered, and the gaps of the event loop meanwhile (offscreen)."""
    from PySide6.QtCore import QEventLoop, QSettings, Qt, QTimer

    from benchmarks.dragging import SHAPES, many_shapes
    from zinnet.bench.document import Document
    from zinnet.job.edits import open_artwork, set_placement
    from zinnet.ui.application import make_application
    from zinnet.ui.session import Session
    from zinnet.ui.window import MainWindow
    from zinnet.workshop.model import standard_workshop

    application = make_application()
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
        """Let the window be until something is done; return for how long, and how late each beat came, in ms."""
        loop, late, begun = QEventLoop(), [], time.perf_counter()
        last = [begun]

        def beat() -> None:
            now = time.perf_counter()
            late.append((now - last[0]) * 1000 - BEAT_MS)
            last[0] = now
            if is_done() or now - begun > MOST_S:
                loop.quit()

        timer = QTimer(interval=BEAT_MS, timerType=Qt.TimerType.PreciseTimer)
        timer.timeout.connect(beat)
        timer.start()
        loop.exec()
        return last[0] - begun, late

    gaps_until(lambda: not session.background.is_busy and not offers.is_working)
    nester = session.nester
    for width in (249.0, 251.0, 248.0):
        session.apply(set_placement("x", width_mm=width))
        window.grab()
        took, gaps = gaps_until(lambda: not offers.is_working)
        gaps_until(lambda: not nester.is_running)
        mends = sum(len(card.mends) for card in window.findings.cards)
        with mock.patch.object(type(offers), "look_at", return_value=None):
            session.apply(set_placement("x", width_mm=width + 0.5))
            window.grab()
            end = time.perf_counter() + took
            _, bare = gaps_until(lambda end=end: time.perf_counter() > end)
            gaps_until(lambda: not nester.is_running)
        print(
            f"{SHAPES} shapes: {mends} mends of {len(window.findings.cards)} findings offered after {took:.2f} s "
            f"ahead of the search for a nest; gaps of the event loop, longest {max(gaps):.0f} ms, {_over(gaps)} over "
            f"50 ms; after a like edit without proofs, for as long, {max(bare):.0f} ms and {_over(bare)}"
        )
    session.document.saved = session.job
    window.close()
    del application
