"""The command that puts Zinnet among the desktop's programs: desktop."""

import shutil
import sys
from pathlib import Path
from typing import Annotated

import typer


def desktop(
    remove: Annotated[bool, typer.Option("--remove", help="Take it out again.")] = False,
    folder: Annotated[Path | None, typer.Option(help="Another data folder, such as /usr/local/share.")] = None,
) -> None:
    """Put Zinnet among the desktop's programs: entry, icon, .zinnet files, man page, completion for bash."""
    from zinnet.desktop.entry import put_among_programs, take_out

    if remove:
        done, said = take_out(folder), "taken out"
    else:
        done, said = put_among_programs(_program(), folder), "written"
    for path in done:
        typer.echo(f"{path} {said}")


def _program() -> str:
    """Return what starts this Zinnet: the command beside its Python, else the one on the path."""
    beside = Path(sys.executable).with_name("zinnet")
    return str(beside) if beside.exists() else shutil.which("zinnet") or "zinnet"
