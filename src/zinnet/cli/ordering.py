"""The commands of orders: order, and the garments on the shelf."""

import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from zinnet.base.days import read_day
from zinnet.base.errors import ZinnetError
from zinnet.cli import reading

if TYPE_CHECKING:
    from zinnet.shop.ordered import Ordered


def order(
    job: Annotated[Path, typer.Argument(help="The job file.")],
    lines: Annotated[Path | None, typer.Option("--lines", help="A CSV: size, colour, name, count.")] = None,
    due: Annotated[str | None, typer.Option("--due", help="When it must be done, such as 2026-12-01 or 1 Dec.")] = None,
    hours: Annotated[float | None, typer.Option("--hours", help="Hours of a day that are worked at it.")] = None,
    customer: Annotated[str | None, typer.Option("--for", help="For whom it is.")] = None,
    out: Annotated[Path | None, typer.Option("--out", help="Save the job with the order under this name.")] = None,
    buy: Annotated[Path | None, typer.Option("--buy", help="Write the shopping list, as .pdf or .csv.")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """Say what an order needs, what of it is there, what is to be bought, and whether it is done in time."""
    from zinnet.bench.nesting import nest_document
    from zinnet.job.edits import set_order, set_order_lines
    from zinnet.job.order_csv import read_order_csv
    from zinnet.shop.costing import Costing
    from zinnet.shop.ordered import Ordered, needs_table, order_json
    from zinnet.workshop.prices import read_prices

    document = reading.opened_job(job, with_shelf=True)
    asked = {"due": None if due is None else read_day(due, datetime.date.today()), "day_h": hours, "customer": customer}
    fields = {name: value for name, value in asked.items() if value is not None}
    if lines is not None:
        document.apply(set_order_lines(read_order_csv(reading.read(lines), lines.name)))
    if fields:
        document.apply(set_order("order", **fields))
    nest_document(document)
    ordered = Ordered(Costing(document.plan, read_prices()))
    today = datetime.date.today()
    if out is not None:
        document.save(out)
    if buy is not None:
        _write_list(buy, ordered, today)
    if as_json:
        reading.print_json(order_json(ordered, today))
        return
    for remark in ordered.remarks:
        typer.echo(remark)
    for what, needed, there, missing in needs_table(ordered):
        typer.echo(f"{what:<34} {needed:>12} {there:>12}  {missing}")
    typer.echo(ordered.due_said(today))


def garments(
    kind: Annotated[str | None, typer.Option(help="The kind of blank, such as tee.")] = None,
    size: Annotated[str | None, typer.Option(help="Its size, such as adult-m.")] = None,
    colour: Annotated[str, typer.Option(help="Its colour, such as #1f2a44.")] = "#ffffff",
    name: Annotated[str, typer.Option(help="What the colour is called.")] = "",
    count: Annotated[int | None, typer.Option(min=0, help="How many are there now.")] = None,
    place: Annotated[str, typer.Option(help="Where they lie.")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """List the garments that are there, or say with --kind, --size and --count how many of one are."""
    from zinnet.blanks.catalogue import read_blank_name, size_of
    from zinnet.workshop.blank_stock import BlankItem, BlankStock
    from zinnet.workshop.store import WorkshopStore

    stock = BlankStock(WorkshopStore())
    if kind is not None:
        if count is None:
            raise ZinnetError("Say how many there are, by --count.")
        spec = read_blank_name(kind)
        spec = spec if size is None else spec.model_copy(update={"size": size})
        stock.put(
            BlankItem(kind=spec.kind, size=size_of(spec), colour=colour.lower(), name=name, count=count, place=place)
        )
    if as_json:
        reading.print_json([item.model_dump() for item in stock.items()])
        return
    for item in stock.items():
        typer.echo(f"{item.count:>5} x {item.kind} {item.size:<12} {item.colour} {item.name:<16} {item.place}")


def _write_list(path: Path, ordered: "Ordered", today: datetime.date) -> None:
    from zinnet.base.files import write_whole
    from zinnet.output.papers.shopping_list import shopping_csv, shopping_pdf

    money = ordered.costing.prices.currency
    if path.suffix.lower() == ".csv":
        write_whole(path, shopping_csv(ordered.shopping, money).encode())
    elif path.suffix.lower() == ".pdf":
        title = ordered.facts.job.title
        write_whole(path, shopping_pdf(title, ordered.shopping, money, ordered.due_said(today)))
    else:
        raise ZinnetError(f"A shopping list is written as .pdf or .csv, not as {path.suffix or path.name}; rename it.")
