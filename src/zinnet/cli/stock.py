"""Commands of the shelf: what is on it, what a cut takes and leaves, CSV, and backups."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from zinnet.base.errors import ZinnetError
from zinnet.cli import ordering, papers, reading

if TYPE_CHECKING:
    from zinnet.workshop.stock import Stock, StockItem

app = typer.Typer(help="Film on the shelf: rolls, sheets and scraps.", no_args_is_help=True)

Number = Annotated[int, typer.Argument(help="The item's label number.")]
Why = Annotated[str, typer.Option("--why", help="Why, for its history.")]
Json = Annotated[bool, typer.Option("--json", help="As JSON.")]
Size = Annotated[str | None, typer.Option(help="Width x length, such as 305x5000mm.")]
Price = Annotated[float | None, typer.Option(min=0, help="What all of it cost, in your own money.")]
Place = Annotated[str | None, typer.Option(help="Where it lies.")]
Note = Annotated[str | None, typer.Option(help="What else to know.")]
Turned = Annotated[bool | None, typer.Option("--turned/--along", help="Nap or pattern runs across, not along.")]
Spoiled = Annotated[Path | None, typer.Option(help="An SVG of the damaged spots, x along the length.")]


@app.command(name="list")
def list_items(
    find: Annotated[str, typer.Option(help="Words in film, kind, place, note or label.")] = "",
    film: Annotated[str | None, typer.Option(help="Only this film.")] = None,
    kind: Annotated[str | None, typer.Option(help="Only roll, sheet or scrap.")] = None,
    as_json: Json = False,
) -> None:
    """List what is on the shelf."""
    items = _stock().items(words=find, film=film, kind=kind)
    if as_json:
        reading.print_json([_row(item) for item in items])
        return
    for item in items:
        size = f"{item.width_mm:g} x {item.length_mm:g} mm" + (f" x{item.count}" if item.count > 1 else "")
        typer.echo(f"{item.number:>5}  {item.kind:<6} {item.film:<20} {size:<24} {item.place}")
    if not items:
        typer.echo("Nothing on the shelf that fits; add film with: zinnet stock add")


@app.command()
def add(
    film: Annotated[str, typer.Option(help="The film's id, such as white.")],
    kind: Annotated[str, typer.Option(help="roll, sheet or scrap.")],
    size: Size = None,
    outline: Annotated[Path | None, typer.Option(help="An SVG of a scrap's outline: what is painted is film.")] = None,
    spoiled: Spoiled = None,
    count: Annotated[int, typer.Option(min=1, help="How many equal sheets.")] = 1,
    price: Price = None,
    place: Place = None,
    note: Note = None,
    turned: Turned = None,
) -> None:
    """Put film on the shelf, and print its label number."""
    from zinnet.nesting.from_svg import region_of_svg, scrap_of

    reading.refuse_unknown_film(film)
    fields: dict[str, Any] = {"film": film, "kind": kind, "count": count, "place": place or "", "note": note or ""}
    corner = (0.0, 0.0)
    if outline is not None:
        sheet, corner = scrap_of(region_of_svg(reading.read(outline), outline.name), "", margin_mm=0.0)
        fields |= {"width_mm": sheet.height_mm, "length_mm": sheet.width_mm, "outline": sheet.outline}
    fields |= _changes(size, spoiled, None, place, note, turned, corner)
    if "width_mm" not in fields:
        raise ZinnetError("Say how large it is, by --size WIDTHxLENGTH, or a scrap by --outline FILE.svg.")
    item = _item(fields)
    if price is not None:
        item = item.model_copy(update={"price_m2": price / (item.area_mm2 / 1e6)})
    typer.echo(_stock().add([item])[0].number)


@app.command()
def correct(
    number: Number,
    why: Why,
    size: Size = None,
    spoiled: Spoiled = None,
    count: Annotated[int | None, typer.Option(min=1, help="How many equal sheets are left.")] = None,
    place: Place = None,
    note: Note = None,
    turned: Turned = None,
) -> None:
    """Correct what is written of an item."""
    fields = _changes(size, spoiled, count, place, note, turned, (0.0, 0.0))
    if not fields:
        raise ZinnetError("Say what to correct, such as --size 305x4800mm.")
    _stock().correct(number, why, **fields)


@app.command()
def out(number: Number, why: Why) -> None:
    """Take an item off the shelf."""
    _stock().take_out(number, why)


@app.command()
def history(number: Number, as_json: Json = False) -> None:
    """Print what was done to an item."""
    events = _stock().history(number)
    if as_json:
        reading.print_json([event.model_dump(mode="json") for event in events])
        return
    for event in events:
        typer.echo(f"{event.at}  {event.what}: {event.said}")


@app.command(name="export")
def export_csv(out: Annotated[Path, typer.Argument(help="The CSV to write.")]) -> None:
    """Write the stock as CSV."""
    from zinnet.output.writing import write_text
    from zinnet.workshop.stock_csv import stock_csv

    write_text(out, stock_csv(_stock().items()))


@app.command(name="import")
def import_csv(path: Annotated[Path, typer.Argument(help="The CSV to read.")]) -> None:
    """Put all rows of a CSV on the shelf, or none of them; print their label numbers."""
    from zinnet.workshop.stock_csv import read_stock_csv

    items = read_stock_csv(reading.read(path), path.name)
    for item in items:
        reading.refuse_unknown_film(item.film)
    for item in _stock().add(items, said=f"from {path.name}"):
        typer.echo(item.number)


@app.command()
def cut(
    job: Annotated[Path, typer.Argument(help="The job file that was cut from the shelf.")],
    keep: Annotated[
        str | None,
        typer.Option(help="What is kept of leftovers: as-it-is, rectangles or nothing; else the usual."),
    ] = None,
) -> None:
    """Take what a job used off the shelf, put what is left on it, and print the number of the cut."""
    from zinnet.plan.ledger import left_of
    from zinnet.plan.trims import loads_cut
    from zinnet.workshop.after_cut import KEEPS, changes

    chosen = None if keep is None else keep.replace("-", " ")
    if chosen is not None and chosen not in KEEPS:
        raise ZinnetError(f"--keep {keep}: write as-it-is, rectangles or nothing.")
    document = reading.nested_job(job)
    loads = loads_cut(document.plan.mats)
    if not loads:
        raise ZinnetError(f"Nothing of {job} is cut from the shelf; plan it so first.")
    left = left_of(loads)
    keeps: Any = {} if chosen is None else dict.fromkeys(range(len(left)), chosen)
    typer.echo(_stock().cut(document.job.title, changes(loads, left, keeps)))


@app.command()
def cuts() -> None:
    """List the cuts that can still be undone."""
    for number, at, job in _stock().open_cuts():
        typer.echo(f"{number:>5}  {at}  {job}")


@app.command()
def confirm(number: Annotated[int, typer.Argument(help="The cut's number.")]) -> None:
    """Confirm a cut: it can't be undone any more."""
    _stock().confirm(number)


