"""Presses, machines and films of one's own, and hem tests, in the window; what can't be taken back, at the bench."""

import pytest
from PIL import Image
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QApplication, QDialog, QFileDialog

from tests.helpers import document_of, nested
from zinnet.blanks.catalogue import read_blank_name
from zinnet.job.edits import choose_blank, set_blank
from zinnet.ui.films import film_chip
from zinnet.ui.own.film_form import FilmForm
from zinnet.ui.own.machine_form import MachineForm
from zinnet.ui.own.press_form import PressForm
from zinnet.workshop.own_things import KEPT, own_things

BOX = '<rect width="80" height="60" fill="#f4ead5"/>'


@pytest.fixture(autouse=True)
def folders(monkeypatch, tmp_path):
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "config"))


def filled(monkeypatch, **texts):
    """Fill in the next form that is shown, and keep it; return where what it complained of is written."""
    said = []

    def shown(form):
        for name, text in texts.items():
            field = getattr(form, name)
            if hasattr(field, "setText"):
                field.setText(text)
            else:
                field.setCurrentIndex(field.findData(text))
        form.accept()
        if form.result() != QDialog.DialogCode.Accepted:
            said.append(form.wrong.text())
        return form.result()

    monkeypatch.setattr(QDialog, "exec", shown)
    return said


def test_a_press_of_ones_own_is_kept_and_the_job_is_pressed_with_it(window, monkeypatch):
    window.session.show_document(document_of(BOX))
    window.go_to("press")
    sheet = window.properties.sheets["press"]
    said = filled(monkeypatch, name="Garden plate", kind="plate", plate="9x9in", margin="4 mm", heat="100C-200C")
    sheet.new.click()
    assert said == []
    assert own_things()["press"]["garden-plate"]["margin_mm"] == 4.0
    assert window.session.job.platen == "garden-plate"
    (work,) = window.session.plan.presses[0].works
    assert (work.platen.name, work.heat_source) == ("Garden plate", "plate")
    assert sheet.platen.currentText() == "Garden plate"


def test_a_machine_of_ones_own_is_kept_and_the_job_is_cut_with_it(window, monkeypatch):
    window.session.show_document(document_of(BOX))
    window.go_to("cut")
    sheet = window.properties.sheets["cut"]
    said = filled(monkeypatch, name="Shed cutter", speaks="steps", steps="33", blades="10", mats="12x12in, 300x400mm")
    sheet.new.click()
    assert said == []
    assert window.session.plan.cutting.device.name == "Shed cutter"
    assert window.session.plan.cutting.device.speaks == "steps"
    assert "300x400mm" in dict(window.session.workshop.machines.mats)


def test_a_film_of_ones_own_is_in_the_workshop_at_once(window, monkeypatch):
    said = filled(monkeypatch, name="Harbour blue", kind="smooth", heat="150C-160C", stroke="1.2 mm")
    window.own_things.new_film()
    assert said == []
    assert window.session.workshop.film("harbour-blue").own.least_stroke_mm == 1.2


@pytest.mark.parametrize(
    ("form", "texts"),
    [
        (PressForm, {"name": "", "plate": "9x9in"}),
        (PressForm, {"name": "P", "plate": "large"}),
        (PressForm, {"name": "P", "plate": "9x9in", "margin": "300 mm"}),
        (MachineForm, {"name": "M", "mats": "moon"}),
        (MachineForm, {"name": "M", "speaks": "presets", "presets": ""}),
        (MachineForm, {"name": "M", "speaks": "steps", "steps": "many"}),
        (FilmForm, {"name": "F", "seconds": "long"}),
        (FilmForm, {"name": "F", "gap": "-2 mm"}),
    ],
)
def test_what_makes_no_sense_is_said_and_the_form_stays(qtbot, window, form, texts):
    shown = form(window, "mm")
    for name, text in texts.items():
        field = getattr(shown, name)
        if hasattr(field, "setText"):
            field.setText(text)
        else:
            field.setCurrentIndex(field.findData(text))
    shown.accept()
    assert shown.kept is None
    assert len(shown.wrong.text()) > 15
    assert not any(own_things().values())
    shown.close()
    shown.deleteLater()


