"""The command line: the same work without a window. Errors are one sentence on stderr and exit 2."""

import json
import sys
from pathlib import Path
from typing import Annotated, Any

import typer
import typer.exceptions

from zinnet.errors import ZinnetError

app = typer.Typer(
    add_completion=False,
    rich_markup_mode=None,
    pretty_exceptions_enable=False,
    help="Measure, fit, split, nest and cut vinyl for garments, bags and signs.",
)

Out = Annotated[Path, typer.Option("--out", help="The folder to write to; it is made where it is missing.")]


@app.callback(invoke_without_command=True)
def window(context: typer.Context) -> None:
    """Open the window, where no command is given."""
    if context.invoked_subcommand is None:
        from zinnet.ui.app import run_window

        raise typer.Exit(run_window())


@app.command(name="open")
def open_file(path: Annotated[Path, typer.Argument(help="A job or an SVG to open in the window.")]) -> None:
    """Open the window with a job or with artwork."""
    from zinnet.ui.app import run_window

    raise typer.Exit(run_window(path))


@app.command()
def demo(out: Out = Path("out/demo")) -> None:
    """Write the demo's cut files, then open it in the window (or picture it, where there is no display)."""
    from zinnet.ui.app import run_demo

    raise typer.Exit(run_demo(out, typer.echo))


@app.command()
def plan(
    artwork: Annotated[Path, typer.Argument(help="The SVG to cut.")],
    out: Out,
    blank: Annotated[str, typer.Option(help="The blank, such as tee-adult.")] = "tee-adult",
    measure: Annotated[list[str] | None, typer.Option(help="A measure of the blank, such as chest=52cm.")] = None,
    place: Annotated[str | None, typer.Option(help="Where the artwork goes; the blank's usual place.")] = None,
    school: Annotated[str | None, typer.Option(help="The school of distance under the collar.")] = None,
    width: Annotated[str | None, typer.Option(help="The artwork's width; proposed where left out.")] = None,
    mat: Annotated[str, typer.Option(help="The mat, or its size.")] = "12x12in",
    method: Annotated[str, typer.Option(help="cut-away or stack.")] = "cut-away",
    copies: Annotated[int, typer.Option(min=1, max=1000, help="For how many garments.")] = 1,
    seconds: Annotated[float, typer.Option(min=0.1, max=600, help="How long each film may be nested.")] = 3.0,
) -> None:
    """Plan a job and write plan.json, findings.json and the cut files."""
    from zinnet.demo import nest_document
    from zinnet.document import Document
    from zinnet.export import findings_json, plan_json, write_cut_files, write_json
    from zinnet.job import ArtworkFile, Design, Job
    from zinnet.layers.assign import LayersSpec
    from zinnet.nesting.model import NestSpec
    from zinnet.workshop.open import open_workshop

    job = Job(
        title=artwork.stem,
        blank=_blank(blank, measure),
        designs=(
            Design(
                artwork=ArtworkFile.of(artwork.name, _read(artwork)),
                placement=_placement(place, school, width),
            ),
        ),
        layers=LayersSpec(method=_method(method)),
        nesting=NestSpec(mat=mat, seconds=seconds),
        copies=copies,
    )
    document = Document(open_workshop(), job)
    nest_document(document)
    _remove_old_cut_files(out)
    write_json(out / "plan.json", plan_json(document.plan))
    write_json(out / "findings.json", findings_json(document.plan))
    if document.plan.open_stops:
        for finding in document.plan.open_stops:
            typer.echo(f"stop: {finding.title}: {finding.measured} ({finding.limit}).", err=True)
        typer.echo("No cut files are written while a stop is open.", err=True)
        raise typer.Exit(1)
    write_cut_files(document.plan, out)


