"""Commands of nesting: nest (pieces, or a job), and film (what a job takes of it)."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from zinnet.base.errors import NestError
from zinnet.cli import reading

if TYPE_CHECKING:
    from zinnet.nesting.sheet import Sheet

Json = Annotated[bool, typer.Option("--json", help="As JSON.")]


def nest(
    pieces: Annotated[Path, typer.Argument(help="An SVG, each direct child of its root one piece; or a job file.")],
    out: Annotated[
        Path | None, typer.Option("--out", help="The JSON file to write; of a job: another job file.")
    ] = None,
    sheet: Annotated[str | None, typer.Option(help="Width x height of a sheet, such as 300x200mm.")] = None,
    sheets: Annotated[
        int | None, typer.Option(min=1, help="How many sheets there are; any number if left out.")
    ] = None,
    roll: Annotated[
        list[str] | None, typer.Option(help="Width x length of a roll, such as 300x2000mm; again for each.")
    ] = None,
    scrap: Annotated[
        list[Path] | None, typer.Option(help="An SVG of a scrap: what is painted is film; again for each.")
    ] = None,
    keep_out: Annotated[
        Path | None, typer.Option("--keep-out", help="An SVG of what is spoiled on sheet, roll and scraps.")
    ] = None,
    copies: Annotated[int, typer.Option(min=1, max=2000, help="How many of each piece.")] = 1,
    gap: Annotated[str, typer.Option(help="The least room between pieces.")] = "0",
    margin: Annotated[str, typer.Option(help="The margin kept free along every edge of film.")] = "0",
    turn: Annotated[str, typer.Option(help="Allowed turns in degrees, such as 0,90,180,270; or any.")] = "0,90,180,270",
    inside_counters: Annotated[
        bool, typer.Option("--inside-counters", help="Small pieces may lie in the counters of larger ones.")
    ] = False,
    seconds: Annotated[
        float | None,
        typer.Option(min=0.1, max=3600, help="How long to look for a better nest; 3 s, or as the job says."),
    ] = None,
    seed: Annotated[int, typer.Option(min=0, help="Another seed looks in another order.")] = 0,
    steps: Annotated[
        int | None, typer.Option(min=1, max=10_000, help="Search so wide instead of so long: the same each time.")
    ] = None,
    as_json: Json = False,
) -> None:
    """Nest the pieces of an SVG on scraps, sheets and rolls, scraps first; or all films of a job."""
    if pieces.suffix.lower() == ".zinnet":
        _nest_job(pieces, out, seconds, steps, as_json)
        return
    if out is None:
        raise NestError("Say which JSON file to write, by --out.")
    from dataclasses import replace

    from zinnet.nesting.from_svg import pieces_of_svg
    from zinnet.nesting.model import NestTask
    from zinnet.nesting.running import NestRun
    from zinnet.output.writing import write_json

    named = pieces_of_svg(reading.read(pieces), pieces.name, turns=reading.turns(turn))
    sources = sources_of(sheet, sheets, roll or [], scrap or [], keep_out, reading.not_negative(margin, "--margin"))
    task = NestTask(
        pieces=tuple(replace(piece, copies=piece.copies * copies) for piece in named),
        sheets=tuple(source for source, _ in sources),
        gap_mm=reading.not_negative(gap, "--gap"),
        seconds=seconds or 3.0,
        seed=seed,
        inside_counters=inside_counters,
        steps=steps,
    )
    layout = NestRun(task).wait()
    write_json(
        out,
        {
            "sheets": [
                {
                    "kind": task.sheets[one.sheet].kind,
                    "label": task.sheets[one.sheet].label,
                    "width_mm": task.sheets[one.sheet].width_mm,
                    "height_mm": task.sheets[one.sheet].height_mm,
                    "used_length_mm": one.used_length_mm + sources[one.sheet][1][0],
                    "placements": [
                        {
                            "piece": placed.piece,
                            "x_mm": placed.x_mm + sources[one.sheet][1][0],
                            "y_mm": placed.y_mm + sources[one.sheet][1][1],
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


def _nest_job(path: Path, out: Path | None, seconds: float | None, steps: int | None, as_json: bool) -> None:
    """Nest what of a job is not nested yet, and keep the nests in its file."""
    from zinnet.bench.nesting import nest_document
    from zinnet.output.plan_json import plan_json

    document = reading.opened_job(path)
    nest_document(document, seconds, steps)
    document.save(out or path)
    said = plan_json(document.plan)
    if as_json:
        reading.print_json({name: said[name] for name in ("mats", "trims", "unplaced", "stops")})
        return
    for mat in said["mats"]:
        typer.echo(f"mat {mat['number']}: {mat['film']}, {len(mat['pieces'])} pieces")
    for name in said["unplaced"]:
        typer.echo(f"no room for {name}", err=True)


def film(job: Annotated[Path, typer.Argument(help="The job file.")], as_json: Json = False) -> None:
    """Say where the film of a job goes: on garments, kept, or lost and how; what it costs, and what is missing."""
    from decimal import Decimal

    from zinnet.base.units import write_area
    from zinnet.output.plan_json import ledger_json
    from zinnet.plan.ledger import film_ledger
    from zinnet.shop.film_cost import film_costs, not_whole
    from zinnet.shop.film_need import missing, missing_said
    from zinnet.workshop.prices import read_prices

    plan = reading.nested_job(job).plan
    ledger, short, costs = film_ledger(plan), missing(plan), film_costs(plan, read_prices())
    if as_json:
        lacking = [
            {"film": one.film.id, "width_mm": one.width_mm, "length_mm": one.missing_mm, "pieces": one.pieces}
            for one in short
        ]
        money = {"cost": float(sum((one.amount for one in costs), Decimal(0))), "missing": lacking}
        reading.print_json(ledger_json(ledger) | money | {"not_whole": not_whole(plan)})
        return
    unit = plan.job.unit
    if said := not_whole(plan):
        typer.echo(said)
    for one, cost in zip(ledger.films, costs, strict=True):
        rows = (("taken", one.taken_mm2), ("on garments", one.on_garments_mm2), ("kept", one.kept_mm2))
        areas = ", ".join(f"{write_area(area, unit=unit)} {what}" for what, area in rows)
        kinds = ", ".join(f"{write_area(area, unit=unit)} {kind}" for kind, area in one.lost.items() if area >= 1)
        lost = f"{write_area(one.lost_mm2, unit=unit)} lost" + (f" ({kinds})" if kinds else "")
        typer.echo(f"{one.name}: {areas}, {lost}; {cost.amount:.2f}")
    for lack in short:
        typer.echo(f"{lack.film.name}: {missing_said(lack, unit)} missing")


def sources_of(
    sheet: str | None,
    sheets: int | None,
    rolls: list[str],
    scraps: list[Path],
    keep_out: Path | None,
    margin_mm: float,
) -> list[tuple["Sheet", tuple[float, float]]]:
    """Return what is cut from, scraps first, each with where its corner lies in its own file (mm)."""
    from zinnet.base.units import read_size
    from zinnet.nesting.from_svg import region_of_svg, scrap_of
    from zinnet.nesting.sheet import Sheet, spoiled

    bad = None if keep_out is None else region_of_svg(reading.read(keep_out), keep_out.name)
    found: list[tuple[Sheet, tuple[float, float]]] = []
    for path in scraps:
        one, corner = scrap_of(region_of_svg(reading.read(path), path.name), path.stem, margin_mm=margin_mm)
        found.append((spoiled(one, bad, corner), corner))
    for number, text in enumerate(rolls, start=1):
        height, length = read_size(text)
        plain = Sheet(
            width_mm=length, height_mm=height, margin_mm=margin_mm, copies=1, kind="roll", label=f"roll {number}"
        )
        found.append((spoiled(plain, bad), (0.0, 0.0)))
    if sheet is not None:
        width, height = read_size(sheet)
        plain = Sheet(width_mm=width, height_mm=height, margin_mm=margin_mm, copies=sheets, kind="sheet", label="sheet")
        found.append((spoiled(plain, bad), (0.0, 0.0)))
    if not found:
        raise NestError("Say what to cut from, by --sheet, --roll or --scrap.")
    return found
