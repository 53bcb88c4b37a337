"""Commands of planning, nesting and cutting, and of the findings: plan, nest, checks, check."""

from pathlib import Path
from typing import Annotated

import typer

from zinnet.cli import reading
from zinnet.cli.options import Artwork, Blank, Films, Lap, Mat, Measures, Method, Out, Outline, PlaceName, School, Width


def plan(
    artwork: Artwork,
    out: Out,
    blank: Blank = "tee-adult",
    measure: Measures = None,
    outline: Outline = None,
    place: PlaceName = None,
    school: School = None,
    width: Width = None,
    mat: Mat = "12x12in",
    method: Method = "auto",
    lap: Lap = None,
    films: Films = None,
    copies: Annotated[int, typer.Option(min=1, max=1000, help="For how many garments.")] = 1,
    sizes: Annotated[str | None, typer.Option(help="Other sizes too, such as toddler=2,adult-l=4; or all.")] = None,
    also: Annotated[list[str] | None, typer.Option(help="Another design, such as back.svg=full-back.")] = None,
    seconds: Annotated[float, typer.Option(min=0.1, max=600, help="How long each film may be nested.")] = 3.0,
) -> None:
    """Plan a job and write plan.json, findings.json and the cut files."""
    from zinnet.demo import nest_document
    from zinnet.document import Document
    from zinnet.export import findings_json, plan_json, write_cut_files, write_json
    from zinnet.job import Design, Job
    from zinnet.layers.spec import LayersSpec
    from zinnet.nesting.model import NestSpec

    first = Design.of(artwork.name, reading.read(artwork), reading.placement(place, school, width))
    spec = reading.blank(blank, measure, outline)
    job = Job(
        title=artwork.stem,
        blank=spec,
        designs=(first, *reading.designs(also or [])),
        family=reading.family(sizes, spec),
        layers=LayersSpec(method=reading.method(method), lap_mm=reading.positive(lap, "--lap")),
        nesting=NestSpec(mat=mat, seconds=seconds),
        copies=copies,
    )
    document = Document(reading.workshop(films), job)
    nest_document(document)
    reading.remove_old_cut_files(out)
    write_json(out / "plan.json", plan_json(document.plan))
    write_json(out / "findings.json", findings_json(document.plan))
    if document.plan.open_stops:
        for finding in document.plan.open_stops:
            typer.echo(f"stop: {finding.title}: {finding.measured} ({finding.limit}).", err=True)
        typer.echo("No cut files are written while a stop is open.", err=True)
        raise typer.Exit(1)
    write_cut_files(document.plan, out)


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
    named = pieces_of_svg(reading.read(pieces), pieces.name, turns=reading.turns(turn))
    task = NestTask(
        pieces=tuple(named),
        sheet=Sheet(width_mm=width_mm, height_mm=height_mm, margin_mm=reading.not_negative(margin, "--margin")),
        gap_mm=reading.not_negative(gap, "--gap"),
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


def checks(as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False) -> None:
    """List the catalogue of findings."""
    from zinnet.checks.model import catalogue

    rows = [{"id": name, **kind.model_dump()} for name, kind in catalogue().items()]
    if as_json:
        reading.print_json(rows)
        return
    for row in rows:
        typer.echo(f"{row['id']:<22} {row['level']:<5} {row['station']:<8} {row['when']}")


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
        reading.print_json(findings_json(plan))
    else:
        for finding in plan.findings:
            passed = f" [passed: {finding.passed}]" if finding.passed else ""
            typer.echo(f"{finding.level}: {finding.id}: {finding.title}: {finding.measured} ({finding.limit}){passed}")
    raise typer.Exit(1 if plan.open_stops else 0)