def test_a_hem_test_is_filled_in_and_lifts_the_stop(qtbot, window):
    window.session.show_document(document_of(BOX, choose_blank(read_blank_name("sash")), set_blank("x", care_dots=2)))
    window.go_to("press")
    window.stations["press"].show_page("hem")
    page = window.stations["press"].pages["hem"]
    assert any(one.id == "heat-untested" for one in window.session.plan.open_stops)
    assert page.known.text() == "Not tried yet."
    held = [button for button in page.bars if button.bar.heat_c < 145]
    for button in held:
        button.click()
    assert held[0].text() == "held"
    page.bars[-1].click()
    page.bars[-1].click()
    assert page.bars[-1].text() == "spoiled"
    page.washed.setChecked(True)
    page.keep.click()
    qtbot.waitUntil(lambda: bool(window.session.workshop.hem_tests), timeout=20_000)
    assert not any(one.id == "heat-untested" for one in window.session.plan.open_stops)
    assert page.known.text().startswith("Tried: ")
    (kept,) = window.session.workshop.hem_tests
    assert kept.best.washed


def test_nothing_to_try_is_said(window):
    window.session.show_document(document_of(BOX, choose_blank(read_blank_name("glass-plate"))))
    window.go_to("press")
    window.stations["press"].show_page("hem")
    page = window.stations["press"].pages["hem"]
    assert "Nothing to try" in page.note.text()
    assert not page.keep.isVisible()


def test_the_bench_does_not_pass_what_can_not_be_taken_back_unconfirmed(qtbot, window):
    document = nested(document_of(BOX, choose_blank(read_blank_name("canvas")), set_blank("x", care_dots=3)))
    document.saved = document.job
    window.session.show_document(document)
    window.go_to("press")
    window.enter_bench()
    bench = window.benches["press"]
    qtbot.waitUntil(lambda: bench.control.run is not None and bool(bench.control.run.cards), timeout=20_000)
    run = bench.control.run
    passed = []
    for _ in range(200):
        card = run.card
        if card is None:
            break
        if not card.step.gate:
            run.end_early()
            continue
        for key in (Qt.Key.Key_Space, Qt.Key.Key_E, Qt.Key.Key_Right):
            qtbot.keyClick(bench, key)
            assert run.card is card
        passed.append(card.step.title)
        (open_one,) = (one for one in window.session.plan.findings if one.id == "gate-open")
        assert card.step.title in open_one.measured
        QApplication.processEvents()
        qtbot.keyClick(bench, Qt.Key.Key_Y)
    assert run.is_over
    assert passed == ["Staple it again", "Trim last"]
    assert not any(one.id == "gate-open" for one in window.session.plan.findings)
    bench.end()


def test_a_film_of_ones_own_has_its_pattern_roll_and_price(window, monkeypatch, tmp_path):
    path = tmp_path / "dots.png"
    Image.new("RGB", (400, 200), (10, 120, 60)).save(path)
    form = FilmForm(window, "mm")
    form.name.setText("Reed dots")
    form.take_pattern(tmp_path / "gone.png")
    assert "gone.png" in form.wrong.text()
    form.take_pattern(path)
    form.pattern_wide.setText("50 mm")
    form.roll.setText("12 in")
    form.price.setText("21,5")
    form.accept()
    window.session.read_settings()
    film = window.session.workshop.film("reed-dots")
    assert (film.kind, film.roll_mm, film.price_m2, film.picture_mm) == (
        "patterned",
        pytest.approx(304.8),
        21.5,
        50.0,
    )
    image = film_chip(film).pixmap(16, 16).toImage()
    assert QColor("#0a783c").lightness() == pytest.approx(image.pixelColor(8, 8).lightness(), abs=6)
    form.deleteLater()


def test_what_is_handed_on_comes_back_in_the_window(window, monkeypatch, tmp_path):
    said = filled(monkeypatch, name="Harbour blue", kind="smooth")
    window.own_things.new_film()
    assert said == []
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *asked: str(tmp_path))
    window.own_things.choose_export()
    KEPT["film"].file().unlink()
    window.session.read_settings()
    assert "harbour-blue" not in [film.id for film in window.session.workshop.films]
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *asked: (str(tmp_path / "films.toml"), ""))
    window.own_things.choose_import()
    assert "harbour-blue" in [film.id for film in window.session.workshop.films]
    assert window.message.text() == "Taken from films.toml: harbour-blue."
    (tmp_path / "films.toml").write_text("[films.x]\nname = 3\n")
    window.own_things.choose_import()
    assert "films.toml" in window.message.text()
    assert "can't be read" in window.message.text()
