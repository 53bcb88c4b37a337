"""Commands of a job without the window: job new, add, set, keys, show, way, mend."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from zinnet.base.errors import ZinnetError
from zinnet.cli import reading
from zinnet.cli.arranging import register
from zinnet.cli.options import JobFile, OtherFile

if TYPE_CHECKING:
    from zinnet.artwork.lettering.text import TextSpec
    from zinnet.bench.document import Document
    from zinnet.blanks.model import BlankSpec
    from zinnet.job.edits import Edit
    from zinnet.plan.findings.model import Finding

app = typer.Typer(help="Make a job, add designs to it, set and mend it, and say what it is, without the window.")

Json = Annotated[bool, typer.Option("--json", help="As JSON.")]
Colour = Annotated[str | None, typer.Option("--colour", help="As #rrggbb.")]


@app.command()
def new(
    blank: Annotated[str, typer.Option("--blank", help="The kind of blank, such as tee; zinnet blanks lists them.")],
    out: Annotated[Path, typer.Option("--out", help="The job file to write.")],
    size: Annotated[str | None, typer.Option("--size", help="The job's own size; else the first of --sizes.")] = None,
    title: Annotated[str | None, typer.Option("--title", help="What the job is called.")] = None,
    cloth: Annotated[str | None, typer.Option("--cloth", help="What the cloth is made of.")] = None,
    dots: Annotated[str | None, typer.Option("--dots", help="Dots of the care label: unread, 1, 2 or 3.")] = None,
    colour: Colour = None,
    measure: Annotated[list[str] | None, typer.Option("--measure", help="NAME=LENGTH, such as chest=52cm.")] = None,
    copies: Annotated[int | None, typer.Option("--copies", help="How many garments.")] = None,
    sizes: Annotated[str | None, typer.Option("--sizes", help="How many of each size: adult-m=4,adult-l=2.")] = None,
) -> None:
    """Begin a job on a blank."""
    from zinnet.bench.document import Document
    from zinnet.job.keys import read_sizes
    from zinnet.job.model import Job
    from zinnet.workshop.opening import open_workshop

    if copies is not None and sizes is not None:
        raise ZinnetError("Say how many by --copies or by --sizes, not by both.")
    workshop = open_workshop()
    with workshop.blanks.in_use():
        spec = _blank(blank, size)
        if sizes is not None and size is None:
            counts = read_sizes(Job(blank=spec), sizes)
            spec = spec.model_copy(update={"size": counts[0][0]}) if counts else spec
    document = Document(workshop, Job(blank=spec))
    typed = {
        "title": title,
        "blank.cloth": cloth,
        "blank.dots": dots,
        "blank.colour": colour,
        "copies": None if copies is None else str(copies),
        "sizes": sizes,
    }
    settings = [(key, value) for key, value in typed.items() if value is not None]
    for text in measure or []:
        name, equals, length = text.partition("=")
        if not equals:
            raise ZinnetError(f"--measure {text} has no length; write it like chest=52cm.")
        settings.append((f"measure.{name.strip()}", length))
    _set(document, settings)
    document.save(out)
    typer.echo(f"{document.job.title}: {document.plan.blank.name}, {document.plan.copies} in all, in {out}.")


def _blank(kind: str, size: str | None) -> "BlankSpec":
    """Return a blank of a kind; the name may hold the size, as for every other command."""
    from zinnet.blanks.catalogue import blank_kind, blank_kinds, read_blank_name
    from zinnet.blanks.model import BlankSpec

    if kind not in blank_kinds():
        return read_blank_name(kind)
    known = blank_kind(kind).sizes
    if size is not None and size not in known:
        raise ZinnetError(f"{blank_kind(kind).name} has no size “{size}”; it has: {', '.join(known)}.")
    return BlankSpec(kind=kind, size=size) if size is not None else read_blank_name(kind)


@app.command()
def add(
    job: JobFile,
    artwork: Annotated[Path | None, typer.Argument(help="An SVG, a DXF or a picture.")] = None,
    text: Annotated[str | None, typer.Option("--text", help="Words instead; \\n begins another line.")] = None,
    font: Annotated[str | None, typer.Option("--font", help="The font of the words.")] = None,
    in_font: Annotated[
        list[str] | None,
        typer.Option(
            "--in-font", help="Some of the words in another font or style: walk=dancing-script, Reed=atkinson/bold."
        ),
    ] = None,
    height: Annotated[str | None, typer.Option("--height", help="How high it is, such as 38mm.")] = None,
    place: Annotated[str | None, typer.Option("--place", help="Where, such as full-front; else a free place.")] = None,
    width: Annotated[str | None, typer.Option("--width", help="How wide it is.")] = None,
    down: Annotated[str | None, typer.Option("--down", help="How far from the reference of its place.")] = None,
    aside: Annotated[str | None, typer.Option("--aside", help="How far its middle is from the centre line.")] = None,
    turn: Annotated[float | None, typer.Option("--turn", help="Turned by so many degrees, clockwise.")] = None,
    colour: Colour = None,
    out: OtherFile = None,
) -> None:
    """Add a design, artwork or words, and print its number."""
    if (artwork is None) == (text is None):
        raise ZinnetError("Say what to add: a file of artwork, or words by --text, one of the two.")
    if text is None and (font is not None or colour is not None or in_font):
        raise ZinnetError(
            "--font, --in-font and --colour are for words; artwork brings its own colours, films follow them."
        )
    if width is not None and height is not None:
        raise ZinnetError("Say --width or --height; the other one follows from the artwork's proportions.")
    document = reading.opened_job(job)
    document.apply(_addition(document, artwork, text, font, in_font or [], colour, place))
    number = len(document.job.designs)
    if height is not None:
        width = f"{_width_for(document, number - 1, reading.positive(height, '--height'))}mm"
    typed = {"width": width, "down": down, "aside": aside, "turn": None if turn is None else str(turn)}
    _set(document, [(f"design.{number}.{name}", value) for name, value in typed.items() if value is not None])
    document.save(out or job)
    typer.echo(number)


def _addition(
    document: "Document",
    artwork: Path | None,
    text: str | None,
    font: str | None,
    in_font: list[str],
    colour: str | None,
    place: str | None,
) -> "Edit":
    """Return the edit that adds artwork or words where they have room."""
    from zinnet.artwork.lettering.text import TextSpec
    from zinnet.artwork.source import TextArt, source_of
    from zinnet.job.keys import read_colour
    from zinnet.placement.place import PlacementSpec, blank_panel, places_on
    from zinnet.plan.room import added

    known = places_on(document.plan.blank)
    if place is not None and place not in known:
        raise ZinnetError(f"There is no place “{place}” on it; it has: {', '.join(known)}.")
    if artwork is not None:
        laid = blank_panel(PlacementSpec(place=place), document.plan.blank)
        source = source_of(artwork.name, reading.artwork(artwork, laid).file.data)
        return added(document.workshop, artwork.name, source, place)
    words = (text or "").replace("\\n", "\n")
    if not words.strip():
        raise ZinnetError("--text is empty; write what is to be set.")
    fields: dict[str, str] = {"text": words}
    if font is not None:
        _refuse_strange_font(font)
        fields["font"] = font
    if colour is not None:
        fields["colour"] = read_colour(colour, "--colour")
    spec = TextSpec.model_validate(fields)
    for asked in in_font:
        spec = _with_letters_in(spec, asked)
    return added(document.workshop, words.replace("\n", " "), TextArt(text=spec), place)


def _with_letters_in(spec: "TextSpec", asked: str) -> "TextSpec":
    """Return a text with some letters in another font, as it is asked for: letters=font or letters=font/style."""
    from zinnet.artwork.lettering.fonts import font_family
    from zinnet.artwork.lettering.runs import marked

    letters, _, wanted = asked.rpartition("=")
    font, _, style = wanted.partition("/")
    begin = spec.text.find(letters.replace("\\n", "\n")) if letters else -1
    if begin < 0:
        raise ZinnetError(f"--in-font {asked}: write letters of the text, =, and a font, such as walk=dancing-script.")
    _refuse_strange_font(font)
    if style and style not in font_family(font).styles:
        raise ZinnetError(f"{font} has no style “{style}”; it has: {', '.join(font_family(font).styles)}.")
    runs = marked(spec.text, spec.runs, begin, begin + len(letters), (font, style or None))
    return spec.model_copy(update={"runs": runs})


def _refuse_strange_font(font: str) -> None:
    from zinnet.artwork.lettering.fonts import fonts, installed_fonts

    if font not in fonts() and font not in installed_fonts():
        raise ZinnetError(f"There is no font “{font}”; use one of {', '.join(fonts())}, or install it.")


def _width_for(document: "Document", index: int, height_mm: float | None) -> float:
    """Return the width in mm at which a design is as high as asked."""
    design = document.plan.garments[0].designs[index]
    if design.split is None or height_mm is None:
        raise ZinnetError("What has no outline yet has no height; trace it first.")
    return round(height_mm * design.split.width_mm / design.split.height_mm, 3)


@app.command(name="set")
def set_keys(
    job: JobFile,
    settings: Annotated[list[str], typer.Argument(help="KEY=VALUE, again for each; zinnet job keys lists them.")],
    out: OtherFile = None,
) -> None:
    """Set keys of a job; all of them or, where one can't be, none."""
    document = reading.opened_job(job)
    rows = []
    for text in settings:
        # The value of film.#d62828=cream or sizes=adult-m=4 may hold more of the signs that part key and value.
        name, equals, value = text.partition("=")
        if not equals:
            raise ZinnetError(f"{text} has no value; write it like nest.gap=4mm.")
        rows.append((name.strip(), value))
    _set(document, rows)
    document.save(out or job)


