"""Commands of the layers: split, weed."""

from pathlib import Path
from typing import Annotated

import typer

from zinnet.cli import reading
from zinnet.cli.options import Artwork, Films, Lap, Method, Out


def split(
    artwork: Artwork,
    out: Out,
    width: Annotated[str | None, typer.Option(help="The artwork's width; its own, else 254 mm.")] = None,
    method: Method = "auto",
    lap: Lap = None,
    films: Films = None,
) -> None:
    """Write one SVG per layer, as worn, and layers.json. With films given, colours that share one are one layer."""
    from zinnet.artwork.source import artwork_of
    from zinnet.base.errors import ArtworkError
    from zinnet.cutting.svg_file import layer_svg
    from zinnet.layers.build import build_layers
    from zinnet.layers.spec import LayersSpec
    from zinnet.layers.split import own_width_mm, split_artwork
    from zinnet.output.stack_json import stack_json
    from zinnet.output.writing import write_json, write_text

    read = artwork_of(reading.artwork(artwork))
    if not read.shapes:
        raise ArtworkError(f"{artwork.name} holds only a picture and no shape; it has no outline to cut.")
    width_mm = reading.positive(width, "--width") or own_width_mm(read) or 254.0
    spec = LayersSpec(method=reading.method(method), lap_mm=reading.positive(lap, "--lap"))
    stock = reading.films(films) if films is not None or spec.method == "auto" else ()
    result = split_artwork(read, width_mm=width_mm)
    stack = build_layers(result, spec, stock, seen="front", share=films is not None)
    found = stack_json(stack)
    for row, layer in zip(stack.in_press_order, found["layers"], strict=True):
        layer["file"] = f"layer-{row.layer.order:02d}-{row.layer.colour.lstrip('#')}.svg"
        svg = layer_svg(row.layer.region, row.layer.colour, result.width_mm, result.height_mm)
        write_text(out / layer["file"], svg)
    box = {
        "width_mm": result.width_mm,
        "height_mm": result.height_mm,
        "source_box": list(result.source_box),
    }
    write_json(out / "layers.json", box | found)


def weed(
    job: Annotated[Path, typer.Argument(help="A job file, or artwork to be weeded as it is proposed.")],
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """Say for every layer what must come out in weeding, in which order, and how long it takes."""
    from zinnet.output.plan_json import weed_json

    found = weed_json(reading.document(job).plan)
    if as_json:
        reading.print_json(found)
        return
    for layer in found:
        typer.echo(f"{layer['name']}: {layer['summary']}")
