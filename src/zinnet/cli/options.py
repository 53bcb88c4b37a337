"""Options that several commands share."""

from pathlib import Path
from typing import Annotated

import typer

Artwork = Annotated[Path, typer.Argument(help="The SVG, DXF or picture.")]
Blank = Annotated[str, typer.Option(help="The blank, such as tee-youth-m, hoodie-adult or cap.")]
Measures = Annotated[list[str] | None, typer.Option(help="A measure of the blank, such as chest=52cm.")]
Outline = Annotated[Path | None, typer.Option(help="An SVG or DXF with the edge of an own-outline.")]
PlaceName = Annotated[str | None, typer.Option(help="Where the artwork goes; the blank's usual place.")]
School = Annotated[str | None, typer.Option(help="The school of distance under the collar.")]
Width = Annotated[str | None, typer.Option(help="The artwork's width; proposed where left out.")]
Method = Annotated[str, typer.Option(help="auto (by the films' rules), stack, cut-away or lap.")]
Lap = Annotated[str | None, typer.Option(help="How far a film goes on under its neighbour; proposed if left out.")]
Films = Annotated[Path | None, typer.Option("--films", help="A TOML file of films to cut from; else those in stock.")]
Out = Annotated[Path, typer.Option("--out", help="The folder to write to; it is made where it is missing.")]
Mat = Annotated[str, typer.Option(help="The mat, or its size.")]
JobFile = Annotated[Path, typer.Argument(help="The job file.")]
OtherFile = Annotated[
    Path | None, typer.Option("--out", help="Write the changed job here, and leave the original alone.")
]
