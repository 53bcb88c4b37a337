"""Commands of planning and cutting, and of the findings: plan, checks, check."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from zinnet.cli import reading
from zinnet.cli.options import Artwork, Blank, Films, Lap, Mat, Measures, Method, Out, Outline, PlaceName, School, Width

if TYPE_CHECKING:
    from zinnet.plan.model import Plan


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
    from_shelf: Annotated[bool, typer.Option("--from-shelf", help="Cut from the film in stock, scraps first.")] = False,
    spare: Annotated[int, typer.Option(min=0, max=1000, help="Spare copies of every piece.")] = 0,
    test_cut: Annotated[bool, typer.Option("--test-cut", help="Keep a spot of each film free for a test.")] = False,
    turns: Annotated[
        str, typer.Option(help="quarter, half, any or none, where the film has no direction.")
    ] = "quarter",
    weed_frame: Annotated[str, typer.Option(help="none, piece (or group kept together), or mat.")] = "none",
    seconds: Annotated[float, typer.Option(min=0.1, max=600, help="How long each film may be nested.")] = 3.0,
) -> None:
    """Plan a job and write plan.json, findings.json and the cut files."""
    from zinnet.bench.document import Document
    from zinnet.bench.nesting import nest_document
    from zinnet.job.model import Job
    from zinnet.layers.spec import LayersSpec
    from zinnet.nesting.model import NestSpec
    from zinnet.output.cut_files import write_cut_files
    from zinnet.output.plan_json import findings_json, plan_json
    from zinnet.output.writing import write_json

    spec = reading.blank(blank, measure, outline)
    first = reading.design_on(artwork, spec, reading.placement(place, school, width))
    job = Job(
        title=artwork.stem,
        blank=spec,
        designs=(first, *reading.designs(also or [])),
        family=reading.family(sizes, spec),
        layers=LayersSpec(method=reading.method(method), lap_mm=reading.positive(lap, "--lap")),
        nesting=NestSpec(
            mat=mat,
            seconds=seconds,
            from_shelf=from_shelf,
            spare=spare,
            test_cut=test_cut,
            turns=reading.turns_word(turns),
            weed_frame=reading.weed_frame(weed_frame),
        ),
        copies=copies,
    )
    document = Document(reading.workshop(films, shelf=from_shelf), job)
    nest_document(document)
    reading.remove_old_cut_files(out)
    write_json(out / "plan.json", plan_json(document.plan))
    write_json(out / "findings.json", findings_json(document.plan))
    if document.plan.open_stops:
        for finding in document.plan.open_stops:
            typer.echo(f"stop: {finding.title}: {finding.measured} ({finding.limit}).", err=True)
        typer.echo("No cut files are written while a stop is open.", err=True)
        raise typer.Exit(1)
    write_cut_files(document.plan, out, arcs=False)


def checks(as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False) -> None:
    """List the catalogue of findings."""
    from zinnet.plan.findings.kinds import catalogue

    rows = [{"id": name, **kind.model_dump()} for name, kind in catalogue().items()]
    if as_json:
        reading.print_json(rows)
        return
    for row in rows:
        typer.echo(f"{row['id']:<22} {row['level']:<5} {row['station']:<8} {row['when']}")


def _with_proofs(plan: "Plan", rows: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """Return findings as JSON, each mend with what speaks against it and what it changes in numbers."""
    from zinnet.plan.proof import prove

    for finding, row in zip(plan.findings, rows, strict=True):
        row["mends"] = []
        for number, mend in enumerate(finding.mends, start=1):
            proof = prove(plan, finding, mend)
            said = {"holds": proof.holds, "against": list(proof.against), "changes": list(proof.changes)}
            row["mends"].append({"number": number, "label": mend.name, **said})
    return rows


def check(
    job: Annotated[Path, typer.Argument(help="A job file.")],
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """Print the findings of a job; exit 1 while a stop is open."""
    from zinnet.output.plan_json import findings_json

    plan = reading.opened_job(job).plan
    if as_json:
        reading.print_json(_with_proofs(plan, findings_json(plan)))
    else:
        for finding in plan.findings:
            passed = f" [passed: {finding.passed}]" if finding.passed else ""
            typer.echo(f"{finding.level}: {finding.id}: {finding.title}: {finding.measured} ({finding.limit}){passed}")
    raise typer.Exit(1 if plan.open_stops else 0)
