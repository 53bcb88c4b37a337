"""The command of lists of names: names."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from zinnet.base.errors import ZinnetError
from zinnet.cli import reading

if TYPE_CHECKING:
    from zinnet.bench.document import Document


def names(
    job: Annotated[Path, typer.Argument(help="The job file; its text has a column in braces, such as {name}.")],
    csv: Annotated[Path, typer.Option("--csv", help="The list: name; size, colour, count where needed.")],
    out: Annotated[Path | None, typer.Option("--out", help="Save the job with the list under this name.")] = None,
    checklist: Annotated[Path | None, typer.Option("--list", help="Write the check list, as .csv or .pdf.")] = None,
    width: Annotated[str | None, typer.Option(help="The width of the field for names.")] = None,
    height: Annotated[str | None, typer.Option(help="The height of the field for names.")] = None,
    each: Annotated[bool, typer.Option("--each", help="Each name as large as fits, not all of one size.")] = False,
    nest: Annotated[bool, typer.Option("--nest", help="Nest the pieces, so that the list names their mats.")] = False,
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """Make a job for a list of names: each fitted to its field, nested together, pressed by a check list."""
    from zinnet.bench.nesting import nest_document
    from zinnet.job.edits import set_name_field, set_names
    from zinnet.job.names.reading import read_names_for
    from zinnet.plan.check_list import name_lines

    document = reading.opened_job(job)
    read = read_names_for(document.job, document.workshop, reading.read(csv))
    document.apply(set_names(read.names))
    fields = {
        "width_mm": reading.positive(width, "--width"),
        "height_mm": reading.positive(height, "--height"),
        "sizing": "each its own" if each else None,
    }
    asked = {name: value for name, value in fields.items() if value is not None}
    designs = [design.index for design in document.plan.garments[0].designs if design.words is not None]
    for index in designs if asked else ():
        document.apply(set_name_field(index, **asked))
    if nest:
        nest_document(document)
    lines = name_lines(document.plan)
    if out is not None:
        document.save(out)
    if checklist is not None:
        _write_list(checklist, document)
    found = [finding for finding in document.plan.findings if finding.id in NAMED]
    if as_json:
        data = {
            "names": [line.to_json() for line in lines],
            "remarks": list(read.remarks),
            "findings": [finding.to_json() for finding in found],
        }
        reading.print_json(data)
        return
    for remark in read.remarks:
        typer.echo(remark)
    for line in lines:
        sizes = ", ".join(f"{wide:.1f} x {high:.1f} mm" for wide, high in line.sizes) or "no words"
        typer.echo(f"{line.number:4}  {line.words:<28} {line.count} x {line.size}: {sizes}")
    for finding in found:
        typer.echo(f"{finding.level}: {finding.title}: {finding.measured} ({finding.limit})")


NAMED = ("missing-glyph", "name-too-long", "name-twice", "outside-usable-area", "too-thin", "no-film")


def _write_list(path: Path, document: "Document") -> None:
    from zinnet.base.files import write_whole
    from zinnet.output.papers.names_list import names_list_pdf
    from zinnet.plan.check_list import name_lines, name_list_csv

    if path.suffix.lower() == ".pdf":
        write_whole(path, names_list_pdf(document.plan))
    elif path.suffix.lower() == ".csv":
        write_whole(path, name_list_csv(name_lines(document.plan)).encode())
    else:
        raise ZinnetError(f"A check list is written as .csv or .pdf, not as {path.suffix or path.name}; rename it.")