@app.command()
def undo(number: Annotated[int, typer.Argument(help="The cut's number.")]) -> None:
    """Undo a cut that is not confirmed: what it took is back, what it left is gone."""
    _stock().undo(number)


@app.command()
def restore(
    backup: Annotated[Path | None, typer.Argument(help="A backup; the newest sound one if left out.")] = None,
) -> None:
    """Put a backup of the workshop back in its place; what was there is moved aside."""
    from zinnet.workshop.backup import restore as put_back
    from zinnet.workshop.store import WorkshopStore

    typer.echo(f"The workshop is as it was in {put_back(WorkshopStore().path, backup)}.")


def _changes(
    size: str | None,
    spoiled: Path | None,
    count: int | None,
    place: str | None,
    note: str | None,
    turned: bool | None,
    corner: tuple[float, float],
) -> dict[str, Any]:
    """Return the fields that were given; ``corner`` is where the item's corner lies in its SVGs."""
    from zinnet.base.units import read_size
    from zinnet.geometry.transform import moved, shift
    from zinnet.nesting.from_svg import region_of_svg

    given = {"count": count, "place": place, "note": note, "turned": turned}
    fields: dict[str, Any] = {name: value for name, value in given.items() if value is not None}
    if size is not None:
        fields["width_mm"], fields["length_mm"] = read_size(size)
    if spoiled is not None:
        bad = region_of_svg(reading.read(spoiled), spoiled.name)
        fields["spoiled"] = moved(bad, shift(-corner[0], -corner[1]))
    return fields


def _stock() -> "Stock":
    from zinnet.workshop.stock import Stock
    from zinnet.workshop.store import WorkshopStore

    return Stock(WorkshopStore())


def _item(fields: dict[str, Any]) -> "StockItem":
    from zinnet.workshop.stock import stock_item

    return stock_item(fields)


def _row(item: "StockItem") -> dict[str, Any]:
    return {**item.model_dump(mode="json"), "area_mm2": item.area_mm2, "worth": item.worth}


app.command(name="garments")(ordering.garments)
app.command(name="labels")(papers.stock_labels)
