"""One piece cut again: of the nearest film that holds it, the smallest scrap first, by itself."""

from dataclasses import dataclass, replace
from pathlib import Path

from zinnet.base.errors import CutError
from zinnet.base.files import write_whole
from zinnet.films.catalogue import kind_of
from zinnet.machines.cutters import Mat
from zinnet.nesting.mat_sheets import sheet_on
from zinnet.nesting.model import Layout, NestTask
from zinnet.nesting.running import NestRun
from zinnet.nesting.sheet import Sheet
from zinnet.output.cut_files import ENDINGS, content_of
from zinnet.plan.cut_parts import CutPart
from zinnet.plan.film_edges import edges_of
from zinnet.plan.loading import LoadedMat, loaded_mats, safe_name
from zinnet.plan.model import Facts
from zinnet.plan.nests import TEST_CUT, FilmNest, nested_mats
from zinnet.plan.press_cards import Hand
from zinnet.plan.presses import GarmentPress, piece_key
from zinnet.plan.trims import trim_list
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.pieces import PressPiece
from zinnet.workshop.stock import StockItem
from zinnet.workshop.stock_sheets import sheets_from

NOT_CUT = "That piece is not cut in this job any more; look at Nest."
TRIAL_S = 1.0


@dataclass(frozen=True, eq=False)
class CutAgain:
    """A piece that is cut again: the film that it is cut from, and how it is loaded.

    ``item`` is the film from the shelf; None where that has none that holds it: then a mat full of film is asked for.
    ``load`` is None where not even that holds it.
    """

    name: str
    nest: FilmNest
    item: StockItem | None
    load: LoadedMat | None

    @property
    def said(self) -> str:
        """From what it is cut, in words."""
        if self.load is None:
            return f"no mat holds it in one piece: {self.nest.film.name}"
        if self.item is None:
            return f"nothing on the shelf holds it: new {self.nest.film.name}"
        place = f", {self.item.place}" if self.item.place else ""
        return f"{self.item.kind} {self.item.number} of {self.nest.film.name}{place}"

    @property
    def taken_mm2(self) -> float:
        """How much film goes for it: its box, with the carrier around it."""
        trim = 2 * press_numbers().trim.carrier_mm
        boxes = [part.region.bounds for part in self.nest.parts]
        return float(sum((box[2] - box[0] + trim) * (box[3] - box[1] + trim) for box in boxes))

    def write(self, folder: Path, formats: tuple[str, ...] = ("svg", "hpgl")) -> list[Path]:
        """Write its cut files. Raises :class:`CutError` where it can't be cut or the folder can't be written."""
        if self.load is None:
            raise CutError(f"{self.name} can't be cut again: {self.said}.")
        stem = f"again-{safe_name(self.name)}"
        return [
            write_whole(folder / f"{stem}.{ENDINGS.get(one, one)}", content_of(self.load, one), error=CutError)
            for one in formats
        ]


def cut_again(facts: Facts, press: GarmentPress, hand: Hand) -> CutAgain:
    """Return how a piece of a garment is cut again, by itself.

    Parameters
    ----------
    facts : Facts
        The job's plan, with its nests.
    press : GarmentPress
        How the garment is pressed that it is for: of a size, or of a name.
    hand : Hand
        Which piece, and for which of its places.

    Raises
    ------
    CutError
        Where the job does not cut it: its layers are others now.
    """
    found = (piece for work in press.works for piece in work.pieces if piece.key == hand.piece)
    piece = next(found, None)
    if piece is None:
        raise CutError(NOT_CUT)
    parts, nest = _parts_of(facts, press, piece, hand)
    names = {part.name for part in parts}
    pieces = tuple(replace(one, copies=1) for one in nest.task.pieces if one.name in names and one.name != TEST_CUT)
    mat = facts.workshop.machines.mat(facts.job.nesting.mat)
    if kind_of(nest.film).bond == "print":
        mat = nest.bed
    for sheet, item in _films(facts, nest, mat):
        task = replace(
            nest.task,
            pieces=pieces,
            sheets=(sheet.model_copy(update={"copies": 1}),),
            pinned=(),
            seconds=TRIAL_S,
            steps=None,
        )
        layout = _laid(task)
        if layout is not None:
            made = replace(nest, parts=parts, task=task, items=(item,), bed=mat, layout=layout, waits=False)
            (load,) = loaded_mats(trim_list(nested_mats((made,))), facts.cutting)
            return CutAgain(piece.name, made, item, load)
    return CutAgain(piece.name, nest, None, None)


def _parts_of(facts: Facts, press: GarmentPress, piece: PressPiece, hand: Hand) -> tuple[tuple[CutPart, ...], FilmNest]:
    """Return what is cut of a piece, and of which film."""
    mine = {id(composed) for composed in press.garment.compositions}
    for nest in facts.nests:
        parts = tuple(
            part
            for part in nest.parts
            if piece.place_of(hand.place) in part.places
            and part.part == piece.part_of(hand.place)
            and (part.row is not None or facts.garments[part.garment].size == press.garment.size)
            and piece_key(facts.composition_of(part), part.layer) == hand.piece
            and (part.row is None or id(facts.composition_of(part)) in mine)
        )
        if parts:
            return parts, nest
    raise CutError(NOT_CUT)


def _films(facts: Facts, nest: FilmNest, mat: Mat) -> list[tuple[Sheet, StockItem | None]]:
    """Return the film to try, the smallest scrap first, and at last a mat full of it."""
    items = [item for item in facts.workshop.stock if item.film == nest.film.id]
    kept = edges_of(facts.job, facts.workshop).kept_mm
    loads = sheets_from(items, mat, edge_mm=kept, directed=kind_of(nest.film).direction)
    return [*loads, (sheet_on(mat), None)]


def _laid(task: NestTask) -> Layout | None:
    """Return a nest of all the pieces, or None where none is found in a moment."""
    sheet = task.sheets[0]
    if sum(piece.region.area for piece in task.pieces) > sheet.width_mm * sheet.height_mm:
        return None
    found = NestRun(task).wait()
    return None if found.unplaced else found
