"""Commands of artwork: text and inspect."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from zinnet.base.errors import ZinnetError
from zinnet.cli import reading

if TYPE_CHECKING:
    from zinnet.artwork.source import Source
    from zinnet.steps.model import Step


def text(
    words: Annotated[str, typer.Argument(help="What is written; \\n begins another line.")],
    out: Annotated[Path, typer.Option("--out", help="The SVG to write.")],
    height: Annotated[str | None, typer.Option(help="How tall the outlines of a line are, such as 38mm.")] = None,
    width: Annotated[str | None, typer.Option(help="How wide it all is, instead of a height.")] = None,
    box: Annotated[str | None, typer.Option(help="As large as fits into a box, such as 200x60mm.")] = None,
    font: Annotated[str, typer.Option(help="The font, such as dancing-script.")] = "atkinson",
    style: Annotated[str | None, typer.Option(help="The style, such as bold.")] = None,
    spacing: Annotated[float, typer.Option(help="Room between letters, in shares of the type's size.")] = 0.0,
    join: Annotated[bool, typer.Option("--join", help="Join letters that overlap into one outline.")] = False,
    arc: Annotated[str | None, typer.Option(help="Set the letters along an arc of this radius.")] = None,
    colour: Annotated[str, typer.Option(help="The colour, as #rrggbb.")] = "#1a1a1a",
) -> None:
    """Write words as outlines into an SVG, in mm."""
    from zinnet.artwork.lettering.text import TextSpec
    from zinnet.artwork.lettering.word import fitted_word, word_regions
    from zinnet.cutting.svg_file import shapes_svg
    from zinnet.output.writing import write_text

    tall, radius = reading.positive(height, "--height"), reading.positive(arc, "--arc")
    if sum(one is not None for one in (height, width, box)) != 1:
        raise ZinnetError("Say how large the text is, by one of --height, --width and --box.")
    spec = TextSpec(text=words.replace("\\n", "\n"), font=font, style=style, letter_spacing=spacing, colour=colour)
    if tall is not None:
        regions = word_regions(spec, height_mm=tall, joined=join)
    elif box is not None:
        from zinnet.base.units import read_size

        wide, high = read_size(box)
        regions = fitted_word(spec, width_mm=wide, height_mm=high, joined=join)
    else:
        regions = fitted_word(spec, width_mm=reading.positive(width, "--width") or 0.0, height_mm=None, joined=join)
    if radius is not None:
        from zinnet.placement.arrange import stand_on_arc

        regions = stand_on_arc(regions, radius)
    write_text(out, shapes_svg(regions, colour))


def trace(
    picture: Annotated[Path, typer.Argument(help="A PNG, JPEG or WebP.")],
    out: Annotated[Path, typer.Option("--out", help="The SVG to write.")],
    colours: Annotated[
        int | None, typer.Option(help="How many colours; as many as the picture has, if left out.")
    ] = None,
    width: Annotated[str | None, typer.Option(help="The life-size width, such as 210mm; else 1 px is 1/96 in.")] = None,
    background: Annotated[str, typer.Option(help="The background: auto, keep, or its colour as #rrggbb.")] = "auto",
    tolerance: Annotated[float, typer.Option(help="How unlike the background may be, 0.5 to 60.")] = 4.0,
    smoothing: Annotated[float, typer.Option(help="How much outlines are smoothed, in pixels, 0.1 to 4.")] = 0.5,
    specks: Annotated[float, typer.Option(help="Parts of fewer pixels are dropped.")] = 12.0,
    inside: Annotated[bool, typer.Option(help="Take the background's colour out inside too.")] = True,
) -> None:
    """Trace a picture into an SVG of flat colours with curved outlines."""
    from zinnet.artwork.svg.writer import artwork_svg
    from zinnet.artwork.tracing.trace import TraceSpec, trace_picture
    from zinnet.output.writing import write_text

    spec = TraceSpec(
        colours=colours,
        drop_background=background != "keep",
        background=background if background.startswith("#") else None,
        tolerance=tolerance,
        inside_too=inside,
        smoothing=smoothing,
        speck_px=specks,
        life_width_mm=reading.positive(width, "--width"),
    )
    if background not in ("auto", "keep") and not background.startswith("#"):
        raise ZinnetError(f"--background {background} is not auto, keep or a colour like #ffffff.")
    artwork = trace_picture(reading.read(picture), spec, picture.name)
    write_text(out, artwork_svg(artwork))
    typer.echo(f"{len(artwork.shapes)} colours: {', '.join(one.fill.colour for one in artwork.shapes if one.fill)}")


def through(
    word: Annotated[str, typer.Argument(help="The word whose rows cross the shape.")],
    width: Annotated[str, typer.Option(help="How wide it all is with its outline, such as 240mm.")],
    out: Annotated[Path, typer.Option("--out", help="The SVG to write.")],
    shape: Annotated[str, typer.Option(help="A shape by its name, or an SVG or DXF.")] = "disc",
    font: Annotated[str, typer.Option(help="The font.")] = "bebas-neue",
    rows: Annotated[int, typer.Option(help="How many rows.")] = 3,
    cover: Annotated[float, typer.Option(help="The share of the shape's height that the rows fill.")] = 0.6,
    reach: Annotated[float, typer.Option(help="The rows' width, in widths of the shape.")] = 1.25,
    gap: Annotated[str, typer.Option(help="The gap between rows, and above and below them.")] = "3mm",
    outline: Annotated[str, typer.Option(help="The width of the outline round it all.")] = "3mm",
    least: Annotated[str, typer.Option(help="Nothing is thinner than this.")] = "1mm",
) -> None:
    """Write a word through a shape: rows of letters that change colour where they cross it."""
    from zinnet.artwork.lettering.word_through import WordThroughSpec
    from zinnet.artwork.source import WordThroughArt

    own = "." in shape or "/" in shape
    spec = WordThroughSpec(
        word=word,
        font=font,
        rows=rows,
        cover=cover,
        reach=reach,
        gap_mm=reading.positive(gap, "--gap"),
        outline_mm=reading.positive(outline, "--outline"),
        least_mm=reading.positive(least, "--least"),
        **({} if own else {"shape": shape}),
    )
    file = reading.artwork(Path(shape)).file if own else None
    source = WordThroughArt(word=spec, file=file)
    _write_design(source, (), width, out)
    _say_what_is_not_held(source, width)


def _say_what_is_not_held(source: "Source", width: str) -> None:
    """Say where a design is too fine for its films with the lap that they get, and how wide it must be."""
    from zinnet.base.units import write_length
    from zinnet.bench.document import Document
    from zinnet.job.model import Design, Job
    from zinnet.placement.place import PlacementSpec
    from zinnet.plan.drawn_anew import places_not_held, rows_that_hold, width_that_holds
    from zinnet.plan.findings.subject import several
    from zinnet.plan.fitting import fitting_of
    from zinnet.workshop.opening import open_settings

    drawn = Design(source=source, placement=PlacementSpec(width_mm=reading.positive(width, "--width")))
    plan = Document(open_settings(), Job(designs=(drawn,))).plan
    garment = plan.garments[0]
    (design,) = garment.designs
    places = places_not_held(design)
    if not places:
        return
    fitting = fitting_of(plan.job, plan.workshop)
    wide, rows = width_that_holds(fitting, garment, design), rows_that_hold(fitting, garment, design)
    ways = [] if wide is None else [f"at {write_length(wide, unit=plan.job.unit)} they hold all of it"]
    ways += [] if rows is None else [f"at this width they hold {several(rows, 'row', 'rows')}"]
    out = "; ".join(ways) or "no width and no fewer rows help; take a bolder font"
    typer.echo(f"The films can't hold {several(places, 'place', 'places')} of it: {out}.", err=True)


def name(
    words: Annotated[str, typer.Argument(help="The name.")],
    width: Annotated[str, typer.Option(help="How wide it all is with its outlines.")],
    out: Annotated[Path, typer.Option("--out", help="The SVG to write.")],
    font: Annotated[str, typer.Option(help="The font.")] = "dancing-script",
    bend: Annotated[float, typer.Option(help="The angle that the name spans on its circle, in degrees.")] = 0.0,
    outline: Annotated[list[str] | None, typer.Option(help="An outline as WIDTH=#rrggbb, the innermost first.")] = None,
    second: Annotated[str, typer.Option(help="A second line below.")] = "",
    colour: Annotated[str, typer.Option(help="The colour of the letters.")] = "#f1c453",
) -> None:
    """Write an outlined name: letters, one to three outlines, a second line."""
    from zinnet.artwork.lettering.outlined_name import OutlinedNameSpec, OutlineRing
    from zinnet.artwork.source import OutlinedNameArt

    rings = []
    for text in outline or ["3mm=#23304a"]:
        wide, _, ring_colour = text.partition("=")
        rings.append(OutlineRing(width_mm=reading.positive(wide, "--outline"), colour=ring_colour or "#23304a"))
    spec = OutlinedNameSpec(name=words, font=font, bend_deg=bend, outlines=tuple(rings), second=second, colour=colour)
    _write_design(OutlinedNameArt(name=spec), (), width, out)


def alter(
    artwork: Annotated[Path, typer.Argument(help="An SVG, DXF or picture.")],
    out: Annotated[Path, typer.Option("--out", help="The SVG to write.")],
    step: Annotated[list[str], typer.Option(help='A step as JSON, such as {"kind": "outline", "width_mm": 3}.')],
    width: Annotated[str, typer.Option(help="How wide it is when it is finished.")] = "200mm",
) -> None:
    """Do steps to artwork, one after another, and write what comes out as SVG in mm."""
    from pydantic import TypeAdapter, ValidationError

    from zinnet.steps.model import Step

    try:
        steps = tuple(TypeAdapter(Step).validate_json(text) for text in step)
    except ValidationError as error:
        first = error.errors()[0]
        raise ZinnetError(f"--step: {' '.join(map(str, first['loc']))} {first['msg']}; mend it.") from None
    _write_design(reading.artwork(artwork), steps, width, out)


def _write_design(source: "Source", steps: "tuple[Step, ...]", width: str, out: Path) -> None:
    """Write a design after its steps: one path for each colour, side by side, in mm."""
    from zinnet.cutting.svg_file import layers_svg
    from zinnet.layers.split import split_artwork
    from zinnet.output.writing import write_text
    from zinnet.steps.run import finished

    wide = reading.positive(width, "--width")
    assert wide is not None
    split = split_artwork(finished(source, steps, wide), width_mm=wide)
    write_text(out, layers_svg([(layer.colour, layer.region) for layer in split.layers], wide, split.height_mm))


def inspect(
    artwork: Annotated[Path, typer.Argument(help="An SVG, DXF or picture.")],
    width: Annotated[str | None, typer.Option(help="How wide it will be; else as is proposed.")] = None,
    blank: Annotated[str | None, typer.Option(help="The blank that it is for, such as tote; a tee if none is.")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """Say what is in artwork: size, colours, counts, what was mended or left out, and what is wrong with it so wide."""
    from zinnet.bench.document import Document
    from zinnet.blanks.catalogue import read_blank_name
    from zinnet.blanks.model import BlankSpec
    from zinnet.job.model import Design, Job
    from zinnet.output.plan_json import details_json, findings_json
    from zinnet.placement.place import PlacementSpec
    from zinnet.workshop.opening import open_settings

    placement = PlacementSpec(width_mm=reading.positive(width, "--width"))
    job = Job(
        blank=BlankSpec() if blank is None else read_blank_name(blank),
        designs=(Design(source=reading.artwork(artwork), placement=placement),),
    )
    plan = Document(open_settings(), job).plan
    (design,) = plan.garments[0].designs
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
        from zinnet.base.units import write_length
        from zinnet.layers.split import own_width_mm

        own, aspect = own_width_mm(design.artwork), design.split.height_mm / design.split.width_mm
        look = design.proposal.look
        said |= {
            "size_mm": None if own is None else [own, own * aspect],
            "aspect": aspect,
            "ink": look.ink,
            "words": look.words,
            "character": look.character,
            "colours": [{"colour": layer.colour, "parts": layer.pieces} for layer in design.split.layers],
            "width_mm": design.split.width_mm,
            "judged": f"at {write_length(design.split.width_mm, unit=job.unit)}, "
            f"{'as proposed for' if width is None else 'on'} {plan.blank.name}",
            "details": [details_json(row) for row in design.layers],
        }
    if as_json:
        reading.print_json(said)
        return
    for key, value in said.items():
        typer.echo(f"{key:<10} {value}")
