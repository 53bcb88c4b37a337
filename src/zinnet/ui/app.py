"""Starting the window, with a display or without one."""

import logging
import os
import sys
from collections.abc import Callable
from pathlib import Path
from typing import NoReturn

from PySide6.QtGui import QGuiApplication

from zinnet.base.log import log_uncaught
from zinnet.ui.application import has_display, make_application
from zinnet.ui.collecting import Collecting
from zinnet.ui.geometry import place_on_screen
from zinnet.ui.making_ready import MakingReady
from zinnet.ui.session import Session
from zinnet.ui.settings_watch import SettingsWatch
from zinnet.ui.warm_up import WarmUp
from zinnet.ui.window import MainWindow


def run_window(path: Path | None = None, *, demo: bool = False) -> int:
    """Open the window, with a job or artwork where one is named, and return the exit code."""
    app = make_application()
    if QGuiApplication.platformName() == "offscreen" and path is None and not demo:
        sys.stderr.write("There is no display to open a window on; try “zinnet demo”, or set DISPLAY.\n")
        return 2
    Collecting(app)
    session = Session()
    window = MainWindow(session)
    log_uncaught(session.said.emit)
    SettingsWatch(session.read_settings, session)
    place_on_screen(window, window.settings)

    def open_first() -> None:
        session.read_settings()
        if demo:
            window.files.open_demo()
        elif path is not None:
            window.files.opener.open_path(path)

    warm_up = WarmUp(session)
    warm_up.opens.connect(open_first)
    warm_up.ended.connect(window.take_up)
    warm_up.ended.connect(MakingReady(window).begin)
    window.show()
    warm_up.begin()
    code = app.exec()
    if not window.all_ended:
        _leave(code)
    return code


def _leave(code: int) -> NoReturn:
    """End the program though work beside the window goes on that can't be stopped; it would be thrown away anyway."""
    from zinnet.base.workers import kill_workers

    kill_workers()
    logging.shutdown()
    sys.stdout.flush()
    sys.stderr.flush()
    os._exit(code)


def run_demo(out: Path, say: Callable[[str], None]) -> int:
    """Open the demo; without a display write all its files, and picture the same window."""
    if has_display():
        return run_window(demo=True)
    from zinnet.bench.nesting import nest_document
    from zinnet.demo import demo_document
    from zinnet.demo.files import WalkFiles
    from zinnet.output.cut_files import FORMATS, write_cut_files, write_job_sheet
    from zinnet.output.plan_json import findings_json, plan_json
    from zinnet.output.press_json import press_json
    from zinnet.output.writing import write_json
    from zinnet.ui.screenshots import picture_stations

    say(f"There is no display. The demo's files and pictures are written to {out}, job by job:")
    walk = WalkFiles(out)
    document = demo_document()
    nest_document(document)
    with document.stages.in_use():
        written = [*write_cut_files(document.plan, out, FORMATS), write_job_sheet(document.plan, out)]
        written.append(write_json(out / "plan.json", plan_json(document.plan)))
        written.append(write_json(out / "findings.json", findings_json(document.plan)))
        written.append(write_json(out / "press.json", press_json(document.plan)))
        document.save(out / "demo.zinnet")
    say(f"{document.job.title}: {len(written) + 1} files.")
    pictures = picture_stations(out, document)
    say(f"The window on a virtual screen: {len(pictures)} pictures.")
    written += walk.collect(say)
    say(f"{len(written) + 1} files of the demo and {len(pictures)} pictures are in {out}.")
    return 0
