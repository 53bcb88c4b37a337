"""What the window opens while names of strangers are full of markup, as strace sees it."""

import json
import os
import re
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

from fontTools.ttLib import TTFont

import zinnet
from tests.hostile.mutators import unzipped, zipped_whole
from zinnet.base.errors import ZinnetError
from zinnet.bench.document import Document
from zinnet.bench.nesting import nest_document
from zinnet.data import path_of
from zinnet.demo import demo_document
from zinnet.demo.shelf import demo_store
from zinnet.job.edits import set_order
from zinnet.job.file import packed_job, unpacked_job
from zinnet.workshop.opening import books_of
from zinnet.workshop.store import WorkshopStore
from zinnet.workshop.transfer import exported_workshop, import_workshop

CANARY = "canary.png"
STRACE = ("strace", "-f", "-qq", "-e", "trace=open,openat,openat2", "-o")
HOWS = ("prove", "names", "translated")
SYSTEM = ("/usr/", "/lib", "/etc/", "/proc/", "/sys/", "/dev/null", "/dev/urandom", "/dev/shm/", "/run/", "/var/")
OPENED = re.compile(r'(?:open|openat|openat2)\((?:AT_FDCWD, |\d+, )?"([^"]*)"')
OWN_TOML = {
    "films.toml": '[films.own]\nname = "{0}"\nkind = "smooth"\ncolour = "#ffffff"\nwidth_mm = 305\n',
    "machines.toml": '[mats.own]\nname = "{0}"\nwidth_mm = 305\nheight_mm = 305\nmargin_mm = 6\n'
    '[machines.own]\nname = "{0}"\nmats = ["own"]\n',
    "blanks.toml": '[own]\nlike = "tee"\nname = "{0}"\n',
    "prices.toml": 'hour = "24.00"\ncurrency = "{0}"\n',
}
SCRIPT = """
import os
import sys
import time
import traceback
from pathlib import Path
from PySide6.QtCore import QPoint, QTimer
from PySide6.QtWidgets import QApplication, QLabel, QToolTip, QWidget
from shiboken6 import isValid
from zinnet.ui import app as program
from zinnet.ui.application import make_application

app = make_application()
shown = 0

def window():
    return next(one for one in QApplication.topLevelWidgets() if type(one).__name__ == "MainWindow")

def settle(main, until=lambda: True, seconds=20):
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        app.processEvents()
        if until() and not main.session.background.is_busy:
            break
        time.sleep(0.002)

def look(main):
    global shown
    settle(main)
    main.grab()
    for widget in main.findChildren(QWidget):
        if isValid(widget) and widget.toolTip():
            shown += 1
            QToolTip.showText(QPoint(5, 5), widget.toolTip(), widget)
            app.processEvents()
    QToolTip.hideText()

def tour():
    main = window()
    settle(main, lambda: main.session.has_artwork, 300)
    assert main.session.has_artwork, main.message.text()
    if sys.argv[2] == "prove":
        label = QLabel(f"<img src='{sys.argv[3]}'>")
        label.show()
        label.grab()
        app.processEvents()
    for name in main.stations:
        main.go_to(name)
        look(main)
        pages = getattr(main.stations[name], "pages", {})
        for page in list(getattr(pages, "buttons", pages)):
            main.stations[name].show_page(page)
            look(main)
        main.enter_bench()
        look(main)
        main.leave_bench()
    for page in main.full_pages:
        main.open_page(page)
        look(main)
    for action in main.menuBar().actions():
        action.menu().aboutToShow.emit()
        action.menu().grab()
    for finding in main.session.plan.findings[:40]:
        main.session.said.emit(f"{finding.measured} {finding.id}")
    main.session.undo()
    title = main.session.job.title
    print(f"{shown} tips were shown; the job is called {title!r}", flush=True)
    main.session.document.saved = main.session.job
    main.close()

def guarded():
    try:
        tour()
    except BaseException:
        traceback.print_exc()
        os._exit(3)

QTimer.singleShot(500, guarded)
sys.exit(program.run_window(Path(sys.argv[1])))
"""


def marked(value: Any, mark: str, is_read: Callable[[Any], bool]) -> tuple[Any, int]:
    """Return what JSON holds with a mark in place of every text that may be any text; and how many there are."""
    changed = json.loads(json.dumps(value))
    spots: list[tuple[Any, Any]] = []

    def walk(one: Any) -> None:
        keys = list(one) if isinstance(one, dict) else range(len(one)) if isinstance(one, list) else ()
        for key in keys:
            if isinstance(one[key], str):
                spots.append((one, key))
            walk(one[key])

    walk(changed)
    count = 0
    for holder, key in spots:
        before, holder[key] = holder[key], mark
        if is_read(changed):
            count += 1
        else:
            holder[key] = before
    return changed, count


def hostile_job(mark: str) -> tuple[bytes, int]:
    """Return the demo's job with a mark in every text, and in how many."""
    document = demo_document()
    document.apply(set_order("order", customer="a customer"))
    nest_document(document)
    entries = unzipped(packed_job(document.job, document.plan.layouts))

    def is_read(data: Any) -> bool:
        try:
            job, _ = unpacked_job(zipped_whole(entries | {"job.json": json.dumps(data).encode()}), "walk.zinnet")
            Document(document.workshop, job)
        except ZinnetError:
            return False
        return True

    data, count = marked(json.loads(entries["job.json"]), mark, is_read)
    return zipped_whole(entries | {"job.json": json.dumps(data).encode()}), count


