"""One of four designs dragged over the others: how soon the picture follows, and what comes of it."""

import os
import random
import sys
import time

import numpy as np

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

SHAPES, STEPS = 361, 40
COLOURS = (
    *("#d62828", "#1f57c3", "#f4ead5", "#2f9e44", "#ee7623"),
    *("#1a1a1a", "#8fd6b4", "#e9a53a", "#7b2d8b", "#c1440e"),
)


def many_shapes(seed: int = 1) -> bytes:
    """Return a drawing of 361 shapes in 10 colours, a moth's wing to each of a grid's fields."""
    rng, body = random.Random(seed), []
    for k in range(SHAPES):
        x, y, r = 52 * (k % 19), 52 * (k // 19), rng.uniform(14, 30)
        body.append(
            f'<path d="M{x} {y}c{r} {-r} {r * 2} {r} {r} {r * 1.5}s{-r * 2} {-r / 2} {-r} {-r * 1.5}z" '
            f'fill="{COLOURS[k % len(COLOURS)]}"/>'
        )
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="-60 -60 1100 1100">{"".join(body)}</svg>'.encode()


def run() -> None:
    """Seconds from a movement of the mouse to the picture, and from the hand's rest to the findings (offscreen)."""
    from PySide6.QtCore import QPoint, QPointF, QSettings, Qt
    from PySide6.QtGui import QMouseEvent

    from zinnet.artwork.lettering.text import TextSpec
    from zinnet.artwork.source import TextArt
    from zinnet.bench.document import Document
    from zinnet.job.edits import add_source, open_artwork, set_placement
    from zinnet.ui.application import make_application
    from zinnet.ui.session import Session
    from zinnet.ui.window import MainWindow
    from zinnet.workshop.model import standard_workshop

    app = make_application()
    document = Document(standard_workshop())
    document.apply(open_artwork("wings.svg", many_shapes()))
    document.apply(set_placement("x", width_mm=250.0, from_centre_mm=0.0, from_reference_mm=70.0))
    for number, (words, down) in enumerate((("Lantern", 120.0), ("Walk", 200.0), ("steward", 370.0)), start=1):
        document.apply(add_source(words, TextArt(text=TextSpec(text=words))))
        document.apply(set_placement("x", design=number, width_mm=110.0, from_centre_mm=0.0, from_reference_mm=down))
    session = Session()
    window = MainWindow(session, QSettings("zinnet", "benchmark"))
    window.show()
    session.show_document(document)
    session.selection.look_at(design=3)
    window.go_to("fit")
    view = window.view

    def send(kind: QMouseEvent.Type, at: QPoint, button: Qt.MouseButton) -> None:
        held = Qt.MouseButton.NoButton if kind == QMouseEvent.Type.MouseButtonRelease else Qt.MouseButton.LeftButton
        app.sendEvent(
            view,
            QMouseEvent(kind, QPointF(at), view.mapToGlobal(QPointF(at)), button, held, Qt.KeyboardModifier.NoModifier),
        )

    def settle(limit_s: float, is_done) -> float:
        begun = time.perf_counter()
        while time.perf_counter() - begun < limit_s and not is_done():
            app.processEvents()
            time.sleep(0.001)
        return time.perf_counter() - begun

    settle(20, lambda: not session.background.is_busy)
    middle = session.plan.garments[0].designs[3].placement.centre
    at = view.to_pixels(*middle).toPoint()
    send(QMouseEvent.Type.MouseButtonPress, at, Qt.MouseButton.LeftButton)
    pictures, seen, rests = [], [], []
    for step in range(STEPS):
        at += QPoint(1 if step % 2 else -1, -3)
        begun = time.perf_counter()
        send(QMouseEvent.Type.MouseMove, at, Qt.MouseButton.NoButton)
        view.grab()
        pictures.append(time.perf_counter() - begun)
        if step % 10 == 9:
            before = session.job
            begun = settle(30, lambda: view.carried.ahead is not None)
            drawn = time.perf_counter()
            view.grab()
            begun += time.perf_counter() - drawn
            seen.append(begun)
            rests.append(begun + settle(30, lambda before=before: session.job is not before and not session.is_working))
    send(QMouseEvent.Type.MouseButtonRelease, at, Qt.MouseButton.LeftButton)
    settle(30, lambda: not view.carried.is_active)
    print(
        f"{SHAPES} shapes and 3 words, {len(session.plan.garments[0].compositions)} composition: the picture follows "
        f"within {np.median(pictures) * 1000:.0f} ms (longest {max(pictures) * 1000:.0f}); "
        f"what is cut then and what is wrong between the designs {np.median(seen) * 1000:.0f} ms after the hand rests "
        f"(longest {max(seen) * 1000:.0f}), all else {np.median(rests) * 1000:.0f} ms (longest {max(rests) * 1000:.0f})"
    )
    sys.stdout.flush()
    session.document.saved = session.job
    window.close()
