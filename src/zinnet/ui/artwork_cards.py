"""The cards beside the artwork: where the design comes from, and the steps that are done to it."""

from typing import TYPE_CHECKING, Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QMenu, QPushButton, QScrollArea, QVBoxLayout, QWidget

from zinnet.artwork.lettering.fonts import are_installed_fonts_known, installed_fonts
from zinnet.artwork.lettering.outlined_name import OutlineRing
from zinnet.artwork.source import OutlinedNameArt, source_name
from zinnet.base.frozen import with_fields
from zinnet.job.edits import (
    change_step,
    move_step,
    remove_step,
    retype,
    set_recipe,
    set_source,
)
from zinnet.steps import model
from zinnet.ui.in_turn import InTurn
from zinnet.ui.language import tr
from zinnet.ui.plain import Label, plain
from zinnet.ui.recipe_form import RecipeForm
from zinnet.ui.theme import PLAIN, SMALL, font

if TYPE_CHECKING:
    from zinnet.job.model import Design
    from zinnet.ui.session import Session

KINDS = {
    "file": "Drawing",
    "picture": "Picture",
    "text": "Text",
    "word-through": "Word through a shape",
    "outlined-name": "Outlined name",
}
RECIPES = {"picture": "trace", "text": "text", "word-through": "word", "outlined-name": "name"}
OF_WHOLE_PICTURE = {"taken", "life_width_mm"}
"""What there is to say of a picture that stays one; all else is about tracing."""
MOST_RINGS = 3
GROUPS: tuple[tuple[str, tuple[type[Any], ...]], ...] = (
    ("Put together", (model.Join, model.CutAway, model.Intersect, model.Exclude)),
    ("Outlines and strokes", (model.Outline, model.Thicken, model.Thin, model.CloseGaps, model.WidenGaps)),
    ("Clean", (model.Smooth, model.Simplify, model.RemoveSpecks, model.FillCounters, model.Drop, model.Keep)),
    ("Small parts", (model.Enlarge, model.Bridge)),
    ("Arrange", (model.Move, model.Duplicate, model.Turn, model.Flip, model.Align, model.Distribute)),
    ("Colours", (model.Recolour, model.ReduceColours)),
    ("On the mat", (model.KeepTogether,)),
)
NEED_PARTS = (model.CutAway, model.Intersect, model.Drop, model.Keep, model.Bridge, model.KeepTogether)


def recipe_part(source: Any) -> str | None:
    """Return the field in which a source keeps how it is made; None for a plain drawing."""
    return RECIPES.get(source.kind)


class Card(QFrame):
    """A manila card with a title."""

    def __init__(self, title: str) -> None:
        super().__init__()
        self.setProperty("card", "plain")
        self.title = Label(title)
        self.title.setFont(font(PLAIN, bold=True))
        self.title.setWordWrap(True)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(12, 10, 12, 10)
        self.column.setSpacing(6)
        self.column.addWidget(self.title)