@app.command()
def split(
    artwork: Annotated[Path, typer.Argument(help="The SVG to split.")],
    out: Out,
    width: Annotated[str | None, typer.Option(help="The artwork's width; its own, else 254 mm.")] = None,
    method: Annotated[str, typer.Option(help="cut-away or stack.")] = "cut-away",
) -> None:
    """Write one SVG per colour layer, as worn, and layers.json."""
    from zinnet.artwork.svg import read_svg
    from zinnet.cutting.svg_file import layer_svg
    from zinnet.errors import ArtworkError
    from zinnet.export import write_json, write_text
    from zinnet.layers.split import own_width_mm, split_artwork

    read = read_svg(_read(artwork), artwork.name)
    if not read.shapes:
        raise ArtworkError(f"{artwork.name} holds only a picture and no shape; it has no outline to cut.")
    width_mm = _positive(width, "--width") or own_width_mm(read) or 254.0
    result = split_artwork(read, width_mm=width_mm, method=_method(method))
    rows = []
    for layer in result.layers:
        file = f"layer-{layer.order:02d}-{layer.colour.lstrip('#')}.svg"
        write_text(out / file, layer_svg(layer.region, layer.colour, result.width_mm, result.height_mm))
        rows.append(
            {
                "order": layer.order,
                "colour": layer.colour,
                "file": file,
                "area_mm2": layer.area_mm2,
                "pieces": layer.pieces,
            }
        )
    write_json(
        out / "layers.json",
        {
            "width_mm": result.width_mm,
            "height_mm": result.height_mm,
            "source_box": list(result.source_box),
            "layers": rows,
        },
    )


@app.command()
def nest(
    pieces: Annotated[Path, typer.Argument(help="An SVG; each direct child of its root is one piece.")],
    sheet: Annotated[str, typer.Option(help="Width x height of a sheet, such as 300x200mm.")],
    out: Annotated[Path, typer.Option("--out", help="The JSON file to write.")],
    sheets: Annotated[
        int | None, typer.Option(min=1, help="How many sheets there are; any number if left out.")
    ] = None,
    gap: Annotated[str, typer.Option(help="The least room between pieces.")] = "0",
    margin: Annotated[str, typer.Option(help="The margin kept free around each sheet.")] = "0",
    turn: Annotated[str, typer.Option(help="Allowed turns in degrees, such as 0,90,180,270; or any.")] = "0,90,180,270",
    seconds: Annotated[float, typer.Option(min=0.1, max=3600, help="How long to look for a better nest.")] = 3.0,
    seed: Annotated[int, typer.Option(min=0, help="Another seed tries the pieces in another order.")] = 0,
) -> None:
    """Nest the pieces of an SVG on sheets."""
    from zinnet.export import write_json
    from zinnet.nesting.from_svg import pieces_of_svg
    from zinnet.nesting.model import NestTask, Sheet
    from zinnet.nesting.run import NestRun
    from zinnet.units import read_size

    width_mm, height_mm = read_size(sheet)
    named = pieces_of_svg(_read(pieces), pieces.name, turns=_turns(turn))
    task = NestTask(
        pieces=tuple(named),
        sheet=Sheet(width_mm=width_mm, height_mm=height_mm, margin_mm=_not_negative(margin, "--margin")),
        gap_mm=_not_negative(gap, "--gap"),
        most_sheets=sheets,
        seconds=seconds,
        seed=seed,
    )
    layout = NestRun(task).wait()
    write_json(
        out,
        {
            "sheets": [
                {
                    "width_mm": width_mm,
                    "height_mm": height_mm,
                    "used_length_mm": one.used_length_mm,
                    "placements": [
                        {
                            "piece": placed.piece,
                            "x_mm": placed.x_mm,
                            "y_mm": placed.y_mm,
                            "turn_deg": placed.turn_deg,
                        }
                        for placed in one.placed
                    ],
                }
                for one in layout.sheets
            ],
            "unplaced": list(layout.unplaced),
        },
    )


