"""How soon the window is up, as a whole process, beside an empty Qt window."""

import os
import subprocess
import sys
import time

ENVIRONMENT = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
EMPTY = """
from PySide6.QtWidgets import QApplication, QMainWindow
app = QApplication([]); window = QMainWindow(); window.show(); app.processEvents()
"""
ZINNET = """
from zinnet.ui.application import make_application
from zinnet.ui.session import Session
from zinnet.ui.window import MainWindow
app = make_application(); session = Session(); window = MainWindow(session); window.show(); app.processEvents()
session.close()
"""


def seconds(code: str) -> float:
    """Return the median of five runs."""
    times = []
    for _ in range(5):
        begun = time.perf_counter()
        subprocess.run([sys.executable, "-c", code], env=ENVIRONMENT, check=True, stderr=subprocess.DEVNULL)
        times.append(time.perf_counter() - begun)
    return sorted(times)[2]


def run() -> None:
    """Start of the window against start of an empty one."""
    empty, ours = seconds(EMPTY), seconds(ZINNET)
    print(f"window up in {ours:.2f} s, an empty Qt window in {empty:.2f} s: {ours / empty:.1f} times")
