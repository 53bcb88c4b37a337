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
