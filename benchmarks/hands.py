"""A fixed walk through the real window by an unseen hand: how soon the picture follows, and whether the window stands.

Each action is done on three jobs: the demo's tee, 361 shapes in 10 colours, and 24 names. Beside it stands the longest
gap of the event loop and how long it took until all had settled.
"""

import itertools
import os
import statistics
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any, NamedTuple

from PySide6.QtCore import QEvent, QObject

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

BEAT_MS = 2
MOST_S = 60.0
FOLLOWS = ("nudge", "drag", "resize", "recolour")
LIMITS = "wanted: picture 100 ms (median) and 150 ms (worst), pages 300 ms, gaps 50 ms for 99 % and never above 120 ms"


class Done(NamedTuple):
    """One action: until the picture showed it, the longest gap of the event loop, until all had settled, in ms."""

    job: str
    action: str
    seen_ms: float
    gap_ms: float
    settled_ms: float


class Drawn(QObject):
    """Notes when the window is drawn."""

    def __init__(self, window: Any) -> None:
        super().__init__(window)
        self.is_so = False
        window.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:  # noqa: N802 - Qt calls it so
        """Look at what the window is told: all of it that is to be drawn anew is drawn with this event."""
        self.is_so = self.is_so or event.type() == QEvent.Type.UpdateRequest
        return False


class Hand:
    """Does things in the window and looks at the clock."""

    def __init__(self, app: Any, window: Any) -> None:
        from PySide6.QtCore import QEventLoop, QTimer

        self._waits = QEventLoop.ProcessEventsFlag.WaitForMoreEvents
        self.app, self.window, self.session = app, window, window.session
        self.job = ""
        self.done: list[Done] = []
        self._beats: list[float] = []
        self._timer = QTimer(interval=BEAT_MS)
        self._timer.timeout.connect(lambda: self._beats.append(time.perf_counter()))
        self._timer.start()
        self._drawn = Drawn(window)

    def is_settled(self) -> bool:
        """Whether nothing is worked out any more, but for the search for nests."""
        session = self.session
        return not (session.background.is_busy or session.is_working or self.window.findings.offers.is_working)

    def turn(self) -> None:
        """Let the event loop turn once, as it does by itself: it sleeps until there is something to do."""
        self.app.processEvents(self._waits)

    def until(self, is_so: Callable[[], bool]) -> float:
        """Let the window be until something is so; return when that was, on the clock."""
        end = time.perf_counter() + MOST_S
        while not is_so() and time.perf_counter() < end:
            self.turn()
        return time.perf_counter()

    def do(self, action: str, act: Callable[[], object], shows: Callable[[], bool] = lambda: True) -> None:
        """Do something; note when the picture showed it, how long the loop stood still, and when all had settled."""
        self.until(self.is_settled)
        self._beats = [time.perf_counter()]
        begun = time.perf_counter()
        act()
        self._drawn.is_so = False
        self.until(lambda: (shows() and self._drawn.is_so) or self.is_settled())
        seen = time.perf_counter()
        settled = self.until(self.is_settled)
        self.turn()
        beats = [*self._beats, time.perf_counter()]
        gap = max(after - before for before, after in itertools.pairwise(beats))
        row = Done(self.job, action, (seen - begun) * 1000, gap * 1000, (settled - begun) * 1000)
        self.done.append(row)
        print(
            f"  {action:<22} seen {row.seen_ms:6.0f}   gap {row.gap_ms:6.0f}   settled {row.settled_ms:6.0f}",
            flush=True,
        )


