"""The commands of the whole workshop: export, import."""

from pathlib import Path
from typing import Annotated, Any

import typer

from zinnet.cli import reading

app = typer.Typer(help="The whole workshop in open files, and what is in it of one's own.", no_args_is_help=True)
adding = typer.Typer(help="Add a press, a cutting machine or a film of one's own.", no_args_is_help=True)
app.add_typer(adding, name="add")

Name = Annotated[str, typer.Argument(help="What it is called.")]


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


@app.command()
def limits(
    name: Annotated[str | None, typer.Argument(help="A limit, such as centre.tolerance_mm; all if none is.")] = None,
    value: Annotated[float | None, typer.Argument(help="Your own value for it.")] = None,
    usual: Annotated[bool, typer.Option("--usual", help="Take the usual value again.")] = False,
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """List the limits of findings, laps and proposals with their sources, or set your own over one."""
    from zinnet.base.errors import ZinnetError
    from zinnet.data.limits import source_of, usual_limits
    from zinnet.workshop.own_limits import read_limits, set_limit

    if value is not None and usual:
        raise ZinnetError("Say either a value or --usual.")
    if name is not None and name not in usual_limits():
        raise ZinnetError(f"There is no limit “{name}”; “zinnet workshop limits” lists them.")
    if name is not None and (value is not None or usual):
        set_limit(name, value)
    own = dict(read_limits())
    rows = [
        {"name": each, "usual": number, "own": own.get(each), "source": source_of(each)}
        for each, number in usual_limits().items()
        if name in (None, each)
    ]
    if as_json:
        reading.print_json(rows)
        return
    for row in rows:
        mine = "" if row["own"] is None else f"yours {row['own']:g}"
        typer.echo(f"{row['name']:<32} {row['usual']:>8g}  {mine:<14} {row['source']}")


@adding.command()
def press(
    name: Name,
    kind: Annotated[str, typer.Option(help="plate (hand-held), press, hand, cap, round or iron.")],
    size: Annotated[str, typer.Option(help="Width x height of its plate, such as 9x9in.")],
    margin: Annotated[str | None, typer.Option(help="How far in from its edge it heats evenly, such as 5mm.")] = None,
    heat: Annotated[str | None, typer.Option(help="The range of its thermostat, such as 100C-200C.")] = None,
) -> None:
    """Add a source of heat: from then on jobs take it where it gets to the object."""
    from zinnet.base.errors import ZinnetError
    from zinnet.base.units import read_length, read_size
    from zinnet.machines.platens import heat_kinds
    from zinnet.pressing.typed_recipe import read_heats
    from zinnet.workshop.own_things import keep_press

    if kind not in heat_kinds():
        raise ZinnetError(f"There is no kind of press “{kind}”; use one of {', '.join(heat_kinds())}.")
    width, height = read_size(size)
    own_id = keep_press(
        name,
        heat_source=kind,
        width_mm=width,
        height_mm=height,
        margin_mm=None if margin is None else read_length(margin),
        heat_c=None if heat is None else read_heats(heat),
    )
    typer.echo(f"{name} is kept as {own_id}.")


@adding.command()
def machine(
    name: Name,
    mats: Annotated[str, typer.Option(help="The mats that it takes, with commas: names, or sizes such as 12x12in.")],
    force: Annotated[str | None, typer.Option(help="Its force in grams, such as 10-350.")] = None,
    steps: Annotated[int | None, typer.Option(help="It knows steps of force, from 1 to so many.")] = None,
    presets: Annotated[str | None, typer.Option(help="It knows presets: all their names, the gentlest first.")] = None,
    blades: Annotated[int | None, typer.Option(help="Its blade has numbered depths, from 1 to so many.")] = None,
    test_corner: Annotated[bool, typer.Option("--test-corner", help="It tests in the upper left corner.")] = False,
    edge: Annotated[str | None, typer.Option(help="How near to the edge of film it cuts, such as 3mm.")] = None,
    knife: Annotated[str | None, typer.Option(help="How far its knife trails, where files make up for it.")] = None,
) -> None:
    """Add a cutting machine, described as it shows itself."""
    from zinnet.base.units import read_length
    from zinnet.machines.own_mats import mats_named
    from zinnet.workshop.own_things import keep_machine

    known, made = mats_named([one.strip() for one in mats.split(",") if one.strip()])
    low, high = reading.grams(force) if force is not None else (None, None)
    own_id = keep_machine(
        name,
        made,
        mats=known,
        speaks="presets" if presets is not None else "steps" if steps is not None else "grams",
        force_low_g=low,
        force_high_g=high,
        force_steps=steps,
        presets=None if presets is None else tuple(one.strip() for one in presets.split(",") if one.strip()),
        blade_steps=blades,
        test_corner=test_corner or None,
        film_edge_mm=None if edge is None else read_length(edge),
        knife_offset_mm=None if knife is None else read_length(knife),
    )
    typer.echo(f"{name} is kept as {own_id}.")


@adding.command()
def film(
    name: Name,
    kind: Annotated[str, typer.Option(help="The kind of film that it is, or is most like, such as smooth.")],
    colour: Annotated[str, typer.Option(help="Its colour, as #rrggbb.")],
    heat: Annotated[str | None, typer.Option(help="The heat of its maker's sheet, such as 150C-160C.")] = None,
    seconds: Annotated[float | None, typer.Option(help="For how many seconds at heat it stays sound.")] = None,
    stroke: Annotated[str | None, typer.Option(help="The thinnest stroke that it holds, such as 1mm.")] = None,
    gap: Annotated[str | None, typer.Option(help="The narrowest gap that can be weeded.")] = None,
    thick: Annotated[float | None, typer.Option(help="How thick it is, in micrometres.")] = None,
    roll: Annotated[str | None, typer.Option(help="How wide its roll is, such as 300mm.")] = None,
    price: Annotated[float | None, typer.Option(help="What a square metre costs, in your money.")] = None,
    pattern: Annotated[Path | None, typer.Option(help="A picture of its pattern: JPEG, PNG or WebP.")] = None,
    pattern_width: Annotated[str, typer.Option(help="How wide that picture lies on the film.")] = "100mm",
) -> None:
    """Add a film; what its maker's sheet says of it goes before what is usual for its kind."""
    from zinnet.base.errors import ZinnetError
    from zinnet.base.units import read_length
    from zinnet.films.catalogue import film_kinds
    from zinnet.pressing.typed_recipe import read_heats
    from zinnet.workshop.own_things import keep_film

    sold: dict[str, Any] = {"roll_mm": None if roll is None else read_length(roll), "price_m2": price}
    if pattern is not None:
        from zinnet.base.files import read_file
        from zinnet.workshop.own_pattern import MOST_BYTES, pattern_picture

        found = pattern_picture(read_file(pattern, MOST_BYTES), pattern.name)
        sold |= {"picture": found.picture, "picture_mm": read_length(pattern_width)}
    if kind not in film_kinds():
        raise ZinnetError(f"There is no kind of film “{kind}”; use one of {', '.join(film_kinds())}.")
    own_id = keep_film(
        name,
        kind,
        colour.lower(),
        sold=sold,
        heat_c=None if heat is None else read_heats(heat),
        most_heat_s=seconds,
        least_stroke_mm=None if stroke is None else read_length(stroke),
        least_gap_mm=None if gap is None else read_length(gap),
        thickness_um=thick,
    )
    typer.echo(f"{name} is kept as {own_id}.")


@app.command()
def remove(
    thing: Annotated[str, typer.Argument(help="press, machine or film.")],
    own_id: Annotated[str, typer.Argument(help="Its id.")],
) -> None:
    """Take a press, a machine or a film of one's own out again."""
    from zinnet.base.errors import ZinnetError
    from zinnet.workshop.own_things import KEPT, drop_thing

    sort = next((one for one in KEPT if one == thing), None)
    if sort is None:
        raise ZinnetError(f"“{thing}” is none of {', '.join(KEPT)}.")
    drop_thing(sort, own_id)
    typer.echo(f"{own_id} is taken out.")


@app.command()
def own(
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
    write: Annotated[Path | None, typer.Option(help="Write them as TOML files into this folder.")] = None,
    take: Annotated[Path | None, typer.Option(help="Take those of a TOML file besides.")] = None,
) -> None:
    """List the presses, machines and films of one's own; write them to hand on, or take those of a file."""
    from zinnet.workshop.own_files import take_own, write_own
    from zinnet.workshop.own_things import own_things

    if take is not None:
        take_own(take)
    if write is not None:
        write_own(write)
    found = own_things()
    if as_json:
        reading.print_json(found)
        return
    for thing, rows in found.items():
        for own_id, row in rows.items():
            typer.echo(f"{thing:<8} {own_id:<28} {row.get('name', '')}")
    if not any(found.values()):
        typer.echo("Nothing of your own yet: zinnet workshop add press, machine or film.")
