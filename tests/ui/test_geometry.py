"""The window opens where it was last."""

import pytest
from PySide6.QtCore import QSettings

from zinnet.ui.geometry import place_on_screen
from zinnet.ui.session import Session
from zinnet.ui.window import MainWindow


def another(qtbot, tmp_path):
    settings = QSettings(str(tmp_path / "kept.ini"), QSettings.Format.IniFormat)
    window = MainWindow(Session(tmp_path / "copies"), settings)
    qtbot.addWidget(window)
    return window


def test_the_size_is_kept_from_one_start_to_the_next(qtbot, tmp_path):
    first = another(qtbot, tmp_path)
    place_on_screen(first, first.settings)
    first.show()
    first.resize(first.minimumSizeHint().width(), 720)
    assert first.close()
    second = another(qtbot, tmp_path)
    place_on_screen(second, second.settings)
    assert second.height() == 720  # its width is the screen's here, which is small


@pytest.mark.parametrize("kept", [None, "nonsense"])
def test_without_a_place_of_its_own_it_is_no_higher_than_the_screen(qtbot, tmp_path, kept):
    settings = QSettings(str(tmp_path / "kept.ini"), QSettings.Format.IniFormat)
    if kept is not None:
        settings.setValue("geometry", kept)
        settings.sync()
    window = another(qtbot, tmp_path)
    place_on_screen(window, window.settings)
    assert window.height() <= window.screen().availableGeometry().height()
