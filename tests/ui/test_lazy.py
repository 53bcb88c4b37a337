"""Parts of the window that are made when they are first shown, and settings that are read again when they change."""

from PySide6.QtWidgets import QLabel, QStackedWidget

from zinnet.machines.cutters import machines_file
from zinnet.ui.lazy import LazyWidgets
from zinnet.ui.settings_watch import SettingsWatch


def test_a_widget_is_made_when_it_is_asked_for_and_once(qtbot):
    stack, asked = QStackedWidget(), []
    qtbot.addWidget(stack)

    def maker(name):
        def make():
            asked.append(name)
            return QLabel(name)

        return make

    widgets = LazyWidgets(stack.addWidget, {name: maker(name) for name in ("fit", "cut", "press")})
    assert (list(widgets), len(widgets), asked, stack.count()) == (["fit", "cut", "press"], 3, [], 0)
    assert widgets["cut"] is widgets["cut"]
    assert "fit" in widgets
    assert widgets.get("moon") is None
    assert stack.count() == 1
    assert [one.text() for one in widgets.made] == ["cut"]


def test_the_window_begins_with_what_is_shown_and_no_more(window):
    assert len(window.stations.made) == 1
    assert window.full_pages.made == window.benches.made == ()
    assert len(window.properties.sheets.made) == 1


def test_a_machine_of_ones_own_that_is_changed_in_its_file_is_taken_into_use(demo, qtbot):
    machines_file().parent.mkdir(parents=True, exist_ok=True)
    watch = SettingsWatch(demo.session.read_settings, demo.session)
    own = '[mats.long]\nname = "my long mat"\nwidth_mm = {}\nheight_mm = 400\nmargin_mm = 5\n'
    for width in (900, 700):
        machines_file().write_text(own.format(width))
        qtbot.waitUntil(lambda width=width: dict(demo.session.workshop.machines.mats).get("long") is not None)
        qtbot.waitUntil(lambda width=width: demo.session.workshop.machines.mat("long").width_mm == width)
    machines_file().write_text("mats = [")
    qtbot.waitUntil(lambda: "can't be read" in demo.message.text())
    assert demo.session.workshop.machines.mat("long").width_mm == 700, "what was in use stays in use"
    assert watch.parent() is demo.session
