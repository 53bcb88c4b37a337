"""Parts of the window that are made when they are first shown, and settings that are read again when they change."""

from PySide6.QtCore import QEvent, QObject
from PySide6.QtWidgets import QLabel, QStackedWidget, QWidget

from zinnet.demo import demo_document
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
    assert window.stations.made == window.full_pages.made == window.benches.made == ()
    assert window.properties.sheets.made == ()
    assert not window.session.is_begun


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


class ShownWindows(QObject):
    """Notes every window that is shown."""

    def __init__(self):
        super().__init__()
        self.found = []

    def note(self, widget, event):
        if isinstance(widget, QWidget) and widget.isWindow() and event.type() == QEvent.Type.Show:
            self.found.append(widget.metaObject().className())
        return False

    eventFilter = note  # noqa: N815 - as Qt calls it


def test_nothing_is_shown_as_a_window_of_its_own_while_parts_are_made(window, qapp):
    shown = ShownWindows()
    qapp.installEventFilter(shown)
    window.session.show_document(demo_document())
    for name in window.stations:
        window.go_to(name)
        for page in getattr(getattr(window.stations[name], "pages", None), "buttons", ()):
            window.stations[name].show_page(page)
    for page in window.full_pages:
        window.open_page(page)
    for station in ("fit", "split", "cut", "press"):
        window.go_to(station)
        window.enter_bench()
        window.leave_bench()
    qapp.removeEventFilter(shown)
    assert shown.found == []
