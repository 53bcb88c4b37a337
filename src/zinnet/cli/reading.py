"""Reading what is typed behind a command, and printing answers."""

import json
from pathlib import Path
from typing import TYPE_CHECKING, Any, Literal, cast

import typer

from zinnet.base.errors import ZinnetError
from zinnet.base.files import read_file
from zinnet.base.json_file import read_json

if TYPE_CHECKING:
    from zinnet.artwork.source import FileArt, PictureArt
    from zinnet.bench.document import Document
    from zinnet.blanks.model import BlankSpec, Panel
    from zinnet.films.catalogue import Film
    from zinnet.films.support import Method
    from zinnet.job.model import Design, FamilyMember
    from zinnet.nesting.model import Turns, TurnsWord
    from zinnet.placement.place import PlacementSpec
    from zinnet.plan.fitted import Garment
    from zinnet.plan.model import Plan
    from zinnet.pressing.hem_test import HemBar
    from zinnet.workshop.model import Workshop

MOST_PLAN = 50_000_000
type WeedFrame = Literal["none", "piece", "mat"]


def blank(name: str, measures: list[str] | None, outline: Path | None = None) -> "BlankSpec":
    """Return the blank that a name and typed measures say, with an outline of one's own where one is named."""
    from zinnet.blanks.catalogue import read_blank_name
    from zinnet.blanks.model import Measure

    taken = tuple(Measure(name=key, mm=mm) for key, mm in taken_measures(measures or []).items())
    kept = kept_blank(name)
    spec = kept or read_blank_name(name)
    others = tuple(one for one in spec.measured if one.name not in {measure.name for measure in taken})
    spec = spec.model_copy(update={"measured": (*others, *taken)})
    if outline is None:
        return spec
    if spec.kind != "own-outline":
        raise ZinnetError(f"--outline is for --blank own-outline; {name} has an outline of its own.")
    from zinnet.blanks.own import read_outline

    return spec.model_copy(update={"outline": read_outline(outline.name, read(outline))})


def kept_blank(name: str) -> "BlankSpec | None":
    """Return the blank that was kept in the workshop under a name, or None."""
    from zinnet.workshop.store import WorkshopStore

    store = WorkshopStore()
    if not store.path.exists():
        return None
    return next((kept.spec for kept in store.blanks() if kept.name == name), None)


def family(text: str | None, spec: "BlankSpec") -> "tuple[FamilyMember, ...]":
    """Return the other sizes of a job, typed as ``toddler,adult-l=4`` or ``all``."""
    from zinnet.blanks.catalogue import blank_kind, size_of
    from zinnet.job.model import FamilyMember

    if text is None:
        return ()
    own, known = size_of(spec), blank_kind(spec.kind).sizes
    rows = [size for size in known if size != own] if text == "all" else text.split(",")
    members = []
    for row in rows:
        size, _, count = row.strip().partition("=")
        if size not in known:
            raise ZinnetError(f"--sizes {row}: {blank_kind(spec.kind).name} has the sizes {', '.join(known)}.")
        if count and not (count.isdigit() and 1 <= int(count) <= 1000):
            raise ZinnetError(f"--sizes {row}: {count} is not a number of garments; write 1 to 1000.")
        members.append(FamilyMember(size=size, copies=int(count or 1)))
    return tuple(members)


def designs(texts: list[str]) -> "tuple[Design, ...]":
    """Return more designs, typed as ``FILE=PLACE``."""
    from zinnet.job.model import Design

    found = []
    for text in texts:
        file, equals, place = text.rpartition("=")
        if not equals:
            raise ZinnetError(f"--also {text} has no place; write it like back.svg=full-back.")
        path = Path(file)
        found.append(Design(source=artwork(path), placement=placement(place, None, None)))
    return tuple(found)


def placement(place: str | None, school: str | None, width: str | None) -> "PlacementSpec":
    """Return the placement that the options say; what is left out is proposed."""
    from zinnet.placement.guides import place_names
    from zinnet.placement.guides import school as known_school
    from zinnet.placement.place import PlacementSpec

    if place is not None and place not in place_names():
        raise ZinnetError(f"There is no place “{place}”; known are: {', '.join(place_names())}.")
    if school is not None:
        known_school(school)
    return PlacementSpec(place=place, school=school, width_mm=positive(width, "--width"))


