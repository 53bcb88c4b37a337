"""How long the program takes to end when its window is closed in the middle of each kind of work."""

import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path

CLOSE = "closing"
BEGIN_MS, WORK_MS = 1500, 700
SCRIPT = """
import os, sys
from pathlib import Path
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication, QMessageBox
from zinnet.ui import app as program
from zinnet.ui.application import make_application
from zinnet.job.edits import set_copies, set_title
QMessageBox.question = staticmethod(lambda *a, **k: QMessageBox.StandardButton.Yes if "cut" in str(a[1:3])
    else QMessageBox.StandardButton.Discard)
app = make_application()
kind, folder = sys.argv[1], Path(sys.argv[2])

def window():
    return next(one for one in QApplication.topLevelWidgets() if type(one).__name__ == "MainWindow")

def begin():
    main = window()
    session = main.session
    match kind:
        case "nest":
            session.apply(set_copies(9))
        case "slow file":
            main.files.opener.open_artwork(folder / "slow.svg")
        case "picture":
            main.files.opener.open_artwork(folder / "photo.jpg")
        case "export":
            session.exporter.export(session.plan, session.books.store, folder / "cut", ("svg", "dxf", "hpgl", "pdf"))
        case "schedule":
            session.apply(set_copies(40))
            main.go_to("press")
        case "names":
            session.apply_later(set_copies(200))
        case "changes":
            session.apply(set_title("not saved"))
        case "cutting":
            main.go_to("cut")
            main.cutter.times = 1.0
            QTimer.singleShot(1, send)

def send():
    control = window().cutter
    if control.load is None or control.sheet_of(control.load) is None:
        QTimer.singleShot(50, send)
        return
    control.say_loaded()
    control.send()

def close():
    print("closing", flush=True)
    window().close()

QTimer.singleShot(BEGIN, begin)
QTimer.singleShot(BEGIN + WORK, close)
sys.exit(program.run_window(demo=True))
"""
KINDS = ("nothing", "changes", "nest", "slow file", "picture", "export", "schedule", "names", "cutting")


def _slow() -> str:
    star = " ".join(f"{50 + k * 7919 % 50} {50 + k * 104729 % 50}" for k in range(400))
    shape = f'<polygon points="{star}" fill="none" stroke="red" stroke-width="9"/>'
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">{shape * 200}</svg>'


def run() -> None:
    """Seconds from closing the window to the end of the program, in each kind of work; and what is left running."""
    photo = Path(__file__).parents[1] / "src" / "zinnet" / "data" / "demo" / "lantern-photo.jpg"
    script = SCRIPT.replace("BEGIN", str(BEGIN_MS)).replace("WORK", str(WORK_MS))
    for kind in KINDS:
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            (folder / "slow.svg").write_text(_slow())
            (folder / "photo.jpg").write_bytes(photo.read_bytes())
            places = {f"XDG_{one}_HOME": name for one in ("STATE", "DATA", "CONFIG", "CACHE")}
            process = subprocess.Popen(
                [sys.executable, "-c", script, kind, name],
                stdout=subprocess.PIPE,
                stderr=subprocess.DEVNULL,
                text=True,
                env={**os.environ, **places, "QT_QPA_PLATFORM": "offscreen"},
            )
            assert process.stdout is not None
            while (line := process.stdout.readline()) and CLOSE not in line:
                pass
            begun = time.perf_counter()
            code = process.wait()
            took = time.perf_counter() - begun
            left = subprocess.run(["pgrep", "-g", str(process.pid)], capture_output=True, text=True, check=False)
            print(f"{kind:10} {took:5.2f} s, exit {code}, left running: {left.stdout.split() or 'nothing'}", flush=True)