class ArtworkCards(QScrollArea):
    """The column of cards: the source first, then each step, then what could be done next."""

    step_asked = Signal(object)

    def __init__(self, session: "Session") -> None:
        super().__init__()
        self.session = session
        self.setAccessibleName(tr("The designs with their steps"))
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.viewport().setAutoFillBackground(False)
        holder = QWidget()
        holder.setProperty("holder", True)
        self._column = QVBoxLayout(holder)
        self._column.setContentsMargins(0, 0, 6, 8)
        self._column.setSpacing(10)
        self.setWidget(holder)
        self.forms: list[RecipeForm] = []
        self._shape: object = None
        self.add = QPushButton(tr("Edit the artwork ..."))
        self.add.setProperty("strong", True)
        self.add.setToolTip(tr("A step on the parts that were pointed at, or on everything (Ctrl+Return)"))
        self.add.setMenu(self._menu())
        InTurn(session, self.follow, self)
        self.follow()

    def _menu(self) -> QMenu:
        menu = QMenu(self)
        for title, kinds in GROUPS:
            part = menu.addMenu(title)
            for kind in kinds:
                name = model.NAMES[kind.model_fields["kind"].default]
                action = part.addAction(name[0].upper() + name[1:])
                action.setToolTip(plain((kind.__doc__ or "").strip().splitlines()[0]))
                action.triggered.connect(lambda checked=False, kind=kind: self.step_asked.emit(kind))
        return menu

    def follow(self) -> None:
        """Show the selected design's source and steps; forms are kept where their kinds stay."""
        design = self._design()
        if design is None or (self._shape is not None and not self.isVisible()):
            return
        rings = len(design.source.name.outlines) if isinstance(design.source, OutlinedNameArt) else 0
        shape = (self._index(), design.source.kind, rings, tuple(step.kind for step in design.steps))
        if shape != self._shape:
            self._shape = shape
            self._build(design)
        recipes = self._recipes(design)
        for form, recipe in zip(self.forms, recipes, strict=True):
            form.show_recipe(recipe)
        shown = self.session.selection.design
        if design.source.kind == "picture" and shown is not None:
            self.forms[0].show_only(OF_WHOLE_PICTURE if shown.artwork.whole_picture else None)

    def showEvent(self, event: QShowEvent) -> None:
        """Follow what changed while the cards were not seen."""
        super().showEvent(event)
        self.follow()

    def _recipes(self, design: "Design") -> list[Any]:
        part = recipe_part(design.source)
        own = design.source if part is None else getattr(design.source, part)
        rings = design.source.name.outlines if isinstance(design.source, OutlinedNameArt) else ()
        return [own, *rings, *design.steps]

    def _design(self) -> "Design | None":
        index = self._index()
        return self.session.job.designs[index] if index < len(self.session.job.designs) else None

    def _index(self) -> int:
        return self.session.selection.design.index if self.session.selection.design is not None else 0

    def _build(self, design: "Design") -> None:
        self.add.setParent(None)
        while self._column.count():
            item = self._column.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self.forms = []
        self._column.addWidget(self._source_card(design))
        for number, step in enumerate(design.steps):
            self._column.addWidget(self._step_card(number, step, len(design.steps)))
        self._column.addWidget(self.add)
        self.add.show()
        self._column.addStretch(1)

    def _source_card(self, design: "Design") -> Card:
        index, part = self._index(), recipe_part(design.source)
        card = Card(KINDS[design.source.kind])
        if design.source.file is not None:
            said = Label(source_name(design.source))
            said.setProperty("quiet", True)
            said.setWordWrap(True)
            card.column.addWidget(said)
        own = design.source if part is None else getattr(design.source, part)

        def take(field: str, value: Any) -> None:
            name = "artwork" if part is None else KINDS[design.source.kind].lower()
            if part is None:
                source = self.session.job.designs[index].source
                edit = set_source(name, with_fields(source, **{field: value}), index, f"source-{index}-{field}")
            elif (part, field) == ("text", "text"):
                edit = retype(value, index, f"recipe-{index}-text")
            else:
                edit = set_recipe(name, part, index, f"recipe-{index}-{field}", **{field: value})
            self.session.apply_later(edit)

        card.column.addWidget(self._form(own, take))
        if hasattr(own, "font") and not are_installed_fonts_known():
            self._look_for_fonts()
        if isinstance(design.source, OutlinedNameArt):
            self._add_rings(card, design.source, index)
        return card

    def _look_for_fonts(self) -> None:
        """Look for the installed fonts beside the window, then offer them."""

        def offer(found: object) -> None:
            for form in self.forms:
                form.offer_fonts()

        self.session.background.run(installed_fonts, offer, lambda error: self.session.said.emit(str(error)))

    def _form(self, recipe: Any, take: Any) -> RecipeForm:
        form = RecipeForm(self.session, recipe, take)
        self.forms.append(form)
        return form

    def _add_rings(self, card: Card, source: OutlinedNameArt, index: int) -> None:
        """Add a small form for each outline of a name, and buttons for one more or one less."""

        def put(rings: tuple[OutlineRing, ...]) -> None:
            self.session.apply_later(set_recipe("outlines", "name", index, "", outlines=rings))

        def now() -> tuple[OutlineRing, ...]:
            present = self.session.job.designs[index].source
            assert isinstance(present, OutlinedNameArt)
            return present.name.outlines

        for number, ring in enumerate(source.name.outlines):
            head = Label(f"Outline {number + 1}")
            head.setFont(font(SMALL, bold=True))
            card.column.addWidget(head)

            def take(field: str, value: Any, number: int = number) -> None:
                rings = list(now())
                rings[number] = with_fields(rings[number], **{field: value})
                put(tuple(rings))

            card.column.addWidget(self._form(ring, take))
        row = QHBoxLayout()
        for said, can, do in (
            ("One outline more", len(source.name.outlines) < MOST_RINGS, lambda: put((*now(), OutlineRing()))),
            ("One less", bool(source.name.outlines), lambda: put(now()[:-1])),
        ):
            button = QPushButton(said)
            button.setEnabled(can)
            button.clicked.connect(lambda checked=False, do=do: do())
            row.addWidget(button)
        card.column.addLayout(row)

    def _step_card(self, number: int, step: Any, count: int) -> Card:
        index = self._index()
        name = model.step_name(step)
        card = Card(f"{number + 1}. {name[0].upper() + name[1:]}")
        said = Label(_on(step))
        said.setProperty("quiet", True)
        said.setFont(font(SMALL))
        said.setWordWrap(True)
        card.column.addWidget(said)

        def take(field: str, value: Any) -> None:
            present = self.session.job.designs[index].steps[number]
            self.session.apply_later(change_step(number, with_fields(present, **{field: value}), index))

        card.column.addWidget(self._form(step, take))
        row = QHBoxLayout()
        row.setSpacing(6)
        for text, tip, can, edit in (
            ("Earlier", "Do this step before the one above", number > 0, lambda: move_step(number, number - 1, index)),
            ("Later", "Do it after the one below", number < count - 1, lambda: move_step(number, number + 1, index)),
            ("Take out", "Take the step out; the artwork comes back", True, lambda: remove_step(number, index)),
        ):
            button = QPushButton(text)
            button.setToolTip(plain(tip))
            button.setEnabled(can)
            button.setProperty("small", True)
            button.clicked.connect(lambda checked=False, edit=edit: self.session.apply_later(edit()))
            row.addWidget(button)
        row.addStretch(1)
        card.column.addLayout(row)
        return card


def _on(step: Any) -> str:
    """Return what a step acts on, in words."""
    which = getattr(step, "by", None) or getattr(step, "which", None)
    if which is None or (not which.points and not which.colours):
        return "on everything"
    if which.points:
        return "on 1 part" if len(which.points) == 1 else f"on {len(which.points)} parts"
    return "on " + ", ".join(which.colours)
