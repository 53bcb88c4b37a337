"""The commands of the whole workshop: export, import."""

from pathlib import Path
from typing import Annotated

import typer

from zinnet.cli import reading

app = typer.Typer(help="The whole workshop in open files.", no_args_is_help=True)


@app.command(name="export")
def export_all(out: Annotated[Path, typer.Argument(help="The ZIP to write.")]) -> None:
    """Write shelf, blanks, recipes, settings that worked and the log: JSON and CSV in a ZIP."""
    from zinnet.base.files import write_whole
    from zinnet.workshop.store import WorkshopStore
    from zinnet.workshop.transfer import exported_workshop

    write_whole(out, exported_workshop(WorkshopStore()))


@app.command(name="import")
def import_all(
    path: Annotated[Path, typer.Argument(help="The ZIP that an export wrote.")],
    replace: Annotated[bool, typer.Option("--replace", help="In the place of what the workshop holds.")] = False,
) -> None:
    """Take over an exported workshop, whole or not at all."""
    from zinnet.workshop.store import WorkshopStore
    from zinnet.workshop.transfer import import_workshop

    count = import_workshop(WorkshopStore(), reading.read(path), path.name, replace=replace)
    typer.echo(f"{count} entries taken over.")


@app.command()
def limits(
    name: Annotated[str | None, typer.Argument(help="A limit, such as centre.tolerance_mm; all if none is.")] = None,
    value: Annotated[float | None, typer.Argument(help="Your own value for it.")] = None,
    usual: Annotated[bool, typer.Option("--usual", help="Take the usual value again.")] = False,
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """List the limits of findings, laps and proposals with their sources, or set your own over one."""
    from zinnet.base.errors import ZinnetError
    from zinnet.data.limits import source_of, usual_limits
    from zinnet.workshop.own_limits import read_limits, set_limit

    if value is not None and usual:
        raise ZinnetError("Say either a value or --usual.")
    if name is not None and name not in usual_limits():
        raise ZinnetError(f"There is no limit “{name}”; “zinnet workshop limits” lists them.")
    if name is not None and (value is not None or usual):
        set_limit(name, value)
    own = dict(read_limits())
    rows = [
        {"name": each, "usual": number, "own": own.get(each), "source": source_of(each)}
        for each, number in usual_limits().items()
        if name in (None, each)
    ]
    if as_json:
        reading.print_json(rows)
        return
    for row in rows:
        mine = "" if row["own"] is None else f"yours {row['own']:g}"
        typer.echo(f"{row['name']:<32} {row['usual']:>8g}  {mine:<14} {row['source']}")