@app.command()
def blanks(as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False) -> None:
    """List the catalogue of blanks: sizes, measures with typical values, panels and places."""
    from zinnet.blanks.build import build_blank
    from zinnet.blanks.catalogue import blank_kinds, forms, measure_kinds
    from zinnet.blanks.model import BlankSpec
    from zinnet.placement.place import places_on

    rows = []
    for name, kind in blank_kinds().items():
        blank = build_blank(BlankSpec(kind=name, size=kind.sizes[len(kind.sizes) // 2]))
        rows.append(
            {
                "id": name,
                "name": kind.name,
                "group": kind.group,
                "sizes": list(kind.sizes),
                "measures": {
                    key: {"name": measure.name, "how": measure.how, "typical_mm": list(kind.typical[key])}
                    for key, measure in measure_kinds(name).items()
                },
                "rules": [rule.model_dump(exclude_none=True) for rule in forms()[kind.form].rules],
                "panels": [panel.id for panel in blank.panels],
                "places": list(places_on(blank)),
                "fabric": kind.fabric,
                "care_dots": kind.care_dots,
                "source": kind.source,
            }
        )
    if as_json:
        _print_json(rows)
        return
    for row in rows:
        typer.echo(f"{row['id']:<16} {row['name']:<32} {', '.join(row['sizes'])}")  # type: ignore[arg-type]


@app.command()
def fit(
    artwork: Annotated[Path, typer.Argument(help="The SVG to fit.")],
    blank: Annotated[str, typer.Option(help="The blank, such as tee-youth-m, hoodie-adult or cap.")] = "tee-adult",
    measure: Annotated[list[str] | None, typer.Option(help="A measure of the blank, such as chest=52cm.")] = None,
    place: Annotated[str | None, typer.Option(help="Where the artwork goes; the blank's usual place.")] = None,
    school: Annotated[str | None, typer.Option(help="The school of distance under the collar.")] = None,
    width: Annotated[str | None, typer.Option(help="The artwork's width; proposed where left out.")] = None,
    mat: Annotated[str, typer.Option(help="The mat, or its size.")] = "12x12in",
    arrange: Annotated[str | None, typer.Option(help="one, rows, arc, ring or band; as is usual at the place.")] = None,
) -> None:
    """Propose size and place of artwork on a blank, and print the numbers as JSON."""
    from zinnet.document import Document
    from zinnet.export import fit_json
    from zinnet.job import ArtworkFile, Design, Job
    from zinnet.nesting.model import NestSpec
    from zinnet.placement.arrange import DEFAULTS
    from zinnet.workshop.open import open_workshop

    placement = _placement(place, school, width)
    if arrange is not None:
        if arrange not in DEFAULTS:
            raise ZinnetError(f"There is no arrangement “{arrange}”; known are: {', '.join(DEFAULTS)}.")
        placement = placement.model_copy(update={"arrangement": DEFAULTS[arrange]})
    made = Design(artwork=ArtworkFile.of(artwork.name, _read(artwork)), placement=placement)
    job = Job(title=artwork.stem, blank=_blank(blank, measure), designs=(made,), nesting=NestSpec(mat=mat))
    _print_json(fit_json(Document(open_workshop(), job).plan))


@app.command()
def rows(
    field: Annotated[str, typer.Option(help="Width x height of the field, margins taken off, such as 118x143cm.")],
    motif: Annotated[str, typer.Option(help="Width x height of the motif.")],
    gap: Annotated[str, typer.Option(help="The gap between columns, and between rows too.")] = "0",
    row_gap: Annotated[str | None, typer.Option(help="The gap between rows, where it is another one.")] = None,
    stagger: Annotated[bool, typer.Option(help="Shift every second row by half a step.")] = False,
    count: Annotated[int | None, typer.Option(min=1, max=2000, help="How many are to fit.")] = None,
    fill_rows: Annotated[int | None, typer.Option(min=1, max=500, help="With what gap so many rows fill it.")] = None,
) -> None:
    """Say how many motifs fit in rows and columns, where each lies, at what size n fit, with what gap n rows fill."""
    from zinnet.placement.rows import Grid, gap_for, how_many_fit, positions, row_lengths, size_for
    from zinnet.units import read_size

    (across, down), (width, height) = read_size(field), read_size(motif)
    gap_x = _not_negative(gap, "--gap")
    gap_y = gap_x if row_gap is None else _not_negative(row_gap, "--row-gap")
    grid = Grid(across, down, width, height, gap_x, gap_y, stagger)
    said: dict[str, Any] = {
        "count": how_many_fit(grid),
        "rows": row_lengths(grid),
        "positions_mm": [list(corner) for corner in positions(grid)],
    }
    if count is not None:
        factor = size_for(grid, count)
        said["size_for_count"] = {"count": count, "width_mm": width * factor, "height_mm": height * factor}
    if fill_rows is not None:
        said["row_gap_to_fill_mm"] = gap_for(down, height, fill_rows)
    _print_json(said)


@app.command()
def laid(
    job: Annotated[Path, typer.Argument(help="A job file.")],
    left: Annotated[str, typer.Option(help="From the artwork's left side to the left edge.")],
    top_left: Annotated[str, typer.Option(help="From its upper left corner to the left mark.")],
    right: Annotated[str | None, typer.Option(help="From its right side to the right edge.")] = None,
    top_right: Annotated[str | None, typer.Option(help="From its upper right corner to the right mark.")] = None,
    design: Annotated[int, typer.Option(min=1, help="Which design, from 1.")] = 1,
) -> None:
    """Say where a piece lies by readings with a ruler, and how to move it; exit 1 where it is not in tolerance."""
    from zinnet.document import Document
    from zinnet.placement.as_laid import Readings, expected_readings, locate, sides_of
    from zinnet.units import read_length
    from zinnet.workshop.open import open_workshop

    plan = Document.open(job, open_workshop()).plan
    designs = plan.garments[0].designs
    placement = designs[design - 1].placement if design <= len(designs) else None
    if placement is None:
        raise ZinnetError(f"The job has no design number {design} that lies on a blank.")
    readings = Readings(
        left_mm=read_length(left),
        top_left_mm=read_length(top_left),
        right_mm=None if right is None else read_length(right),
        top_right_mm=None if top_right is None else read_length(top_right),
    )
    found = locate(readings, placement)
    _print_json(
        {
            "right_mm": found.right_mm,
            "down_mm": found.down_mm,
            "turn_deg": found.turn_deg if found.knows_tilt else None,
            "residual_mm": found.residual_mm,
            "contradiction": found.contradiction,
            "in_tolerance": found.is_good,
            "advice": found.advice(sides_of(placement), plan.job.unit),
            "planned": expected_readings(placement).model_dump(),
            "marks": {"name": placement.panel.mark_name, "points": [list(mark) for mark in placement.panel.marks]},
        }
    )
    raise typer.Exit(0 if found.is_good else 1)


@app.command()
def template(
    job: Annotated[Path, typer.Argument(help="A job file.")],
    out: Annotated[Path, typer.Option("--out", help="The PDF to write.")],
    design: Annotated[int, typer.Option(min=1, help="Which design, from 1.")] = 1,
    size: Annotated[str | None, typer.Option(help="Which size of the job; its own.")] = None,
    paper: Annotated[str, typer.Option(help="a4 or letter.")] = "a4",
    square: Annotated[bool, typer.Option(help="With the guide square.")] = True,
) -> None:
    """Write the artwork's outline at life size on sheets of paper, as PDF."""
    from zinnet.document import Document
    from zinnet.reports.template import template_pdf, write_template
    from zinnet.workshop.open import open_workshop

    plan = Document.open(job, open_workshop()).plan
    sizes = [garment.size for garment in plan.garments]
    if size is not None and size not in sizes:
        raise ZinnetError(f"The job has no size “{size}”; it has: {', '.join(map(str, sizes))}.")
    garment = 0 if size is None else sizes.index(size)
    write_template(out, template_pdf(plan, design=design - 1, garment=garment, paper=paper, square=square))


@app.command()
def checks(as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False) -> None:
    """List the catalogue of findings."""
    from zinnet.checks.model import catalogue

    rows = [{"id": name, **kind.model_dump()} for name, kind in catalogue().items()]
    if as_json:
        _print_json(rows)
        return
    for row in rows:
        typer.echo(f"{row['id']:<22} {row['level']:<5} {row['station']:<8} {row['when']}")


@app.command()
def check(
    job: Annotated[Path, typer.Argument(help="A job file.")],
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """Print the findings of a job; exit 1 while a stop is open."""
    from zinnet.document import Document
    from zinnet.export import findings_json
    from zinnet.workshop.open import open_workshop

    plan = Document.open(job, open_workshop()).plan
    if as_json:
        _print_json(findings_json(plan))
    else:
        for finding in plan.findings:
            passed = f" [passed: {finding.passed}]" if finding.passed else ""
            typer.echo(f"{finding.level}: {finding.id}: {finding.title}: {finding.measured} ({finding.limit}){passed}")
    raise typer.Exit(1 if plan.open_stops else 0)


def _blank(name: str, measures: list[str] | None) -> Any:
    from zinnet.blanks.catalogue import read_blank_name
    from zinnet.blanks.model import Measure

    taken = tuple(Measure(name=key, mm=mm) for key, mm in _measures(measures or []).items())
    return read_blank_name(name).model_copy(update={"measured": taken})


def _placement(place: str | None, school: str | None, width: str | None) -> Any:
    from zinnet.placement.guides import place_names
    from zinnet.placement.guides import school as known_school
    from zinnet.placement.place import PlacementSpec

    if place is not None and place not in place_names():
        raise ZinnetError(f"There is no place “{place}”; known are: {', '.join(place_names())}.")
    if school is not None:
        known_school(school)
    return PlacementSpec(place=place, school=school, width_mm=_positive(width, "--width"))


def _read(path: Path) -> bytes:
    from zinnet.artwork.xml_guard import MOST_BYTES
    from zinnet.errors import ArtworkError

    try:
        if path.stat().st_size > MOST_BYTES:
            raise ArtworkError(
                f"{path} has {path.stat().st_size / 1e6:.0f} MB; at most {MOST_BYTES / 1e6:.0f} are read."
            )
        return path.read_bytes()
    except FileNotFoundError:
        raise ArtworkError(f"There is no file {path}; check its name.") from None
    except OSError as error:
        raise ArtworkError(f"{path} can't be read: {error.strerror}.") from None


def _measures(texts: list[str]) -> dict[str, float]:
    from zinnet.errors import UnitsError
    from zinnet.units import read_length

    found = {}
    for text in texts:
        name, equals, length = text.partition("=")
        if not equals:
            raise UnitsError(f"--measure {text} has no length; write it like chest=52cm.")
        found[name.strip().replace("-", "_")] = read_length(length)
    return found


def _positive(text: str | None, option: str) -> float | None:
    from zinnet.errors import UnitsError
    from zinnet.units import read_length

    if text is None:
        return None
    length = read_length(text)
    if length <= 0:
        raise UnitsError(f"{option} {text} is not longer than zero.")
    return length


def _not_negative(text: str, option: str) -> float:
    from zinnet.errors import UnitsError
    from zinnet.units import read_length

    length = read_length(text)
    if length < 0:
        raise UnitsError(f"{option} {text} is less than zero.")
    return length


def _method(text: str) -> Any:
    if text not in ("cut-away", "stack"):
        raise ZinnetError(f"There is no method “{text}”; use cut-away or stack.")
    return text


def _turns(text: str) -> Any:
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


def _remove_old_cut_files(folder: Path) -> None:
    """Remove the cut files that an earlier plan wrote here, so that none is cut by mistake."""
    try:
        mats = json.loads((folder / "plan.json").read_text(encoding="utf-8"))["mats"]
        names = [name for mat in mats for name in (mat["svg"], mat["plt"])]
    except (OSError, ValueError, KeyError, TypeError):
        return
    for name in names:
        if isinstance(name, str) and Path(name).name == name and name.startswith("mat-"):
            (folder / name).unlink(missing_ok=True)


def _print_json(data: Any) -> None:
    typer.echo(json.dumps(data, indent=1, ensure_ascii=False))


def main() -> None:
    """Run the command line."""
    try:
        code = app(standalone_mode=False)
    except ZinnetError as error:
        _fail(str(error))
    except typer.Abort:
        _fail("Stopped.")
    except typer.exceptions.TyperException as error:
        _fail(error.format_message())
    except (MemoryError, RecursionError):
        _fail("The file is too large or too deeply nested for this machine; simplify it.")
    except BrokenPipeError:
        sys.stderr.close()
        sys.exit(1)
    except Exception as error:  # noqa: BLE001 - the last line of defence: a sentence, never a traceback
        _fail(f"Zinnet failed at something it did not expect ({type(error).__name__}: {error}); please report it.")
    sys.exit(code if isinstance(code, int) else 0)


def _fail(message: str) -> None:
    typer.echo(" ".join(message.split()), err=True)
    sys.exit(2)