def _set(document: "Document", rows: list[tuple[str, str]]) -> None:
    """Set keys one after the other."""
    from zinnet.job.keys import set_key

    for name, value in rows:
        _refuse_strange_film(document, name, value.strip())
        with document.workshop.blanks.in_use():
            edit = set_key(document.job, name, value)
        document.apply(edit)


def _refuse_strange_film(document: "Document", name: str, film: str) -> None:
    """Refuse a film that the workshop does not know, and a colour that no design has."""
    if not name.startswith("film."):
        return
    if film and document.workshop.film(film) is None:
        known = ", ".join(one.id for one in document.workshop.films[:12])
        raise ZinnetError(f"There is no film “{film}”; use one of {known}, or add it to films.toml.")
    colours = {layer.colour for _, design in document.plan.fitted if design.split for layer in design.split.layers}
    if name.removeprefix("film.").lower() not in colours:
        raise ZinnetError(f"{name}: no design has that colour; they have: {', '.join(sorted(colours)) or 'none yet'}.")


@app.command()
def keys(as_json: Json = False) -> None:
    """List every key with its type, its range and what it means."""
    from dataclasses import asdict

    from zinnet.job.keys import job_keys

    rows = job_keys()
    if as_json:
        reading.print_json([asdict(row) for row in rows])
        return
    for row in rows:
        typer.echo(f"{row.name:<24} {row.type:<10} {row.range:<34} {row.meaning}")


