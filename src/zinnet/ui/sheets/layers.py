"""The sheet of Split: how the films lie to one another."""

from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import QCheckBox, QComboBox, QDoubleSpinBox, QPushButton, QSpinBox

from zinnet.data.limits import limits
from zinnet.films.catalogue import kind_of
from zinnet.job.edits import join_outlines, set_layers
from zinnet.layers.build import usual_most_films
from zinnet.layers.spec import MOST_FILMS
from zinnet.layers.stack import laid_on
from zinnet.ui.language import tr
from zinnet.ui.plain import plain
from zinnet.ui.sheets.base import LengthField, PropertySheet

if TYPE_CHECKING:
    from zinnet.ui.session import Session

METHODS = (
    ("auto", "by the films' rules"),
    ("stack", "stacked, on top"),
    ("cut-away", "cut away, side by side"),
    ("lap", "side by side with a lap"),
)
SPREADS = (("none", "as drawn"), ("under", "under all others"), ("outline", "as an outline round all"))


class LayersSheet(PropertySheet):
    """How the films lie to one another."""

    def __init__(self, session: "Session") -> None:
        super().__init__(session, "Layers")
        self.method = self._combo(
            "How films lie", "On top, side by side, or with a lap; by the rules each pair goes its own way", METHODS
        )
        self.method.activated.connect(lambda: self._set("choose the method", method=self.method.currentData()))
        self.lap = LengthField(session, "How far a film goes on under its neighbour", self._set_lap)
        self.most = QSpinBox()
        self.most.setRange(1, MOST_FILMS)
        self.most.setSuffix(" deep")
        self.most.setAccessibleName(tr("How many films may lie on one another"))
        self.most.setToolTip(tr("Where more would lie on one another, the lower ones are cut away"))
        self.most.valueChanged.connect(lambda value: self._set("choose the most films", most_films=value))
        self.spread = self._combo(
            "The lowest film", "Let the lowest film go on under all others, or beyond them as an outline", SPREADS
        )
        self.spread.activated.connect(lambda: self._set("spread the lowest film", spread=self.spread.currentData()))
        self.outline = LengthField(session, "How far the lowest film reaches beyond the others", self._set_outline)
        self.merge = QDoubleSpinBox()
        self.merge.setRange(0, 50)
        self.merge.setDecimals(1)
        self.merge.setAccessibleName(tr("Up to which difference colours are one"))
        self.merge.setToolTip(tr("Colours that differ by less (CIEDE2000) are cut from one film; below 1 is not seen"))
        self.merge.valueChanged.connect(lambda value: self._set("merge like colours", merge_delta_e=value))
        self.join = self._check(
            "Join crossing outlines of a colour", "Shapes of one colour that overlap are cut as one"
        )
        self.join.toggled.connect(lambda on: session.apply(join_outlines(on)))
        self.slivers = self._check(
            "Give slivers to their neighbours", "What is too thin to hold since others were cut out goes to a neighbour"
        )
        self.slivers.toggled.connect(lambda on: self._set("give slivers to their neighbours", drop_slivers=on))
        self.glitter = self._check(
            "Glitter may lie on glitter", "Some stack up to three, each fully pressed and cooled; most cut away instead"
        )
        self.glitter.toggled.connect(lambda on: self._set("glitter on glitter", stack_glitter=on))
        self.marks = self._check(
            "Weed frame with marks", "Centre lines, box and round marks on every layer, to lay them by; peeled away"
        )
        self.marks.toggled.connect(lambda on: self._set("weed frame with marks", marks=on))
        self.add_row("Films lie", self.method)
        self.add_pair("Lap, at most", self.lap, self.most)
        self.add_row("Lowest film", self.spread)
        self.add_row("Outline", self.outline)
        self.add_row("Merge below", self.merge)
        for box in (self.join, self.slivers, self.glitter, self.marks):
            self.form.addRow(box)
        self.new = QPushButton(tr("New film ..."))
        self.new.setToolTip(tr("Add a film of your own, with what its maker's sheet says"))
        self.new.clicked.connect(lambda: self.window().own_things.new_film())  # type: ignore[attr-defined]
        self.form.addRow(self.new)
        self.note = self.add_note()

    def _combo(self, name: str, tip: str, rows: tuple[tuple[str, str], ...]) -> QComboBox:
        combo = self.make_combo(name, tip, lambda: None)
        for value, said in rows:
            combo.addItem(said, value)
        return combo

    def _check(self, said: str, tip: str) -> QCheckBox:
        box = QCheckBox(said)
        box.setToolTip(plain(tip))
        return box

    def follow(self) -> None:
        """Show the split."""
        spec = self.session.job.layers
        stack = self.session.selection.stack
        for box, on in (
            (self.join, spec.join_outlines),
            (self.slivers, spec.drop_slivers),
            (self.glitter, spec.stack_glitter),
            (self.marks, spec.marks),
        ):
            box.blockSignals(True)
            box.setChecked(on)
            box.blockSignals(False)
        for spin in (self.most, self.merge):
            spin.blockSignals(True)
        self.most.setValue(spec.most_films or usual_most_films())
        usual = float(limits()["layers"]["merge_delta_e"])
        self.merge.setValue(usual if spec.merge_delta_e is None else spec.merge_delta_e)
        for spin in (self.most, self.merge):
            spin.blockSignals(False)
        self.method.setCurrentIndex(self.method.findData(spec.method))
        self.spread.setCurrentIndex(self.spread.findData(spec.spread))
        self.lap.show_mm(stack.lap_mm if stack is not None else spec.lap_mm or 0.0)
        self.outline.show_mm(spec.outline_mm)
        self.form.setRowVisible(self.outline, spec.spread == "outline")
        films = [row.film for row in stack.layers if row.film is not None] if stack is not None else []
        school = spec.stack_glitter or any(kind_of(film).carries_itself_by_school for film in films)
        self.form.setRowVisible(self.glitter, school)
        lap = "The lap is yours." if spec.lap_mm else "The lap is proposed: laying by hand, and shrink to the edge."
        glass = stack is not None and stack.through_glass
        seen = f"Seen through the glass: laid on {laid_on(glass)}, the front colour first. " if glass else ""
        self.note.setText(f"{seen}{lap} Which side is cut is derived from each film and from how it is seen.")

    def _set(self, name: str, **fields: Any) -> None:
        self.session.apply(set_layers(name, **fields))

    def _set_lap(self, mm: float) -> bool:
        return self.session.apply(set_layers("choose the lap", lap_mm=mm))

    def _set_outline(self, mm: float) -> bool:
        return self.session.apply(set_layers("choose the outline", outline_mm=mm))
