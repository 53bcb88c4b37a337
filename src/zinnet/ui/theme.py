"""The look: a tailor's table in felt, chalk, cloth tape and manila card; by night and by day."""

from dataclasses import dataclass
from functools import cache

from PySide6.QtCore import QSettings
from PySide6.QtGui import QColor, QFont, QFontDatabase
from PySide6.QtWidgets import QApplication

from zinnet.data import path_of, read_bytes

SMALL, PLAIN, LARGE = 11, 13, 17
FAMILY = "Atkinson Hyperlegible"


@dataclass(frozen=True)
class Theme:
    """The colours of one theme."""

    name: str
    felt: str
    felt_raised: str
    felt_line: str
    chalk: str
    quiet_chalk: str
    card: str = "#f1e9d8"
    card_light: str = "#fbf6ea"
    card_line: str = "#d9cdb4"
    ink: str = "#26292b"
    quiet_ink: str = "#625c50"
    tape: str = "#f0c84b"
    tape_line: str = "#6b5614"
    accent: str = "#e4573d"
    stop: str = "#c8372d"
    warn: str = "#d98a1f"
    note: str = "#3a7ca5"
    good: str = "#2f7d5b"


NIGHT = Theme(
    "night", felt="#2b353f", felt_raised="#323d48", felt_line="#2f3a45", chalk="#e8ecea", quiet_chalk="#b4bdc2"
)
DAYLIGHT = Theme(
    "daylight", felt="#d9dcda", felt_raised="#e4e6e4", felt_line="#d2d6d4", chalk="#33393d", quiet_chalk="#525a5f"
)

_current = NIGHT


def theme() -> Theme:
    """Return the theme in force."""
    return _current


def colour(name: str, alpha: int = 255) -> QColor:
    """Return a colour of the theme in force."""
    found = QColor(getattr(_current, name))
    found.setAlpha(alpha)
    return found


@cache
def load_fonts() -> None:
    """Load the fonts that ship with Zinnet."""
    for weight in ("Regular", "Bold"):
        QFontDatabase.addApplicationFontFromData(read_bytes("fonts", f"AtkinsonHyperlegible-{weight}.ttf"))


def font(pixels: int = PLAIN, *, bold: bool = False) -> QFont:
    """Return the font at a size in pixels."""
    found = QFont(FAMILY)
    found.setPixelSize(pixels)
    found.setBold(bold)
    return found


def use_theme(chosen: Theme) -> None:
    """Put a theme in force for the whole application."""
    global _current
    _current = chosen
    app = QApplication.instance()
    if isinstance(app, QApplication):
        load_fonts()
        sheet = _sheet(chosen)
        if app.styleSheet() != sheet:  # every widget that there is would be styled anew
            app.setFont(font())
            app.setStyleSheet(sheet)


def remembered_theme(settings: QSettings) -> Theme:
    """Return the theme that the user chose last."""
    return DAYLIGHT if settings.value("theme") == DAYLIGHT.name else NIGHT


