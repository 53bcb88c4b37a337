"""Finds text that its widget cuts off, and widgets that reach out of their parent."""

from collections.abc import Iterator

from PySide6.QtCore import QRect, Qt
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QAbstractScrollArea,
    QAbstractSpinBox,
    QCheckBox,
    QComboBox,
    QLabel,
    QLineEdit,
    QMenuBar,
    QPushButton,
    QRadioButton,
    QScrollArea,
    QStyle,
    QStyleOptionComboBox,
    QWidget,
)

from zinnet.ui.plain import Elided

SLACK_PX = 1
"""Fonts are hinted: a width may be a pixel more than what was asked for."""


def misfits(window: QWidget) -> Iterator[str]:
    """Yield what does not fit, of all that is seen in a window, each as a sentence."""
    for widget in window.findChildren(QWidget):
        if widget.isVisibleTo(window):
            yield from _cut_off(widget)
            yield from _outside(widget)
            yield from _too_wide(widget)


def _cut_off(widget: QWidget) -> Iterator[str]:
    name = _name(widget)
    if isinstance(widget, Elided):
        return
    if isinstance(widget, QLabel):
        if widget.wordWrap():
            needed, there = widget.heightForWidth(widget.width()), widget.height()
            if needed > there + SLACK_PX:
                yield f"{name} is {there} px high and needs {needed}"
        elif widget.text():
            needed, there = widget.sizeHint().width(), widget.width()
            if needed > there + SLACK_PX:
                yield f"{name} is {there} px wide and needs {needed}"
    elif isinstance(widget, QPushButton | QCheckBox | QRadioButton):
        needed, there = widget.sizeHint().width(), widget.width()
        if needed > there + SLACK_PX and not _is_elided(widget):
            yield f"{name} is {there} px wide and needs {needed}"
    elif isinstance(widget, QComboBox):
        needed, there = widget.fontMetrics().horizontalAdvance(widget.currentText()), _room_of(widget)
        if needed > there + SLACK_PX:
            yield f"{name} shows {widget.currentText()!r} in {there} px, which needs {needed}"
    elif isinstance(widget, QLineEdit) and not isinstance(widget.parent(), QAbstractSpinBox | QComboBox):
        needed = widget.fontMetrics().horizontalAdvance(widget.text() or widget.placeholderText())
        there = widget.width() - 14
        if needed > there + SLACK_PX and not widget.toolTip():
            yield f"{name} is {there} px wide and needs {needed}"


def _name(widget: QWidget) -> str:
    said = getattr(widget, "text", None)
    return f"{type(widget).__name__} {widget.accessibleName() or (said() if callable(said) else '')!r}"


def _is_elided(button: QAbstractButton) -> bool:
    """Whether what is missing is told in dots, with all of it in the tooltip."""
    return button.text().endswith("…") and bool(button.toolTip())


def _room_of(box: QComboBox) -> int:
    option = QStyleOptionComboBox()
    box.initStyleOption(option)
    field = box.style().subControlRect(
        QStyle.ComplexControl.CC_ComboBox, option, QStyle.SubControl.SC_ComboBoxEditField, box
    )
    icon = 0 if box.itemIcon(box.currentIndex()).isNull() else box.iconSize().width() + 4
    return field.width() - icon


def _outside(widget: QWidget) -> Iterator[str]:
    parent = widget.parentWidget()
    if parent is None or widget.isWindow() or isinstance(parent, QMenuBar) or _is_scrolled(widget):
        return
    if widget.width() == 0 or widget.height() == 0:
        return
    room = QRect(parent.rect()).adjusted(-SLACK_PX, -SLACK_PX, SLACK_PX, SLACK_PX)
    if not room.contains(widget.geometry()):
        where = f"{widget.geometry().getRect()} reaches out of {type(parent).__name__} {parent.size().toTuple()}"
        yield f"{_name(widget)} at {where}"


def _too_wide(area: QWidget) -> Iterator[str]:
    """What scrolls only up and down must not be wider than its area: the rest of it could never be seen."""
    if not isinstance(area, QScrollArea) or area.widget() is None:
        return
    if area.horizontalScrollBarPolicy() == Qt.ScrollBarPolicy.ScrollBarAlwaysOff:
        needed, there = area.widget().minimumSizeHint().width(), area.viewport().width()
        if needed > there:
            yield f"{_name(area)} shows {there} px of {needed}"


def _is_scrolled(widget: QWidget) -> bool:
    """Whether a widget lies in what is scrolled, or is a part of a list or a table that scrolls."""
    above = widget.parentWidget()
    if isinstance(above, QAbstractScrollArea) and not isinstance(above, QScrollArea):
        return True
    grand = above.parentWidget() if above is not None else None
    return isinstance(grand, QAbstractItemView) or (
        isinstance(grand, QScrollArea)
        and grand.widget() is widget
        and (grand.verticalScrollBarPolicy() != Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    )
