"""Commands of measuring and fitting: blanks, fit, rows, laid, template."""

from pathlib import Path
from typing import Annotated, Any

import typer

from zinnet.base.errors import ZinnetError
from zinnet.cli import reading
from zinnet.cli.options import Artwork, Blank, Mat, Measures, Outline, PlaceName, School, Width


def blanks(
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
    mine: Annotated[bool, typer.Option("--mine", help="Those that were measured and kept.")] = False,
) -> None:
    """List the catalogue of blanks: sizes, measures with typical values, panels and places."""
    if mine:
        _list_kept(as_json)
        return
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
                "source": kind.source,
            }
        )
    if as_json:
        reading.print_json(rows)
        return
    for row in rows:
        typer.echo(f"{row['id']:<16} {row['name']:<32} {', '.join(row['sizes'])}")  # type: ignore[arg-type]


def _list_kept(as_json: bool) -> None:
    from zinnet.workshop.store import WorkshopStore

    store = WorkshopStore()
    kept = store.blanks() if store.path.exists() else []
    if as_json:
        reading.print_json([blank.model_dump(mode="json") for blank in kept])
        return
    for blank in kept:
        typer.echo(f"{blank.name:<32} {blank.spec.kind} {blank.spec.size or ''}")


def keep(
    name: Annotated[str, typer.Argument(help="The name to keep it under, such as “my hoodie, M”.")],
    blank: Blank,
    measure: Measures = None,
    outline: Outline = None,
) -> None:
    """Keep a measured blank in the workshop; from then on --blank takes its name."""
    from zinnet.blanks.build import build_blank
    from zinnet.workshop.store import WorkshopStore

    spec = reading.blank(blank, measure, outline)
    build_blank(spec)
    WorkshopStore().keep_blank(name, spec)


def fit(
    artwork: Artwork,
    blank: Blank = "tee-adult",
    measure: Measures = None,
    outline: Outline = None,
    place: PlaceName = None,
    school: School = None,
    width: Width = None,
    mat: Mat = "12x12in",
    arrange: Annotated[str | None, typer.Option(help="one, rows, arc, ring or band; as is usual at the place.")] = None,
    sizes: Annotated[str | None, typer.Option(help="Other sizes too, such as toddler,adult-l; or all.")] = None,
) -> None:
    """Propose size and place of artwork on a blank, and print the numbers as JSON."""
    from zinnet.bench.document import Document
    from zinnet.job.model import Job
    from zinnet.nesting.model import NestSpec
    from zinnet.output.plan_json import fit_json
    from zinnet.placement.arrange import DEFAULTS
    from zinnet.workshop.opening import open_settings

    placement = reading.placement(place, school, width)
    if arrange is not None:
        if arrange not in DEFAULTS:
            raise ZinnetError(f"There is no arrangement “{arrange}”; known are: {', '.join(DEFAULTS)}.")
        placement = placement.model_copy(update={"arrangement": DEFAULTS[arrange]})
    spec = reading.blank(blank, measure, outline)
    made = reading.design_on(artwork, spec, placement)
    job = Job(
        title=artwork.stem,
        blank=spec,
        designs=(made,),
        family=reading.family(sizes, spec),
        nesting=NestSpec(mat=mat),
    )
    reading.print_json(fit_json(Document(open_settings(), job).plan))


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
    from zinnet.base.units import read_size
    from zinnet.placement.rows import Grid, gap_for, how_many_fit, positions, row_lengths, size_for

    (across, down), (width, height) = read_size(field), read_size(motif)
    gap_x = reading.not_negative(gap, "--gap")
    gap_y = gap_x if row_gap is None else reading.not_negative(row_gap, "--row-gap")
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
    reading.print_json(said)


def laid(
    job: Annotated[Path, typer.Argument(help="A job file.")],
    left: Annotated[str, typer.Option(help="From the artwork's left side to the left edge.")],
    top_left: Annotated[str, typer.Option(help="From its upper left corner to the left mark.")],
    right: Annotated[str | None, typer.Option(help="From its right side to the right edge.")] = None,
    top_right: Annotated[str | None, typer.Option(help="From its upper right corner to the right mark.")] = None,
    design: Annotated[int, typer.Option(min=1, help="Which design, from 1.")] = 1,
) -> None:
    """Say where a piece lies by readings with a ruler, and how to move it; exit 1 where it is not in tolerance."""
    from zinnet.base.units import read_length
    from zinnet.placement.as_laid import Readings, expected_readings, locate, sides_of

    plan = reading.opened_job(job).plan
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
    reading.print_json(
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


def template(
    job: Annotated[Path, typer.Argument(help="A job file.")],
    out: Annotated[Path, typer.Option("--out", help="The PDF to write.")],
    design: Annotated[int, typer.Option(min=1, help="Which design, from 1.")] = 1,
    size: Annotated[str | None, typer.Option(help="Which size of the job; its own.")] = None,
    paper: Annotated[str, typer.Option(help="a4, letter or roll.")] = "a4",
    square: Annotated[bool, typer.Option(help="With the guide square.")] = True,
) -> None:
    """Write the artwork's outline at life size on sheets of paper, as PDF."""
    from zinnet.base.files import write_whole
    from zinnet.output.papers.template import template_pdf

    plan, garment = reading.plan_and_size(job, size)
    write_whole(out, template_pdf(plan, design=design - 1, garment=garment, paper=paper, square=square))


def laysheet(
    job: Annotated[Path, typer.Argument(help="A job file.")],
    out: Annotated[Path, typer.Option("--out", help="The PDF to write.")],
    number: Annotated[int, typer.Option(min=1, help="Which garments of the run, from 1: a size, or a name.")] = 1,
    panel: Annotated[str | None, typer.Option(help="Which side; the first one that anything lies on.")] = None,
    paper: Annotated[str, typer.Option(help="a4, letter, or roll: one sheet as large as it all is.")] = "a4",
) -> None:
    """Write the lay sheet: all that lies on one side at life size, in numbered bands, to lay a group by it, as PDF."""
    from zinnet.base.files import write_whole
    from zinnet.output.papers.lay_sheet import lay_sheet_pdf

    plan = reading.opened_job(job).plan
    write_whole(out, lay_sheet_pdf(plan, garment=number - 1, panel=panel, paper=paper))


def placing(
    job: Annotated[Path, typer.Argument(help="A job file.")],
    out: Annotated[Path, typer.Option("--out", help="The PDF to write.")],
    design: Annotated[int, typer.Option(min=1, help="Which design, from 1.")] = 1,
    size: Annotated[str | None, typer.Option(help="Which size of the job; its own.")] = None,
    paper: Annotated[str, typer.Option(help="a4, letter or roll.")] = "a4",
) -> None:
    """Write the placing sheet: every layer's outline at life size with box, centre lines and marks, as PDF."""
    from zinnet.base.files import write_whole
    from zinnet.output.papers.placing_sheet import placing_sheet_pdf

    plan, garment = reading.plan_and_size(job, size)
    write_whole(out, placing_sheet_pdf(plan, design=design - 1, garment=garment, paper=paper))