def _sheet(t: Theme) -> str:
    chevron, chevron_up = (path_of("icons", f"{name}.svg").as_posix() for name in ("chevron", "chevron-up"))
    return f"""
    QMainWindow, QDialog, QMessageBox {{ background: {t.card}; color: {t.ink}; }}
    QMenuBar {{ background: {t.card}; color: {t.ink}; padding: 2px 6px; border-bottom: 1px solid {t.card_line}; }}
    QMenuBar::item {{ padding: 4px 10px; border-radius: 4px; background: transparent; }}
    QMenuBar::item:selected {{ background: {t.card_line}; }}
    QMenu {{ background: {t.card_light}; color: {t.ink}; border: 1px solid {t.card_line}; padding: 4px; }}
    QMenu::item {{ padding: 5px 26px 5px 14px; border-radius: 4px; }}
    QMenu::item:selected {{ background: {t.card_line}; }}
    QMenu::item:disabled {{ color: #8f8878; }}
    QMenu::separator {{ height: 1px; background: {t.card_line}; margin: 4px 8px; }}
    QToolTip {{ background: {t.card_light}; color: {t.ink}; border: 1px solid {t.card_line}; padding: 4px; }}
    QLabel {{ color: {t.ink}; background: transparent; }}
    QLabel[quiet="true"] {{ color: {t.quiet_ink}; }}
    QLabel[chalk="true"] {{ color: {t.chalk}; }}
    QPushButton {{ background: {t.card_light}; color: {t.ink}; border: 1px solid {t.ink}; border-radius: 5px;
                   padding: 4px 12px; min-height: 18px; }}
    QPushButton:hover {{ background: #ffffff; }}
    QPushButton:focus {{ border: 2px solid {t.accent}; padding: 3px 11px; }}
    QPushButton:disabled {{ color: #8f8878; border-color: {t.card_line}; }}
    QPushButton[strong="true"], QPushButton:checked {{ background: {t.ink}; color: {t.card_light}; }}
    QPushButton[strong="true"]:hover {{ background: #3b4044; }}
    QPushButton[large="true"] {{ background: {t.card}; border-radius: 8px; padding: 4px 8px; min-height: 56px; }}
    QPushButton[large="true"]:hover {{ background: {t.card_light}; }}
    QPushButton[large="true"][strong="true"] {{ background: {t.tape}; color: {t.ink}; }}
    QLineEdit, QPlainTextEdit, QComboBox, QAbstractSpinBox {{
                   background: {t.card_light}; color: {t.ink}; border: 1px solid {t.card_line};
                   border-radius: 4px; padding: 3px 6px; min-height: 18px; selection-background-color: {t.accent}; }}
    QLineEdit:focus, QPlainTextEdit:focus, QComboBox:focus, QAbstractSpinBox:focus {{
                   border: 2px solid {t.accent}; padding: 2px 5px; }}
    QAbstractSpinBox::up-button, QAbstractSpinBox::down-button {{ border: none; width: 20px; background: transparent; }}
    QAbstractSpinBox::up-arrow {{ image: url("{chevron_up}"); width: 10px; height: 10px; }}
    QAbstractSpinBox::down-arrow {{ image: url("{chevron}"); width: 10px; height: 10px; }}
    QLineEdit[count="true"] {{ padding: 3px 1px; }}
    QLineEdit[count="true"]:focus {{ padding: 2px 0; }}
    QComboBox::drop-down {{ border: none; width: 22px; }}
    QComboBox::down-arrow {{ image: url("{chevron}"); width: 12px; height: 12px; }}
    QComboBox QAbstractItemView {{ background: {t.card_light}; color: {t.ink};
                   selection-background-color: {t.card_line};
                   selection-color: {t.ink}; }}
    QCheckBox {{ color: {t.ink}; spacing: 7px; }}
    QCheckBox:focus {{ color: {t.accent}; }}
    QListWidget {{ background: {t.card_light}; color: {t.ink}; border: 1px solid {t.card_line}; border-radius: 6px;
                   padding: 3px; outline: none; }}
    QListWidget::item {{ padding: 4px 6px; border-radius: 4px; }}
    QListWidget::item:selected {{ background: {t.ink}; color: {t.card_light}; }}
    QListWidget:focus {{ border: 2px solid {t.accent}; padding: 2px; }}
    QTableWidget {{ background: {t.card_light}; color: {t.ink}; border: none; alternate-background-color: {t.card};
                   selection-background-color: {t.card_line}; selection-color: {t.ink}; }}
    QTableWidget::item {{ padding: 3px 8px; }}
    QHeaderView::section {{ background: {t.card}; color: {t.quiet_ink}; border: none; padding: 6px 8px;
                   border-bottom: 1px solid {t.card_line}; }}
    QProgressBar {{ background: {t.card_light}; color: {t.ink}; border: 1px solid {t.card_line}; border-radius: 4px;
                   text-align: center; min-height: 20px; }}
    QProgressBar::chunk {{ background: {t.tape}; border-radius: 3px; }}
    QSlider::groove:horizontal {{ height: 6px; background: {t.card_line}; border-radius: 3px; }}
    QSlider::sub-page:horizontal {{ background: {t.tape}; border-radius: 3px; }}
    QSlider::handle:horizontal {{ width: 16px; height: 16px; margin: -6px 0; border-radius: 8px;
                   background: {t.card_light}; border: 1px solid {t.ink}; }}
    QSlider::handle:horizontal:focus {{ border: 2px solid {t.accent}; }}
    QAbstractScrollArea::corner {{ background: transparent; border: none; }}
    QScrollArea {{ border: none; background: transparent; }}
    QScrollBar:vertical {{ width: 9px; background: transparent; margin: 0; }}
    QScrollBar::handle:vertical {{ background: {t.card_line}; border-radius: 4px; min-height: 30px; }}
    QScrollBar:horizontal {{ height: 9px; background: transparent; margin: 0; }}
    QScrollBar::handle:horizontal {{ background: {t.card_line}; border-radius: 4px; min-width: 30px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; width: 0; }}
    QFrame[card="plain"] {{ background: {t.card}; border: 1px solid {t.card_line}; border-radius: 7px; }}
    QFrame[card="light"] {{ background: {t.card_light}; border: 1px solid {t.card_line}; border-radius: 6px; }}
    QFrame[card="lit"] {{ background: {t.card}; border: 2px solid {t.accent}; border-radius: 7px; }}
    QFrame[card="side"] {{ background: {t.card}; border-left: 2px solid {t.card_line}; }}
    QFrame[card="foot"] {{ background: {t.felt}; }}
    QFrame[card="foot"] QLabel {{ color: {t.chalk}; }}
    QFrame[card="foot"] QPushButton[strong="true"] {{ background: {t.tape}; color: {t.ink}; }}
    QFrame[card="foot"] QPushButton[strong="true"]:disabled {{ background: {t.card_line}; color: {t.quiet_ink}; }}
    QFrame[card="top"] {{ background: {t.card}; border-bottom: 2px solid {t.card_line}; }}
    QFrame[said="true"] {{ background: {t.card_light}; border: 2px solid {t.ink}; border-radius: 6px; }}
    QLineEdit#job-title {{ background: transparent; border-color: transparent; }}
    QLineEdit#job-title:hover, QLineEdit#job-title:focus {{ background: {t.card_light}; border-color: {t.card_line}; }}
    QWidget[holder="true"] {{ background: transparent; }}
    QPushButton[line="true"] {{ background: transparent; border: 1px solid transparent; text-align: left;
                   padding: 1px 4px; min-height: 18px; font-weight: bold; }}
    QPushButton[line="true"]:checked {{ background: {t.card_light}; color: {t.ink}; border-color: {t.accent}; }}
    QPushButton[line="true"]:hover {{ background: {t.card_light}; }}
    QPushButton[line="true"]:focus {{ border: 2px solid {t.accent}; padding: 0 3px; }}
    QPushButton[small="true"] {{ padding: 1px 8px; min-height: 16px; }}
    QFrame#detail-panel QListWidget {{ border: none; background: transparent; }}
    QFrame#detail-panel QListWidget::item {{ color: {t.ink}; padding: 3px 4px; }}
    QFrame#detail-panel QListWidget::item:selected {{ background: {t.tape}; }}
    QFrame#weed-panel QProgressBar {{ height: 18px; }}
    QFrame#weed-panel QProgressBar::chunk {{ border-radius: 4px; }}
    """
