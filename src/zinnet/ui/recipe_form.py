"""A form for any recipe: one row for each field of its model, of the kind that the field asks for."""

import types
import typing
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDoubleSpinBox,
    QFormLayout,
    QLineEdit,
    QPlainTextEdit,
    QSpinBox,
    QWidget,
)

from zinnet.artwork.lettering.fonts import are_installed_fonts_known, font_family, fonts, has_font, installed_fonts
from zinnet.artwork.lettering.runs import Letters, letters_at, marked
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.silhouettes import SILHOUETTES
from zinnet.ui.colour_buttons import ColourButton, ColourRow
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.sheets.base import LengthField
from zinnet.ui.theme import SMALL, font

if typing.TYPE_CHECKING:
    from zinnet.base.frozen import Frozen
    from zinnet.ui.session import Session

Take = Callable[[str, Any], None]
FONT_FIELDS = {"font", "second_font"}
LETTER_FIELDS = {"font", "style"}
HIDDEN = {"kind", "which", "by", "kerns", "runs"}
LABELS = {
    "life_width_mm": "In life",
    "least_mm": "At least",
    "least_mm2": "Smaller than",
    "most_mm2": "Up to",
    "by_mm": "By",
    "gap_mm": "Gap",
    "radius_mm": "Radius",
    "tolerance_mm": "Within",
    "right_mm": "To the right",
    "down_mm": "Down",
    "angle_deg": "By",
    "bend_deg": "Bend",
    "drop_background": "Background off",
    "inside_too": "Inside too",
    "speck_px": "Specks below",
    "letter_spacing": "Letters apart",
    "line_spacing": "Lines apart",
    "second": "Second line",
    "second_font": "Its font",
    "second_share": "Its width",
    "least_gap_mm": "Fill gaps below",
    "outline_mm": "Outline",
    "to_artwork": "To all artwork",
    "upright": "Top to bottom",
    "fill": "Fill counters",
    "keep": "Keep the upper",
    "apart": "Set apart",
    "down": "Downwards",
    "blend_colours": "Colours per gradient",
    "open_as_lines": "Keep open paths as lines",
}
BEHIND = " · "
SUFFIXES = {"_mm": " mm", "_mm2": " mm²", "_deg": "°", "_px": " px"}


def label_of(name: str) -> str:
    """Return what a field is called."""
    if name in LABELS:
        return LABELS[name]
    for ending in ("_mm2", "_mm", "_deg", "_px", "_colour"):
        name = name.removesuffix(ending)
    return name.replace("_", " ").capitalize()