def read(path: Path) -> bytes:
    """Return the bytes of a file, if it is not too large."""
    from zinnet.artwork.svg.xml_guard import MOST_BYTES
    from zinnet.base.errors import ArtworkError
    from zinnet.base.files import read_file

    return read_file(path, MOST_BYTES, error=ArtworkError)


def artwork(path: Path, on: "Panel | None" = None) -> "FileArt | PictureArt":
    """Return the source that a file of artwork is, once it was read and drawn under watch.

    Where it is known on which panel it lies, a picture is tried as it is taken there: as it is, or traced.
    """
    from zinnet.artwork.source import settled_picture, source_of
    from zinnet.cli.watch import try_source

    source = source_of(path.name, read(path))
    printed = on is not None and on.holds[0] == "print"
    try_source(settled_picture(source, printed=printed, stepped=False))
    return source


def design_on(path: Path, spec: "BlankSpec", placement: "PlacementSpec") -> "Design":
    """Return the design of a file of artwork at a place of a blank."""
    from zinnet.blanks.build import build_blank
    from zinnet.job.model import Design
    from zinnet.placement.place import blank_panel

    return Design(source=artwork(path, blank_panel(placement, build_blank(spec))), placement=placement)


def taken_measures(texts: list[str]) -> dict[str, float]:
    """Return measures in mm, typed as ``chest=52cm``."""
    from zinnet.base.errors import UnitsError
    from zinnet.base.units import read_length

    found = {}
    for text in texts:
        name, equals, length = text.partition("=")
        if not equals:
            raise UnitsError(f"--measure {text} has no length; write it like chest=52cm.")
        found[name.strip().replace("-", "_")] = read_length(length)
    return found


def positive(text: str | None, option: str) -> float | None:
    """Return a length that must be longer than zero, or None where it is left out."""
    from zinnet.base.errors import UnitsError
    from zinnet.base.units import read_length

    if text is None:
        return None
    length = read_length(text)
    if length <= 0:
        raise UnitsError(f"{option} {text} is not longer than zero.")
    return length


def not_negative(text: str, option: str) -> float:
    """Return a length that may be zero."""
    from zinnet.base.errors import UnitsError
    from zinnet.base.units import read_length

    length = read_length(text)
    if length < 0:
        raise UnitsError(f"{option} {text} is less than zero.")
    return length


def method(text: str) -> "Method":
    """Return how films lie."""
    if text not in ("auto", "stack", "cut-away", "lap"):
        raise ZinnetError(f"There is no method “{text}”; use auto, stack, cut-away or lap.")
    return cast("Method", text)


def films(path: Path | None) -> "tuple[Film, ...]":
    """Return the films of a file, or those in stock where none is given."""
    from zinnet.films.own import films_in_stock, read_films

    return films_in_stock() if path is None else read_films(path)


def workshop(films: Path | None, *, shelf: bool = False) -> "Workshop":
    """Return the user's workshop, its films those of a file where one is given; the shelf is read where it is asked."""
    from zinnet.films.own import read_films
    from zinnet.workshop.opening import open_workshop

    opened = open_workshop()
    opened = opened if shelf else opened.model_copy(update={"stock": ()})
    return opened if films is None else opened.model_copy(update={"films": read_films(films)})


def refuse_unknown_film(film: str) -> None:
    """Raise where the workshop knows no film of this id."""
    from zinnet.workshop.opening import open_settings

    opened = open_settings()
    if opened.film(film) is None:
        known = ", ".join(one.id for one in opened.films[:12])
        raise ZinnetError(f"There is no film “{film}”; use one of {known}, or add it to films.toml.")


def opened_job(path: Path, *, with_shelf: bool = False) -> "Document":
    """Return the document of a job file; the shelf is read where the job is cut from it, or where it is asked for."""
    from zinnet.bench.document import Document
    from zinnet.cli.job_file import watched_job
    from zinnet.plan.older import seen_since
    from zinnet.workshop.opening import open_workshop

    workshop = open_workshop()
    document = Document.open(path, workshop.model_copy(update={"stock": ()}), watched_job)
    if with_shelf or (document.job.nesting.from_shelf and document.job.cut is None):
        document.use_workshop(workshop)
    older = seen_since(document.plan)
    if older:
        typer.echo(older, err=True)
    return document


def plan_and_size(job: Path, size: str | None) -> "tuple[Plan, int]":
    """Return the plan of a job file, and the number of a size of it, from 0."""
    plan = opened_job(job).plan
    sizes = [garment.size for garment in plan.garments]
    if size is not None and size not in sizes:
        raise ZinnetError(f"The job has no size “{size}”; it has: {', '.join(map(str, sizes))}.")
    return plan, 0 if size is None else sizes.index(size)


