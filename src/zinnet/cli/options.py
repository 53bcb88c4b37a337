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
Mat = Annotated[str, typer.Option(help="The mat, or its size.")]
