"""Larger type: kept in the settings, in force from the next start, and nothing is cut off by it."""

import os
import subprocess
import sys
from pathlib import Path

import pytest
from PySide6.QtCore import QSettings, QSize

from tests.helpers import cases
from tests.ui.conftest import MainWindow
from zinnet.ui.type_size import KEY, SCALE, fits_screen, remembered_percent, use_type_size

WALK = "tests/ui/test_fitting.py::test_nothing_is_cut_off_in_inches_by_daylight_with_long_names"
DRAWN_AT = """
from zinnet.ui.application import make_application
app = make_application()
print(app.primaryScreen().devicePixelRatio())
"""


@pytest.fixture
def settings(tmp_path):
    """Return settings of their own."""
    return QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)


def test_the_size_is_kept_and_said(window: MainWindow, qtbot):
    said = []
    window.session.said.connect(said.append)
    window.menus.fill_type_sizes()
    actions = {action.text(): action for action in window.menus.type_sizes.actions()}
    assert [name for name, action in actions.items() if action.isChecked()] == ["100 %"]
    window.preferences.take_type_percent(150)
    window.menus.fill_type_sizes()
    assert [one.text() for one in window.menus.type_sizes.actions() if one.isChecked()] == ["150 %"]
    assert said == ["Type is shown at 150 % when Zinnet is started again."]


def test_what_was_chosen_is_in_force_at_the_next_start_unless_the_desktop_says_otherwise(settings):
    plain, chosen, desktop = {}, {}, {SCALE: "1.75"}
    use_type_size(settings, plain)
    settings.setValue(KEY, 125)
    use_type_size(settings, chosen)
    use_type_size(settings, desktop)
    assert (plain, chosen, desktop) == ({}, {SCALE: "1.25"}, {SCALE: "1.75"})


@pytest.mark.parametrize("spoiled", ["", "huge", "-200", "90000", "²"])
def test_a_size_that_is_none_is_passed_over(settings, spoiled):
    settings.setValue(KEY, spoiled)
    assert remembered_percent(settings) == 100


def test_a_size_is_offered_where_the_smallest_window_fits_the_screen():
    laptop, large = QSize(1366, 768), QSize(3840, 2160)
    assert [fits_screen(percent, laptop) for percent in (100, 125, 150, 200)] == [True, False, False, False]
    assert all(fits_screen(percent, large) for percent in (100, 125, 150, 200))


def test_the_program_draws_at_the_size_that_was_kept():
    QSettings("zinnet", "zinnet").setValue(KEY, 200)
    environment = {name: value for name, value in os.environ.items() if name != SCALE}
    try:
        QSettings("zinnet", "zinnet").sync()
        drawn = subprocess.run(
            [sys.executable, "-c", DRAWN_AT], env=environment, capture_output=True, text=True, check=True
        )
    finally:
        QSettings("zinnet", "zinnet").remove(KEY)
    assert float(drawn.stdout) == 2.0


@pytest.mark.long
@pytest.mark.parametrize("scale", ["2", "1.25"][: cases(1, 2)])
def test_nothing_is_cut_off_in_larger_type(scale):
    """Qt takes a scale once for a whole process: the walk through all pages goes on in one of its own."""
    ran = subprocess.run(
        [sys.executable, "-m", "pytest", "-q", "-n", "0", f"{WALK}[(1024, 700)]"],
        cwd=Path(__file__).parents[2],
        env={**os.environ, SCALE: scale},
        capture_output=True,
        text=True,
        check=False,
    )
    assert ran.returncode == 0, ran.stdout[-3000:]
    assert "1 passed" in ran.stdout