def hostile_workshop(path: Path, mark: str) -> int:
    """Make a workshop with a mark in every text of the demo's; return in how many."""
    with tempfile.TemporaryDirectory() as name:
        entries = unzipped(exported_workshop(demo_store(Path(name))))
        tried = WorkshopStore(Path(name) / "tried.sqlite")

        def is_read(data: Any) -> bool:
            try:
                import_workshop(
                    tried, zipped_whole(entries | {"workshop.json": json.dumps(data).encode()}), "x", replace=True
                )
                books_of(tried)
            except ZinnetError:
                return False
            return True

        data, count = marked(json.loads(entries["workshop.json"]), mark, is_read)
    whole = zipped_whole(entries | {"workshop.json": json.dumps(data).encode()})
    import_workshop(WorkshopStore(path), whole, "x", replace=True)
    return count


def _font(path: Path, mark: str) -> None:
    """Write a font whose every name is a mark."""
    path.parent.mkdir(parents=True)
    font = TTFont(next(iter(sorted(path_of("fonts").rglob("*.ttf")))))
    for record in font["name"].names:
        record.string = mark
    font.save(path)


def _language(path: Path, mark: str) -> None:
    """Write a catalogue in which every text of the interface is a mark."""
    import polib

    shipped = polib.pofile(str(path_of("language", "en.po")))
    for entry in shipped:
        entry.msgstr = mark
    shipped.save(str(path))


def _home(folder: Path, secret: Path, *, is_translated: bool) -> Path:
    """Fill the user's folders with marks; return the job that is opened."""
    mark = f"<img src='{secret}'>"
    work = folder / "work"
    named = f"<img src='{CANARY}'>"
    (work / "x").mkdir(parents=True)
    shutil.copy(secret, work / CANARY)
    data, in_job = hostile_job(mark)
    job = work / f"{named}.zinnet"
    job.write_bytes(data)
    for one in ("config", "data", "state", "cache"):
        (folder / one / "zinnet").mkdir(parents=True)
    in_shop = hostile_workshop(folder / "data" / "zinnet" / "workshop.sqlite", mark)
    for name, text in OWN_TOML.items():
        (folder / "config" / "zinnet" / name).write_text(text.replace("{0}", mark))
    if is_translated:
        _language(folder / "config" / "zinnet" / "language.po", mark)
    _font(folder / "data" / "fonts" / "marked.ttf", mark)
    (folder / "state" / "zinnet" / "recent.json").write_text(json.dumps([str(job)]))
    timer = {"id": "a", "name": mark, "seconds": 900.0, "over_s": 0.0, "since": None}
    (folder / "state" / "zinnet" / "timers.json").write_text(json.dumps([timer]))
    print(
        f"marks: {in_job} in the job, {in_shop} in the workshop, a font, settings, timers, names of files", flush=True
    )
    return job


def _opened(folder: Path, job: Path, secret: Path, how: str) -> tuple[list[str], str]:
    """Return what the program opened while it showed everything, and what it said."""
    places = {f"XDG_{one.upper()}_HOME": str(folder / one) for one in ("config", "data", "state", "cache")}
    trace = folder / "trace"
    done = subprocess.run(
        [*STRACE, str(trace), sys.executable, "-c", SCRIPT, job.name, how, str(secret)],
        capture_output=True,
        text=True,
        cwd=job.parent,
        env={**os.environ, **places, "QT_QPA_PLATFORM": "offscreen", "HOME": str(folder), "TMPDIR": str(folder / "t")},
        check=False,
    )
    whole = "" if done.returncode == 0 else f"the tour broke off ({done.returncode}): "
    return OPENED.findall(trace.read_text(errors="replace")), whole + done.stdout + (
        done.stderr[-500:] if whole else ""
    )


def run() -> None:
    """Files that the window opens at every page while every name is markup, and a proof that markup would be seen."""
    if shutil.which("strace") is None:
        print("strace is not installed: nothing was looked at")
        return
    for how in HOWS:
        with tempfile.TemporaryDirectory() as name, tempfile.TemporaryDirectory() as hidden:
            folder, secret = Path(name), Path(hidden) / CANARY
            shutil.copy(path_of("demo", "lantern-photo.jpg"), secret)
            (folder / "t").mkdir()
            job = _home(folder, secret, is_translated=how == "translated")
            opened, said = _opened(folder, job, secret, how)
            ours = (sys.prefix, sys.base_prefix, str(Path(zinnet.__file__).parents[2]), name, *SYSTEM)
            outside = sorted({one for one in opened if one.startswith("/") and not one.startswith(ours)})
            canaries = sum(Path(one).name == CANARY for one in opened)
            print(f"{how}: {len(opened)} opened, {canaries} of them the canary; outside: {outside or 'none'}")
            print(f"  {said.strip()}", flush=True)
