"""Names of strangers are shown letter by letter: no label, tooltip or question takes them for markup."""

import ast
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import Qt as QtText
from PySide6.QtGui import QTextDocument
from PySide6.QtWidgets import QLabel, QWidget

import zinnet.ui
from zinnet.job.edits import set_order, set_title
from zinnet.ui.plain import Label, Paragraph, plain

SOURCES = sorted(Path(zinnet.ui.__file__).parent.rglob("*.py"))
BOXES = ("question", "warning", "information", "critical", "about")
IMAGE = "<img src='/etc/hostname'>"


def words_by_hand(node):
    """Tell whether text is written in the source, or made by what shows it letter by letter."""
    if isinstance(node, ast.Constant):
        return True
    made = node.func.id if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) else ""
    return made == "plain" or (made == "tr" and all(isinstance(word, ast.Constant) for word in node.args))


def offences(path):
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if not isinstance(node, ast.Call):
            continue
        name = node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")
        owner = getattr(getattr(node.func, "value", None), "id", "")
        if name in ("QLabel", "setTextFormat", "setHtml", "insertHtml", "setWhatsThis"):
            yield f"{path.name}:{node.lineno} {name}"
        elif name == "setToolTip" and not words_by_hand(node.args[-1]):
            yield f"{path.name}:{node.lineno} a tooltip that is not made plain"
        elif owner == "QMessageBox" and name in BOXES and not words_by_hand(node.args[2]):
            yield f"{path.name}:{node.lineno} a question that is not made plain"


@pytest.mark.parametrize("path", [path for path in SOURCES if path.name not in ("plain.py", "guide_page.py")], ids=str)
def test_all_words_go_through_what_shows_them_letter_by_letter(path):
    assert list(offences(path)) == []


def test_a_label_shows_markup_and_opens_nothing(qtbot):
    label = Label(f"A {IMAGE} of a stranger")
    qtbot.addWidget(label)
    assert label.textFormat() == Qt.TextFormat.PlainText
    label.show_paragraphs([Paragraph(IMAGE, "Head:"), Paragraph("a < b")])
    assert "<img" not in label.text()
    assert "a &lt; b" in label.text()


@pytest.mark.parametrize("text", ["10 mm wide", "a < b and c > d", IMAGE, "<b>bold</b>", "Moth & moon", "&lt;b&gt;"])
def test_a_tip_says_what_was_meant(text):
    shown = plain(text)
    document = QTextDocument()
    if QtText.mightBeRichText(shown):
        document.setHtml(shown)
    else:
        document.setPlainText(shown)
    assert document.toPlainText() == text


@pytest.mark.long
def test_a_job_full_of_markup_is_shown_as_it_is_at_every_station_and_page(demo, qtbot):
    session = demo.session
    session.apply(set_title(f"{IMAGE} Walk"))
    session.apply(set_order("x", customer=IMAGE))
    for name in demo.stations:
        demo.go_to(name)
        qtbot.wait(5)
    for name in demo.full_pages:
        demo.open_page(name)
        qtbot.wait(5)
    shown = [*demo.findChildren(QLabel)]
    assert len(shown) > 50
    for label in shown:
        assert label.textFormat() == Qt.TextFormat.PlainText or "<img" not in label.text(), label.text()
    for widget in demo.findChildren(QWidget):
        assert "<img" not in widget.toolTip()