class RecipeForm(QWidget):
    """A form that follows a recipe. ``take`` is called with a field's name and its new value."""

    def __init__(self, session: "Session", recipe: "Frozen", take: Take) -> None:
        super().__init__()
        self.session, self._take = session, take
        self.recipe = recipe
        self.fields: dict[str, QWidget] = {}
        self._form = QFormLayout(self)
        self._form.setContentsMargins(0, 0, 0, 0)
        self._form.setVerticalSpacing(5)
        for name, field in type(recipe).model_fields.items():
            if name in HIDDEN:
                continue
            widget = self._widget(name, field)
            if widget is None:
                continue
            self.fields[name] = widget
            widget.setAccessibleName(label_of(name))
            if not widget.toolTip():
                widget.setToolTip(plain(label_of(name)))
            if isinstance(widget, QCheckBox):
                self._form.addRow(widget)
                continue
            label = Label(label_of(name))
            label.setProperty("quiet", True)
            label.setFont(font(SMALL))
            label.setBuddy(widget)
            self._form.addRow(label, widget)
        self.show_recipe(recipe)

    def show_recipe(self, recipe: "Frozen") -> None:
        """Show the values of a recipe of the same kind; a field that is being typed in is left alone."""
        self.recipe = recipe
        letters = self._letters()
        if letters is not None:
            recipe = recipe.model_copy(update=dict(zip(("font", "style"), letters, strict=True)))
        for name, widget in self.fields.items():
            value = getattr(recipe, name)
            widget.blockSignals(True)
            _show(widget, value, recipe)
            widget.blockSignals(False)

    def show_only(self, names: set[str] | None) -> None:
        """Show only some of the fields; None shows all."""
        for name, widget in self.fields.items():
            self._form.setRowVisible(widget, names is None or name in names)

    def offer_fonts(self) -> None:
        """Offer all fonts that are known by now."""
        for name in FONT_FIELDS & self.fields.keys():
            combo = self.fields[name]
            assert isinstance(combo, QComboBox)
            combo.clear()
            _offer(combo, _font_choices(getattr(self.recipe, name)))
        self.show_recipe(self.recipe)

    @property
    def _marked(self) -> tuple[int, int] | None:
        """The letters of the text that are marked, from the first to before the last; None where none are."""
        area = self.fields.get("text")
        if not isinstance(area, QPlainTextEdit) or not isinstance(self.recipe, TextSpec):
            return None
        cursor, words = area.textCursor(), area.toPlainText().encode("utf-16-le")
        if not cursor.hasSelection():
            return None
        first, last = (
            len(words[: 2 * at].decode("utf-16-le")) for at in (cursor.selectionStart(), cursor.selectionEnd())
        )
        return first, last

    def _letters(self) -> Letters | None:
        """Return the font and the style of the letters that are marked; None where it is those of the text."""
        marks, recipe = self._marked, self.recipe
        if marks is None or not isinstance(recipe, TextSpec):
            return None
        return letters_at(recipe.text, recipe.runs, marks[0])

    def _take_letters(self, name: str, value: str) -> None:
        """Take a font or a style: for the letters that are marked, else for the whole text."""
        marks, recipe = self._marked, self.recipe
        if marks is None or not isinstance(recipe, TextSpec):
            self._take(name, value)
            return
        own, _ = self._letters() or (recipe.font, recipe.style)
        letters = (value, None) if name == "font" else (own, value)
        self._take("runs", marked(recipe.text, recipe.runs, *marks, letters))

    def _widget(self, name: str, field: Any) -> QWidget | None:
        kind, optional = _kind_of(field.annotation)
        low, high = _limits(field)
        if name in FONT_FIELDS:
            return self._choice(name, _font_choices(getattr(self.recipe, name)))
        if name == "style":
            return self._choice(name, [])
        if name == "shape":
            return self._choice(name, [(shape, shape) for shape in SILHOUETTES])
        if typing.get_origin(kind) is typing.Literal:
            return self._choice(name, [(word, word) for word in typing.get_args(kind)])
        if kind is bool:
            box = QCheckBox(label_of(name))
            box.toggled.connect(lambda value: self._take(name, value))
            return box
        if kind is int:
            spin = QSpinBox()
            spin.setRange(int(low if low is not None else 0) - optional, int(high if high is not None else 9999))
            spin.setSpecialValueText("as it has" if optional else "")
            spin.setKeyboardTracking(False)
            spin.valueChanged.connect(
                lambda value: self._take(name, None if optional and value == spin.minimum() else value)
            )
            return spin
        if kind is float:
            return self._number(name, low, high, optional)
        if (kind is str and "colour" in name) or name == "background":
            return ColourButton(lambda value: self._take(name, value), optional=optional)
        if kind is str:
            return self._words(name)
        if name == "colours":
            return ColourRow(lambda value: self._take(name, value))
        return None

    def _number(self, name: str, low: float | None, high: float | None, optional: bool) -> QWidget:
        if name.endswith("_mm") and not optional:
            return LengthField(self.session, label_of(name), lambda mm: self._take_length(name, mm))
        spin = QDoubleSpinBox()
        suffix = next((text for ending, text in SUFFIXES.items() if name.endswith(ending)), "")
        step = 5.0 if name.endswith("_deg") else 0.05 if (high or 99) <= 5 else 0.5
        spin.setRange((low if low is not None else 0.0) - (step if optional else 0), high if high is not None else 1e5)
        spin.setSingleStep(step)
        spin.setDecimals(2 if step < 0.5 else 1)
        spin.setSuffix(suffix)
        spin.setSpecialValueText("any" if optional else "")
        spin.setKeyboardTracking(False)
        spin.valueChanged.connect(
            lambda value: self._take(name, None if optional and value == spin.minimum() else round(value, 4))
        )
        return spin

    def _take_length(self, name: str, mm: float) -> bool:
        self._take(name, mm)
        return True

    def _words(self, name: str) -> QWidget:
        if name == "text":
            area = QPlainTextEdit()
            area.setFixedHeight(58)
            area.setTabChangesFocus(True)
            area.setToolTip(tr("Mark letters to give only these another font or style"))
            area.selectionChanged.connect(lambda: self.show_recipe(self.recipe))
            area.textChanged.connect(lambda: area.toPlainText().strip() and self._take(name, area.toPlainText()))
            return area
        line = QLineEdit()
        line.textEdited.connect(lambda text: (text.strip() or name == "second") and self._take(name, text))
        return line

    def _choice(self, name: str, rows: list[tuple[str, str]]) -> QComboBox:
        combo = QComboBox()
        combo.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        combo.setMinimumContentsLength(9)
        _offer(combo, rows)
        take = self._take_letters if name in LETTER_FIELDS else self._take
        combo.activated.connect(lambda index: take(name, combo.currentData()))
        return combo