@app.command()
def show(job: JobFile, as_json: Json = False) -> None:
    """Say what a job is: blank, sizes, designs with their places and films, and what there is to say of it."""
    from zinnet.output.job_json import job_json

    said = job_json(reading.opened_job(job).plan)
    if as_json:
        reading.print_json(said)
        return
    typer.echo(f"{said['title']}: {said['blank']['name']}, {said['blank']['colour']}, {said['blank']['cloth']}")
    typer.echo("  " + ", ".join(f"{row['copies']} x {row['size']}" for row in said["sizes"]))
    for row in said["designs"]:
        where = "not placed" if row["place"] is None else f"{row['place']}, {row['width_mm']} x {row['height_mm']} mm"
        typer.echo(f"design {row['number']}: {row['name']}: {where}")
        for layer in row["colours"]:
            typer.echo(f"  {layer['colour']}: {layer['film'] or 'no film'}")
    counts = said["findings"]
    typer.echo(", ".join(f"{counts[level]} {level}" for level in counts) or "nothing to say")


@app.command()
def way(job: JobFile, as_json: Json = False) -> None:
    """Say how far a job is: what is done at each station, what is missing, and what comes next."""
    from zinnet.plan.progress import happened_to, in_words, next_of, way_of

    document = reading.opened_job(job)
    points = way_of(document.plan, happened_to(document.job, document.workshop.made))
    if as_json:
        reading.print_json({point.station: {"done": point.is_done, "missing": point.missing} for point in points})
        return
    for point in points:
        typer.echo(f"{point.station}: {point.missing or 'done'}")
    typer.echo(in_words(next_of(points)))


