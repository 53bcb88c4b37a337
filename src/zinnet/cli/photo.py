"""The command of photos: photo."""

from pathlib import Path
from typing import Annotated

import typer

from zinnet.base.errors import ZinnetError
from zinnet.cli import reading


def photo(
    picture: Annotated[Path, typer.Argument(help="A picture of the garment, with a sheet of paper or a card on it.")],
    paper: Annotated[str, typer.Option(help="a4, letter or card.")] = "a4",
    length: Annotated[list[str] | None, typer.Option(help="A length between two pixels: x,y,x,y.")] = None,
    out: Annotated[Path | None, typer.Option("--out", help="Write the straightened picture here, as PNG.")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """Find the sheet in a photo, straighten the picture, and tell lengths in it."""
    from zinnet.camera.measure import (
        length_between,
        photo_of,
        straightened,
        written_png,
    )
    from zinnet.cli.watch import watched

    with watched(picture.name):
        image, found = photo_of(picture, paper)
    lengths = [(spots, length_between(found, spots[:2], spots[2:])) for spots in map(_spots, length or [])]
    straight = straightened(image, found)
    if out is not None:
        written_png(straight, out)
    if as_json:
        reading.print_json(
            {
                "paper": found.paper.name,
                "corners_px": [[round(x, 2), round(y, 2)] for x, y in found.corners.tolist()],
                "corner_within_px": round(found.corner_px, 3),
                "tilt_deg": round(found.tilt_deg, 1),
                "to_mm": found.to_mm.tolist(),
                "px_mm": straight.px_mm,
                "lengths": [
                    {"px": list(spots), "mm": round(one.mm, 2), "within_mm": round(one.within_mm, 2)}
                    for spots, one in lengths
                ],
            }
        )
        return
    typer.echo(f"{found.paper.name} found, tilted by {found.tilt_deg:.0f} degrees")
    for spots, one in lengths:
        typer.echo(f"{', '.join(f'{spot:g}' for spot in spots)}: {one.mm:.1f} mm, within {one.within_mm:.1f} mm")
    if out is not None:
        typer.echo(f"{out}: {straight.px_mm:.2f} pixels to the mm")


def _spots(text: str) -> tuple[float, float, float, float]:
    import math

    try:
        found = tuple(float(part) for part in text.split(","))
    except ValueError:
        found = ()
    if len(found) != 4 or not all(math.isfinite(one) for one in found):
        raise ZinnetError(f"--length {text} can't be read; write two pixels like 120,340,880,350.")
    return found
