"""What the frame and the tapes of Fit are about: the selected design, or all of the group that it is in."""

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from zinnet.plan.arranging import units_of
from zinnet.plan.blocks import Block, block_of
from zinnet.plan.fitting import fitting_of

if TYPE_CHECKING:
    from zinnet.placement.place import Placement
    from zinnet.plan.fitted import FittedDesign, Garment
    from zinnet.ui.session import Session

LEAST_WIDTH_MM = 5.0


class Held:
    """The selected design with its group: where it lies, and the edits of its width and its distances."""

    def __init__(self, session: "Session", shown: Callable[["FittedDesign"], "Placement | None"]) -> None:
        self.session, self._shown = session, shown
        self._known: tuple[Garment, int, Block | None] | None = None

    @property
    def group(self) -> Block | None:
        """The outermost group that the selected design is in, as one."""
        garment, design = self.session.selection.garment, self.session.selection.design
        if design is None or not design.group:
            return None
        if self._known is None or self._known[0] is not garment or self._known[1] != design.index:
            self._known = garment, design.index, self._block(garment, design)
        return self._known[2]

    def _block(self, garment: "Garment", design: "FittedDesign") -> Block | None:
        (unit,) = units_of(garment, [design.index])
        places = {one.placement.place.id for one in unit.designs if one.placement is not None}
        if len(unit.designs) < 2 or len(places) > 1:
            return None
        return block_of(garment, unit.designs, fitting_of(self.session.job, self.session.workshop))

    @property
    def placement(self) -> "Placement | None":
        """Where it is shown, a group by its box; None where the panel that is looked at is another one."""
        design, panel = self.session.selection.design, self.session.selection.panel
        if design is None or design.placement is None or design.panel.id != panel.id:
            return None
        group = self.group
        if group is None:
            return self._shown(design)
        now = self._shown(design)
        assert now is not None
        return group.placement.moved(now.matrix[:2, 2] - design.placement.matrix[:2, 2])

    @property
    def is_all_of_its_place(self) -> bool:
        """Whether nothing else lies at its place: what shares a place is held to the guide as one."""
        placement, group = self.placement, self.group
        there = [
            one
            for one in self.session.selection.garment.designs
            if one.placement is not None and placement is not None and one.placement.place.id == placement.place.id
        ]
        return len(there) == (len(group.designs) if group is not None else 1)

    @property
    def width_mm(self) -> float:
        """Its width: of a text on an arc the one laid straight, of a group that of its box."""
        design, group = self.session.selection.design, self.group
        if group is not None:
            return group.width_mm
        drawn = self.session.selection.drawn
        factor = drawn.factor if drawn is not None and design is not None and drawn.design == design.index else 1.0
        return design.word_width_mm * factor if design is not None else 0.0

    def set_width(self, mm: float) -> bool:
        """Take a typed width; the proportions stay, in a group the gaps as well."""
        if mm < LEAST_WIDTH_MM:
            self.session.said.emit("The artwork can't be narrower than 5 mm; type a larger width.")
            return False
        group = self.group
        if group is None:
            return self.session.set_fit("width of the artwork", width_mm=mm, height_mm=None)
        self.session.following.when_pictured(
            lambda: self._move("width of the group", lambda block: {"factor": mm / block.width_mm})
        )
        return True

    def _move(self, name: str, by: Callable[[Block], dict[str, Any]]) -> None:
        """Move or scale the group as it is shown."""
        group = self.group
        if group is not None:
            self.session.apply(group.moved(name, **by(group)))

    def set_distance(self, mm: float) -> bool:
        """Take a typed distance from the reference point of the place."""
        group = self.group
        if group is None:
            return self.session.set_fit("distance", from_reference_mm=mm)
        self.session.following.when_pictured(
            lambda: self._move("distance", lambda block: {"down_mm": mm - block.placement.from_reference_mm})
        )
        return True

    def set_aside(self, mm: float) -> bool:
        """Take a typed distance to the right of the centre line."""
        group, name = self.group, "distance from the centre line"
        if group is None:
            return self.session.set_fit(name, from_centre_mm=mm)
        self.session.following.when_pictured(
            lambda: self._move(name, lambda block: {"across_mm": mm - block.placement.from_centre_mm})
        )
        return True

    def scale(self, start: "Placement", group: Block | None, width_mm: float, factor: float) -> None:
        """Scale it by a factor from when it was taken hold of, about the point by which it is held."""
        least = LEAST_WIDTH_MM / (group.width_mm if group is not None else width_mm)
        if group is not None:
            wide = round(max(factor, least) * group.width_mm, 1)
            self.session.apply(group.moved("width of the group", factor=wide / group.width_mm, merge="scale"))
            return
        self.session.set_fit(
            "width of the artwork",
            merge="scale",
            width_mm=round(max(factor, least) * width_mm, 1),
            height_mm=None,
            from_reference_mm=start.from_reference_mm,
        )
