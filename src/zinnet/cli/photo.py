"""The commands of photos: lengths, scraps and weeding from a picture with a sheet of known size in it."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Annotated, Any, Literal

import typer
from typer.core import TyperGroup

from zinnet.base.errors import ZinnetError
from zinnet.cli import reading


class Photos(TyperGroup):
    """The commands; a picture without one of their names before it is asked for lengths."""

    def resolve_command(self, ctx: Any, args: list[str]) -> Any:
        """Return the command that is meant, its name and the words after it."""
        known = args and (args[0] in self.commands or args[0].startswith("-"))
        return super().resolve_command(ctx, args if known else ["lengths", *args])


app = typer.Typer(
    cls=Photos,
    help="What a picture with a sheet in it tells: lengths, scraps, how a layer is weeded and laid.",
    no_args_is_help=True,
)
Picture = Annotated[Path, typer.Argument(help="A picture: JPEG, PNG or WebP.")]
Sheet = Annotated[str, typer.Option(help="What lies beside it: a4, letter, card, or board.")]
Json = Annotated[bool, typer.Option("--json", help="As JSON.")]


@app.command()
def scrap(picture: Picture, sheet: Sheet = "a4", as_json: Json = False) -> None:
    """Scraps of film beside the sheet: outlines with holes in mm, how far off they may be, colour and film."""
    from zinnet.camera.measure import picture_of
    from zinnet.camera.scraps import find_scraps
    from zinnet.cli.watch import watched
    from zinnet.films.catalogue import nearest_film
    from zinnet.workshop.opening import open_workshop

    with watched(picture.name), refusing(as_json, {"scraps": []}):
        found = find_scraps(picture_of(picture), sheet)
    films = open_workshop().films
    rows: list[dict[str, Any]] = []
    for one in found.scraps:
        near = nearest_film(one.colour, films)
        rows += [
            {
                "outline": _ring(part.exterior),
                "holes": [_ring(hole) for hole in part.interiors],
                "error_mm": one.error_mm,
                "colour": one.colour,
                "film": None if near is None else near[0].id,
            }
            for part in one.region.geoms
        ]
    if as_json:
        reading.print_json({"scraps": rows, "refused": None})
        return
    for number, row in enumerate(rows, start=1):
        corners = f"{len(row['outline'])} corners, {len(row['holes'])} holes"
        typer.echo(f"{number}. {row['film']} ({row['colour']}): {corners}, within {row['error_mm']:.1f} mm")


@app.command()
def weeded(
    picture: Picture,
    job: Annotated[Path, typer.Argument(help="The job file, or artwork as it is proposed.")],
    layer: Annotated[int, typer.Option(min=1, help="Which layer, as split and weed count them.")] = 1,
    side: Annotated[Literal["front", "back"], typer.Option(help="front: as it is worn; back: mirrored.")] = "front",
    sheet: Sheet = "a4",
    as_json: Json = False,
) -> None:
    """Whether a layer is weeded right: each part and counter judged, stray film told."""
    from zinnet.bench.eye import layer_numbered
    from zinnet.camera.measure import picture_of
    from zinnet.camera.weeded import judge_weeding
    from zinnet.cli.watch import watched

    row = layer_numbered(reading.document(job).plan, layer)
    assert row.film is not None
    with watched(picture.name), refusing(as_json, {"parts": [], "counters": [], "stray": []}):
        seen = picture_of(picture)
        found = judge_weeding(seen, sheet, row.layer.region, row.film.colour, mirrored=side == "back")
    if as_json:
        reading.print_json(
            {
                "parts": [{"number": one.number, "at": list(one.at), "state": one.state} for one in found.parts],
                "counters": [{"number": one.number, "at": list(one.at), "state": one.state} for one in found.counters],
                "stray": [{"at": list(one.at), "area_mm2": one.area_mm2} for one in found.stray],
                "refused": None,
            }
        )
        return
    for sentence in found.in_words:
        typer.echo(sentence)


@app.command()
def laid(
    picture: Picture,
    job: Annotated[Path, typer.Argument(help="The job file, or artwork as it is proposed.")],
    layer: Annotated[int, typer.Option(min=1, help="Which layer, as split and weed count them.")] = 1,
    sheet: Sheet = "a4",
    as_json: Json = False,
) -> None:
    """How a layer that is laid on the garment lies against its planned place."""
    from zinnet.bench.eye import planned_on_panel
    from zinnet.camera.laid import judge_laid
    from zinnet.camera.measure import picture_of
    from zinnet.cli.watch import watched

    panel, piece, colour = planned_on_panel(reading.document(job).plan, layer)
    nothing = dict.fromkeys(("aside_mm", "down_mm", "turn_deg", "error_mm", "error_deg"))
    with watched(picture.name), refusing(as_json, nothing):
        found = judge_laid(picture_of(picture), sheet, panel, piece, colour)
    if as_json:
        told = {name: round(getattr(found, name), 2) for name in nothing}
        reading.print_json({**told, "refused": None})
        return
    typer.echo(found.in_words)


@contextmanager
def refusing(as_json: bool, nothing: dict[str, Any]) -> Iterator[None]:
    """Say a refusal, as JSON too, and end with 1."""
    from zinnet.camera.found_sheet import PhotoError

    try:
        yield
    except PhotoError as error:
        if as_json:
            reading.print_json({**nothing, "refused": str(error)})
        else:
            typer.echo(str(error), err=True)
        raise typer.Exit(1) from None


def _ring(ring: Any) -> list[list[float]]:
    return [[round(x, 2), round(y, 2)] for x, y in list(ring.coords)[:-1]]


@app.command()
def lengths(
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