@app.command()
def mend(
    job: JobFile,
    finding: Annotated[str | None, typer.Argument(help="The finding's id, as zinnet check prints it.")] = None,
    subject: Annotated[str | None, typer.Option("--subject", help="About what, where it stands several times.")] = None,
    number: Annotated[int, typer.Option("--number", min=1, help="Which of its mends.")] = 1,
    all_safe: Annotated[bool, typer.Option("--all-safe", help="Mend all that only film limits ask for.")] = False,
    out: OtherFile = None,
) -> None:
    """Apply a mend of a finding that holds, or all mends that are safe, and say what changed."""
    from zinnet.job.file import without_confirmations
    from zinnet.plan.proof import prove
    from zinnet.plan.safe import mend_all_safe

    document = reading.opened_job(job)
    job_before, before = document.job, document.plan.findings
    if all_safe:
        safe = mend_all_safe(document.plan)
        if safe is None:
            raise ZinnetError("There is nothing that a safe mend would take away. Nothing was changed.")
        _make(document, safe, out or job, before)
        return
    if finding is None:
        raise ZinnetError("Say which finding, by its id as zinnet check prints it, or --all-safe.")
    chosen = _finding(before, finding, subject)
    mends = chosen.mends
    if number > len(mends):
        count = f"only {len(mends)}" if mends else "none"
        raise ZinnetError(f"{finding} has {count} of the mends that Zinnet can make; there is no number {number}.")
    edit = mends[number - 1]
    proof = prove(document.plan, chosen, edit)
    if not proof.holds:
        raise ZinnetError(f"“{edit.name}” does not mend it: {'; '.join(proof.against)}. Nothing was changed.")
    if without_confirmations(edit.change(job_before)) == without_confirmations(job_before):
        raise ZinnetError(
            f"{finding} is said yes to by whoever stands at the machine, for the mat that lies there: no file keeps "
            "it. Say it in the window, or by zinnet send --loaded."
        )
    _make(document, edit, out or job, before)


def _make(document: "Document", edit: "Edit", path: Path, before: "tuple[Finding, ...]") -> None:
    """Make an edit, save the job, and say what is gone and what is new."""
    document.apply(edit)
    document.save(path)
    typer.echo(f"Done: {edit.name}.")
    was, is_now = (
        {(one.id, one.subject, one.measured): one for one in findings} for findings in (before, document.plan.findings)
    )
    for key in was.keys() - is_now.keys():
        typer.echo(f"gone: {was[key].level}: {was[key].id}: {was[key].measured}")
    for key in is_now.keys() - was.keys():
        typer.echo(f"new: {is_now[key].level}: {is_now[key].id}: {is_now[key].measured}")


def _finding(findings: "tuple[Finding, ...]", finding: str, subject: str | None) -> "Finding":
    """Return the finding that is meant. Raises :class:`ZinnetError` where it is none, or one of several."""
    named = [one for one in findings if one.id == finding]
    if not named:
        known = ", ".join(sorted({one.id for one in findings})) or "none"
        raise ZinnetError(f"The job has no finding “{finding}”; it has: {known}.")
    about = [one for one in named if subject is None or one.subject == subject]
    subjects = ", ".join(sorted({str(one.subject) for one in named}))
    if not about:
        raise ZinnetError(f"{finding} is not about “{subject}”; it is about: {subjects}.")
    if len({one.subject for one in about}) > 1:
        raise ZinnetError(f"{finding} stands several times; say --subject, one of: {subjects}.")
    return about[0]


register(app)
