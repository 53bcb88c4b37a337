"""The command line: the same work without a window. Errors are one sentence on stderr and exit 2."""

import os
import sys
from pathlib import Path
from typing import Annotated

import typer
import typer.completion
import typer.exceptions

from zinnet.base.errors import ZinnetError
from zinnet.base.stages import StageCache, cache_in_use
from zinnet.cli.group import Commands

COMPLETE = "_ZINNET_COMPLETE"
"""Set where a shell asks how a command goes on."""

app = typer.Typer(
    cls=Commands,
    add_completion=False,
    rich_markup_mode=None,
    pretty_exceptions_enable=False,
    help="Measure, fit, split, nest and cut vinyl for garments, bags and signs.",
)


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
def demo(out: Annotated[Path, typer.Option("--out", help="The folder to write to.")] = Path("out/demo")) -> None:
    """Write the demo's cut files, then open it in the window (or picture it, where there is no display)."""
    from zinnet.ui.app import run_demo

    raise typer.Exit(run_demo(out, typer.echo))


def main() -> None:
    """Run the command line."""
    if COMPLETE in os.environ:
        typer.completion.completion_init()  # type: ignore[attr-defined]
        app(prog_name="zinnet")
        return
    try:
        with (cache_in_use() or StageCache()).in_use():
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
        _fail(_refused(error) or _unexpected(error))
    sys.exit(code if isinstance(code, int) else 0)


def _refused(error: Exception) -> str | None:
    """Return in a sentence which value of a model can't be; None of any other error."""
    from pydantic import ValidationError

    if not isinstance(error, ValidationError):
        return None
    first = error.errors()[0]
    where = " ".join(str(part) for part in first["loc"]).replace("_", " ")
    return f"That can't be: {where}: {first['msg'][0].lower()}{first['msg'][1:]}; type another value."


def _unexpected(error: Exception) -> str:
    return f"Zinnet failed at something it did not expect ({type(error).__name__}: {error}); please report it."


def _fail(message: str) -> None:
    typer.echo(" ".join(message.split()), err=True)
    sys.exit(2)
