"""The command of cost and price: quote."""

from decimal import Decimal, InvalidOperation
from pathlib import Path
from typing import Annotated

import typer

from zinnet.base.errors import ZinnetError
from zinnet.cli import reading

Amount = Annotated[str | None, typer.Option(help="For this job; else as the price list says.")]


def quote(
    job: Annotated[Path, typer.Argument(help="The job file.")],
    out: Annotated[Path | None, typer.Option("--out", help="Write the quote here, as .pdf or .csv.")] = None,
    blank: Amount = None,
    hour: Amount = None,
    mark_up: Amount = None,
    tax: Amount = None,
    prices: Annotated[Path | None, typer.Option("--prices", help="Another price list, as TOML.")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="As JSON.")] = False,
) -> None:
    """Say what a job costs, what it is sold for, and what would make it cheaper."""
    from zinnet.base.files import write_whole
    from zinnet.job.edits import set_price
    from zinnet.output.papers.quote_sheet import quote_pdf
    from zinnet.shop.costing import Costing
    from zinnet.shop.quote import quote_csv, quote_json, savings
    from zinnet.workshop.prices import read_prices

    document = reading.nested_job(job)
    asked = {"blank": blank, "hour": hour, "mark_up_percent": mark_up, "tax_percent": tax}
    fields = {name: _amount(text, name) for name, text in asked.items() if text is not None}
    if fields:
        document.apply(set_price("price", **fields))
    costing = Costing(document.plan, read_prices(prices))
    if not costing.facts.nests:
        raise ZinnetError("There is nothing to price: no layer of the job has a film yet.")
    if out is not None:
        if out.suffix.lower() not in (".pdf", ".csv"):
            raise ZinnetError(f"A quote is written as .pdf or .csv, not as {out.suffix or out.name}; rename it.")
        write_whole(out, quote_pdf(costing) if out.suffix.lower() == ".pdf" else quote_csv(costing).encode())
    if as_json:
        reading.print_json(quote_json(costing))
        return
    if costing.not_whole:
        typer.echo(costing.not_whole)
    priced, money = costing.priced, costing.prices.currency
    for item in priced.items:
        typer.echo(f"{item.amount:>10}  {item.name}: {item.basis}")
    typer.echo(f"{priced.cost:>10}  cost in all, {money} (prices: {costing.prices.source})")
    for one in priced.lines:
        typer.echo(f"{one.total:>10}  {one.line.count} x {one.line.name} at {one.price}")
    typer.echo(f"{priced.tax:>10}  tax of {priced.tax_percent:f} %")
    typer.echo(f"{priced.gross:>10}  to pay")
    for saving in savings(costing):
        typer.echo(f"cheaper by {saving.amount}: {saving.said}")


def _amount(text: str, name: str) -> Decimal:
    try:
        amount = Decimal(text.strip())
    except InvalidOperation:
        amount = Decimal("NaN")
    if not amount.is_finite() or amount < 0:
        option = "--" + name.removesuffix("_percent").replace("_", "-")
        raise ZinnetError(f"{option} {text} is no amount; write it like 12.50.")
    return amount
