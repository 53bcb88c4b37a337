"""Files of strangers on their way to the table: first read and derived apart, then taken over."""

from pathlib import Path

from zinnet.artwork.svg.xml_guard import MOST_BYTES
from zinnet.base.errors import ArtworkError
from zinnet.base.files import read_file
from zinnet.base.stages import cache_in_use
from zinnet.bench.bounded import Bounded, Patience
from zinnet.bench.document import Document
from zinnet.blanks.model import OwnOutline
from zinnet.camera.found_sheet import FoundSheet
from zinnet.camera.measure import StraightPhoto
from zinnet.geometry.region import Region
from zinnet.job.edits import Edit
from zinnet.job.model import Job
from zinnet.nesting.model import Layout
from zinnet.workshop.model import Workshop

PHOTO_S = 60.0
"""Time for a photo, in seconds of the processor: in one of 48 million pixels the sheet is found in some 7 s."""


def derive_apart(document: Document, edit: Edit, called: str, patience: Patience | None = None) -> None:
    """Derive what an edit brings in apart, so that the document's stages know it; the edit itself is not applied.

    Only designs that are not on the table yet are looked at, on one garment without names.

    Raises
    ------
    ZinnetError
        Where the file can't be read or derived, breaks its bounds, or is not waited for.
    """
    with document.workshop.blanks.in_use():
        changed = edit.change(document.job)
    trial = _with_new_designs(changed, document.job)
    if trial.designs:
        workshop = document.workshop.model_copy(update={"stock": ()})
        document.stages.take_over(Bounded("derive", (trial, workshop), called, patience).answer())


def _with_new_designs(changed: Job, before: Job) -> Job:
    """Return a job with only those designs that another one has not."""
    new = tuple(design for design in changed.designs if design not in before.designs)
    return Job(unit=changed.unit, blank=changed.blank, designs=new, layers=changed.layers, nesting=changed.nesting)


def outline_apart(path: Path) -> OwnOutline:
    """Return the outline of a blank that a file holds. Raises :class:`ZinnetError`."""
    data = read_file(path, MOST_BYTES, error=ArtworkError)
    found: OwnOutline = Bounded("outline", (data, path.name), path.name).answer()
    return found


def area_apart(path: Path) -> Region:
    """Return what an SVG paints, in mm. Raises :class:`ZinnetError`."""
    data = read_file(path, MOST_BYTES, error=ArtworkError)
    found: Region = Bounded("area", (data, path.name), path.name).answer()
    return found


def photo_apart(path: Path, paper: str) -> tuple[FoundSheet, StraightPhoto]:
    """Return the sheet that is found in a photo, and the photo from straight above. Raises :class:`ZinnetError`."""
    found: tuple[FoundSheet, StraightPhoto] = Bounded(
        "photo", (path.absolute(), paper), path.name, most_s=PHOTO_S
    ).answer()
    return found


def open_apart(path: Path, workshop: Workshop, patience: Patience | None = None) -> Document:
    """Return the document of a job file that was read and derived apart; see :class:`zinnet.bench.bounded.Bounded`."""

    def read(path: Path) -> tuple[Job, dict[str, Layout]]:
        job, layouts, made = Bounded("open", (path.absolute(), workshop), path.name, patience).answer()
        cache = cache_in_use()
        if cache is not None:
            cache.take_over(made)
        return job, layouts

    return Document.open(path, workshop, read)