def opened_size(job: Path, size: str | None) -> "tuple[Document, Garment]":
    """Return a job file's document, and a size of it: the job's own where none is named."""
    document = opened_job(job)
    garments = document.plan.garments
    found = next((garment for garment in garments if size in (None, garment.size)), None)
    if found is None:
        raise ZinnetError(f"The job has no size “{size}”; it has: {', '.join(str(one.size) for one in garments)}.")
    return document, found


def document(path: Path) -> "Document":
    """Return the document of a job file, or of artwork as it is proposed for a tee."""
    from zinnet.bench.document import Document
    from zinnet.job.model import Design, Job
    from zinnet.workshop.opening import open_settings

    if path.suffix.lower() == ".zinnet":
        return opened_job(path)
    return Document(open_settings(), Job(title=path.stem, designs=(Design(source=artwork(path)),)))


def turns(text: str) -> "Turns":
    """Return the allowed turns in degrees, or ``any``."""
    import math

    if text == "any":
        return "any"
    try:
        turns = tuple(float(part) % 360 for part in text.split(","))
    except ValueError:
        turns = ()
    if not turns or not all(math.isfinite(angle) for angle in turns):
        raise ZinnetError(f"--turn {text} can't be read; write degrees like 0,90,180,270, or any.")
    return turns


def remove_old_cut_files(folder: Path) -> None:
    """Remove the cut files that an earlier plan wrote here, so that none is cut by mistake."""
    try:
        data = read_file(folder / "plan.json", MOST_PLAN)
        mats = read_json(data, "plan.json", most_values=MOST_PLAN)["mats"]
        names = [name for mat in mats for name in (mat["svg"], mat["plt"])]
    except (ZinnetError, KeyError, TypeError):
        return
    for name in names:
        if isinstance(name, str) and Path(name).name == name and name.startswith("mat-"):
            (folder / name).unlink(missing_ok=True)


def print_json(data: Any) -> None:
    """Print an answer."""
    typer.echo(json.dumps(data, indent=1, ensure_ascii=False))


def nested_job(path: Path) -> "Document":
    """Return the document of a job file, all its films nested on what the workshop holds."""
    from zinnet.bench.nesting import nest_document

    document = opened_job(path, with_shelf=True)
    nest_document(document)
    return document


def weed_frame(name: str) -> "WeedFrame":
    """Return a kind of weed frame. Raises :class:`ZinnetError` where there is none of the name."""
    if name not in ("none", "piece", "mat"):
        raise ZinnetError(f"There is no weed frame “{name}”; write none, piece or mat.")
    return cast("WeedFrame", name)


def turns_word(name: str) -> "TurnsWord":
    """Return how pieces may be turned. Raises :class:`ZinnetError` where there is no such word."""
    if name not in ("quarter", "half", "any", "none"):
        raise ZinnetError(f"There are no turns “{name}”; write quarter, half, any or none.")
    return cast("TurnsWord", name)


def grams(text: str) -> tuple[float, float]:
    """Return a range of force such as 10-350, in grams."""
    from zinnet.base.errors import UnitsError

    low, _, high = text.lower().replace("g", "").partition("-")
    try:
        return float(low), float(high)
    except ValueError:
        raise UnitsError(f"“{text}” is no range of force; write it like 10-350, in grams.") from None


def hem_bar(text: str) -> "HemBar":
    """Return what became of a bar of a hem test, typed like 150C/10=held."""
    from zinnet.base.errors import UnitsError
    from zinnet.base.units import read_temperature
    from zinnet.pressing.hem_test import HemBar

    about, equals, said = text.partition("=")
    heat, slash, seconds = about.partition("/")
    words = [word.strip().lower() for word in said.replace(",", " ").split()]
    known = {"held", "spoiled", "washed"}
    if not (equals and slash) or not words or set(words) - known or not {"held", "spoiled"} & set(words):
        raise UnitsError(f"“{text}” is no bar; write it like 150C/10=held, 160C/10=spoiled or 150C/10=held,washed.")
    try:
        time = float(seconds.strip().removesuffix("s"))
    except ValueError:
        raise UnitsError(f"“{seconds}” is no time; write seconds, such as 10.") from None
    return HemBar(
        heat_c=read_temperature(heat), seconds=time, held="held" in words, washed=True if "washed" in words else None
    )
