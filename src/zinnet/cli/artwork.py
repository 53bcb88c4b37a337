"""Commands of artwork: text and inspect."""

from pathlib import Path
from typing import Annotated, Any

import typer

from zinnet.cli import reading


def text(
    words: Annotated[str, typer.Argument(help="What is written; \\n begins another line.")],
    height: Annotated[str, typer.Option(help="How tall the outlines are, such as 38mm.")],
    out: Annotated[Path, typer.Option("--out", help="The SVG to write.")],
    font: Annotated[str, typer.Option(help="The font, such as dancing-script.")] = "atkinson",
    style: Annotated[str | None, typer.Option(help="The style, such as bold.")] = None,
    spacing: Annotated[float, typer.Option(help="Room between letters, in shares of the type's size.")] = 0.0,
    join: Annotated[bool, typer.Option("--join", help="Join letters that overlap into one outline.")] = False,
    arc: Annotated[str | None, typer.Option(help="Set the letters along an arc of this radius.")] = None,
    colour: Annotated[str, typer.Option(help="The colour, as #rrggbb.")] = "#1a1a1a",
) -> None:
    """Write words as outlines into an SVG, in mm."""
    from zinnet.artwork.lettering.text import TextSpec
    from zinnet.artwork.lettering.word import word_regions
    from zinnet.cutting.svg_file import shapes_svg
    from zinnet.export import write_text

    tall, radius = reading.positive(height, "--height"), reading.positive(arc, "--arc")
    assert tall is not None
    spec = TextSpec(text=words.replace("\\n", "\n"), font=font, style=style, letter_spacing=spacing, colour=colour)
    regions = word_regions(spec, height_mm=tall, joined=join)
    if radius is not None:
        from zinnet.placement.arrange import stand_on_arc

        regions = stand_on_arc(regions, radius)
    write_text(out, shapes_svg(regions, colour))


def inspect(
    artwork: Annotated[Path, typer.Argument(help="An SVG or DXF.")],
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """Say what is in artwork: size, colours, counts, and what was mended or left out."""
    from zinnet.document import Document
    from zinnet.export import findings_json
    from zinnet.job import Design, Job
    from zinnet.workshop.open import open_workshop

    job = Job(designs=(Design.of(artwork.name, reading.read(artwork)),))
    plan = Document(open_workshop(), job).plan
    design = plan.first
    assert design is not None
    said: dict[str, Any] = {
        "name": artwork.name,
        "size_mm": None,
        "aspect": None,
        "shapes": len(design.artwork.shapes),
        "pictures": len(design.artwork.pictures),
        "remarks": [{"code": one.code, "message": one.message, "count": one.count} for one in design.artwork.remarks],
        "colours": [],
        "findings": [row for row in findings_json(plan) if row["station"] in ("artwork", "split")],
    }
    if design.split is not None and design.proposal is not None:
        from zinnet.layers.split import own_width_mm

        own, aspect = own_width_mm(design.artwork), design.split.height_mm / design.split.width_mm
        look = design.proposal.look
        said |= {
            "size_mm": None if own is None else [own, own * aspect],
            "aspect": aspect,
            "ink": look.ink,
            "words": look.words,
            "character": look.character,
            "colours": [{"colour": row.layer.colour, "parts": row.layer.pieces} for row in design.layers],
        }
    if as_json:
        reading.print_json(said)
        return
    for key, value in said.items():
        typer.echo(f"{key:<10} {value}")