def _offer(combo: QComboBox, rows: list[tuple[str, str]]) -> None:
    """Offer choices; what stands behind a dot is told in a tooltip."""
    for said, value in rows:
        name, _, more = said.partition(BEHIND)
        combo.addItem(name, value)
        combo.setItemData(combo.count() - 1, more, Qt.ItemDataRole.ToolTipRole)


def _font_choices(current: str) -> list[tuple[str, str]]:
    known = {**fonts(), **(installed_fonts() if are_installed_fonts_known() else {})}
    rows = [(f"{family.name}{BEHIND}{family.kind}", name) for name, family in known.items()]
    return rows if current in known else [*rows, (current, current)]


def _show(widget: QWidget, value: Any, recipe: "Frozen") -> None:
    match widget:
        case QCheckBox():
            widget.setChecked(value)
        case QSpinBox():
            widget.setValue(widget.minimum() if value is None else int(value))
        case QDoubleSpinBox():
            widget.setValue(widget.minimum() if value is None else float(value))
        case LengthField():
            widget.show_mm(value)
        case QComboBox():
            if widget.accessibleName() == label_of("style"):
                _fill_styles(widget, recipe)
            widget.setCurrentIndex(max(0, widget.findData(value)))
        case QPlainTextEdit():
            if not widget.hasFocus() and widget.toPlainText() != value:
                widget.setPlainText(value)
        case QLineEdit():
            if not widget.hasFocus():
                widget.setText(value)
        case ColourButton() | ColourRow():
            widget.show_value(value)


def _fill_styles(combo: QComboBox, recipe: Any) -> None:
    styles = list(font_family(recipe.font).styles) if has_font(recipe.font) else []
    if [combo.itemData(k) for k in range(combo.count())] != styles:
        combo.clear()
        for style in styles:
            combo.addItem(style, style)


def _kind_of(annotation: Any) -> tuple[Any, bool]:
    """Return the plain kind of a field and whether it may be left open."""
    if isinstance(annotation, types.UnionType) or typing.get_origin(annotation) is typing.Union:
        kinds = [kind for kind in typing.get_args(annotation) if kind is not type(None)]
        return kinds[0], True
    return annotation, False


def _limits(field: Any) -> tuple[float | None, float | None]:
    """Return the least and the largest value that a field takes."""
    low = high = None
    for rule in field.metadata:
        low = getattr(rule, "ge", low)
        high = getattr(rule, "le", high)
    return low, high