def walk(hand: Hand, name: str, make: Callable[[], Any], folder: Path) -> None:
    """Do the whole walk on one job."""
    from PySide6.QtCore import QPoint, QPointF, Qt
    from PySide6.QtGui import QMouseEvent
    from PySide6.QtTest import QTest

    from zinnet.bench.nesting import nest_document
    from zinnet.job.edits import choose_film, set_layers, set_sizes
    from zinnet.steps.model import Drop

    window, session = hand.window, hand.session
    hand.job = name
    print(f"{name}:", flush=True)
    made = make()
    hand.do("open", lambda: session.show_document(made), lambda: session.has_artwork)
    for station in window.stations:
        hand.do(f"go to {station}", lambda station=station: window.go_to(station))
        pages = getattr(window.stations[station], "pages", None)
        for page in getattr(pages, "buttons", ()):
            hand.do(f"  {station}: {page}", lambda page=page, station=station: window.stations[station].show_page(page))
    for page in window.full_pages:
        if page != "names" or session.job.names.rows:
            hand.do(f"page {page}", lambda page=page: window.open_page(page))
    window.go_to("fit")
    view = window.view

    def place() -> tuple[float, ...]:
        placement = view.carried.shown(session.selection.design)
        return (*placement.matrix.ravel().tolist(), view.held.width_mm)

    def changes(before: tuple[float, ...]) -> Callable[[], bool]:
        return lambda: place() != before

    for _ in range(5):
        hand.do("nudge", lambda: QTest.keyClick(view, Qt.Key.Key_Right), changes(place()))

    def mouse(kind: Any, at: QPoint, button: Any = Qt.MouseButton.LeftButton) -> None:
        held = Qt.MouseButton.NoButton if kind == QMouseEvent.Type.MouseButtonRelease else Qt.MouseButton.LeftButton
        where = view.mapToGlobal(QPointF(at))
        hand.app.sendEvent(view, QMouseEvent(kind, QPointF(at), where, button, held, Qt.KeyboardModifier.NoModifier))

    middle = session.selection.design.placement.centre
    at = view.to_pixels(*middle).toPoint()
    mouse(QMouseEvent.Type.MouseButtonPress, at)
    for _ in range(5):
        at += QPoint(-9, 4)
        hand.do("drag", lambda at=at: mouse(QMouseEvent.Type.MouseMove, at, Qt.MouseButton.NoButton), changes(place()))
    hand.do("let go", lambda: mouse(QMouseEvent.Type.MouseButtonRelease, at))
    for step in range(4):
        width = view.held.width_mm * (0.97 - 0.01 * step)
        hand.do("resize", lambda width=width: view.held.set_width(width), changes(place()))
    window.go_to("split")
    window.view.show_page("apart")
    for _ in range(20):
        hand.turn()

    def films() -> list[str]:
        return [row.film.id for row in session.selection.stack.in_press_order if row.film is not None]

    colour, *with_it = session.selection.stack.in_press_order[0].colours
    for film in ("brick", "gold-glitter", "moss-flock"):
        hand.do(
            "recolour",
            lambda film=film: session.apply(choose_film(colour, film, *with_it)),
            lambda film=film: film in films(),
        )
    for lap in (0.6, 0.8):
        hand.do("lap", lambda lap=lap: session.apply(set_layers("lap", lap_mm=lap)))
    if len(session.selection.stack.layers) > 2:
        before = len(session.selection.stack.layers)
        window.go_to("artwork")
        artwork = window.stations["artwork"]
        artwork.choose_nothing()
        artwork.chosen_colour = colour
        gone = session.selection
        hand.do("delete a colour", lambda: artwork.do_step(Drop), lambda: colour in gone.gone or gone.ahead is not None)
        hand.do("undo", session.undo, lambda: len(session.selection.stack.layers) == before)
    if not session.job.names.rows:
        size = set_sizes((("adult-l", 2),))
        hand.do("add a size", lambda: session.apply(size), lambda: len(session.plan.garments) > 1)
    session.nester.stop()
    hand.until(hand.is_settled)
    nest_document(session.document)
    session.plan_changed.emit()
    hand.do("write cut files", lambda: session.exporter.export(session.plan, session.books.store, folder / name))
    session.document.saved = session.job


def jobs() -> dict[str, Callable[[], Any]]:
    """Return how the documents of the walk are made."""
    from benchmarks.dragging import many_shapes
    from zinnet.bench.document import Document
    from zinnet.demo import demo_document
    from zinnet.job.edits import open_artwork, set_placement
    from zinnet.workshop.model import standard_workshop

    def wings() -> Document:
        document = Document(standard_workshop())
        document.apply(open_artwork("wings.svg", many_shapes()))
        document.apply(set_placement("x", width_mm=250.0))
        return document

    return {"demo tee": demo_document, "361 shapes": wings, "24 names": lambda: demo_document(name="names")}


def run() -> None:
    """A walk through the window on three jobs: until the picture follows, the longest gap, until all has settled."""
    from PySide6.QtCore import QSettings

    from zinnet.ui.application import make_application
    from zinnet.ui.collecting import Collecting
    from zinnet.ui.making_ready import MakingReady
    from zinnet.ui.session import Session
    from zinnet.ui.warm_up import WarmUp
    from zinnet.ui.window import MainWindow

    chosen = [job for job in jobs() if job in sys.argv] or [*jobs()]
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        os.environ.update(dict.fromkeys(("XDG_STATE_HOME", "XDG_DATA_HOME", "XDG_CONFIG_HOME"), name))
        app = make_application()
        collecting = Collecting(app)
        hand = Hand(app, MainWindow(Session(folder), QSettings(str(folder / "s.ini"), QSettings.Format.IniFormat)))
        hand.window.show()
        warm = WarmUp(hand.window)
        imported: list[bool] = []
        ready = MakingReady(hand.window)
        warm.ended.connect(ready.begin)
        ready.ended.connect(lambda: imported.append(True))
        warm.begin()
        hand.until(lambda: bool(imported))
        for job, make in jobs().items():
            if job in chosen:
                walk(hand, job, make, folder)
        hand.window.close()
        collecting.deleteLater()
    say(hand.done)


def say(done: list[Done]) -> None:
    """Print what came of it beside what is wanted."""
    print(LIMITS)
    for action in FOLLOWS:
        seen = [row.seen_ms for row in done if row.action == action]
        print(f"{action}: picture after {statistics.median(seen):.0f} ms (median), {max(seen):.0f} ms (worst)")
    pages = [row for row in done if row.action.startswith(("go to", "page", "  "))]
    late = [f"{row.job}, {row.action.strip()} {row.seen_ms:.0f}" for row in pages if row.seen_ms > 300]
    longest = max(row.seen_ms for row in pages)
    print(f"first visits of {len(pages)} pages: longest {longest:.0f} ms; over 300: {late or 'none'}")
    gaps = sorted(row.gap_ms for row in done)
    over = [f"{row.job}, {row.action.strip()} {row.gap_ms:.0f}" for row in done if row.gap_ms > 50]
    within = sum(gap <= 50 for gap in gaps) / len(gaps)
    print(f"gaps of {len(gaps)} actions: {within:.0%} within 50 ms, longest {gaps[-1]:.0f}")
    print("  over 50 ms: " + "; ".join(over))
