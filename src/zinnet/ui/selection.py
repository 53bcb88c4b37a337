"""The selection: which size, design, panel and piece are looked at. It is no part of the job."""

from collections.abc import Callable, Iterable
from typing import TYPE_CHECKING, Any, NamedTuple

from PySide6.QtCore import QObject, Signal

if TYPE_CHECKING:
    from zinnet.bench.document import Document
    from zinnet.blanks.model import Panel
    from zinnet.camera.backdrop import Backdrop
    from zinnet.job.model import Job
    from zinnet.layers.stack import LayerStack
    from zinnet.placement.place import Placement
    from zinnet.plan.ahead import Ahead
    from zinnet.plan.fitted import FittedDesign, Garment


class Drawn(NamedTuple):
    """How a design is drawn before its plan has followed: larger by a factor, and moved (mm on the panel)."""

    design: int
    factor: float = 1.0
    across_mm: float = 0.0
    down_mm: float = 0.0

    def place(self, placement: "Placement") -> "Placement":
        """Return where it is drawn."""
        import numpy as np

        grown = placement if self.factor == 1.0 else placement.drawn_larger(self.factor)
        return grown.moved(np.array([self.across_mm, self.down_mm]))


class Selection(QObject):
    """What the views light up and edits are meant for."""

    changed = Signal()
    pictured = Signal()
    """Only what is drawn is other than it was; the plan has not followed yet."""
    pointed_changed = Signal()

    def __init__(self, document: Callable[[], "Document"], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.backdrop: Backdrop | None = None
        self.begin()

    def begin(self) -> None:
        """Look at the open document from its start."""
        self.ahead: Ahead | None = None
        """What the picture shows before the plan has followed."""
        self.drawn: Drawn | None = None
        """A design that is drawn elsewhere, or larger, until it is known what it looks like there."""
        self.gone: frozenset[str] = frozenset()
        """Colours of the selected design that are not drawn any more, until it is known what it looks like without."""
        self.size: str | None = None
        self.design_index = 0
        self.pointed: str | None = None
        self._panel: str | None = None

    @property
    def garment(self) -> "Garment":
        """The size that is looked at."""
        garments = self.ahead.garments if self.ahead is not None else self._document().plan.garments
        return garments[self.number]

    @property
    def number(self) -> int:
        """Which of the sizes is looked at, from 0."""
        sizes = [garment.size for garment in self._document().plan.garments]
        return sizes.index(self.size) if self.size in sizes else 0

    def look_ahead(self, ahead: "Ahead | None") -> None:
        """Show what comes first of the plan, where it has the same sizes and designs; None: the plan is there."""
        shown = self._document().plan.garments
        if ahead is None or _shape(ahead.garments) == _shape(shown):
            self.ahead, self.drawn, self.gone = ahead, None, frozenset()
            self.pictured.emit()

    def see_films(self, before: "Job", job: "Job") -> None:
        """Show the films that an edit chooses at once, before it is known how they lie."""
        from zinnet.plan.ahead import films_ahead

        document = self._document()
        garments = self.ahead.garments if self.ahead is not None else document.plan.garments
        ahead = films_ahead(garments, before, job, document.workshop.films)
        if ahead is not None:
            self.look_ahead(ahead)

    def draw(self, drawn: "Drawn") -> None:
        """Draw a design elsewhere, or larger, until what becomes of it is known."""
        self.drawn = drawn
        self.pictured.emit()

    @property
    def design(self) -> "FittedDesign | None":
        """The design that is selected, on the size that is looked at."""
        designs = self.garment.designs
        return designs[min(self.design_index, len(designs) - 1)] if designs else None

    @property
    def composed(self) -> "FittedDesign | None":
        """What the selected design is cut in: itself, or what lies in one place with it."""
        design = self.design
        return None if design is None else self.garment.composed_of(design.index) or design

    @property
    def stack(self) -> "LayerStack | None":
        """The layers of what the selected design is cut in."""
        return None if self.composed is None else self.composed.stack

    @property
    def chosen_panel(self) -> "Panel | None":
        """The panel that was chosen to be looked at, where one was."""
        return self.garment.blank.panel(self._panel) if self._panel is not None else None

    @property
    def panel(self) -> "Panel":
        """The panel that is looked at: the one that was chosen, else the selected design's."""
        design = self.design
        return self.chosen_panel or (design.panel if design is not None else self.garment.blank.main)

    @property
    def at(self) -> dict[str, Any]:
        """The design and the size that edits are meant for."""
        own = self.number == 0
        return {
            "design": self.design.index if self.design is not None else 0,
            "size": None if own else self.garment.size,
        }

    @property
    def free_place(self) -> str | None:
        """A place of the blank where no design lies yet."""
        from zinnet.placement.place import places_on

        taken = [design.placement.place.id for design in self.garment.designs if design.placement is not None]
        return next((name for name in places_on(self.garment.blank) if name not in taken), None)

    def look_at(self, *, size: str | None = None, design: int | None = None, panel: str | None = None) -> None:
        """Look at another size, select another design, or look at another panel."""
        if size is not None:
            self.size = size
        if design is not None:
            self.design_index, self._panel = design, None
        if panel is not None:
            self._panel = panel
            on_it = self.garment.on_panel(panel)
            if on_it and (self.design is None or self.design.panel.id != panel):
                self.design_index = on_it[0].index
        self.changed.emit()

    def leave_out(self, colours: Iterable[str]) -> None:
        """Draw the selected design without some of its colours, until what becomes of it is known."""
        self.gone = frozenset(colours)
        self.pictured.emit()

    def lay_backdrop(self, backdrop: "Backdrop | None") -> None:
        """Lay a photo below the artwork at Fit, as a help for the eye."""
        self.backdrop = backdrop
        self.changed.emit()

    def choose_panel(self, panel: str | None) -> None:
        """Remember another panel to look at, for the edit that follows; None: the selected design's."""
        self._panel = panel

    def point_at(self, piece: str | None) -> None:
        """Light up a piece in every view."""
        if piece != self.pointed:
            self.pointed = piece
            self.pointed_changed.emit()


def _shape(garments: "tuple[Garment, ...]") -> object:
    """Return which designs lie where on which sizes."""
    return [(one.size, [(design.index, design.panel.id) for design in one.designs]) for one in garments]
