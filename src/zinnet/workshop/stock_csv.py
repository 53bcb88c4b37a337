"""The stock as CSV, out and in again: one row for each label."""

import csv
import io
from typing import Any

import shapely
import shapely.errors
from pydantic import ValidationError

from zinnet.base.csv_text import cell_as_it_was, lines_of, plain_cell
from zinnet.base.errors import WorkshopError
from zinnet.workshop.stock import StockItem

COLUMNS = (
    "number",
    "film",
    "kind",
    "width_mm",
    "length_mm",
    "count",
    "turned",
    "price_m2",
    "place",
    "note",
    "outline",
    "spoiled",
)
MOST_BYTES = 20_000_000
MOST_ROWS = 20_000
WORDS = ("film", "place", "note")


def stock_csv(items: list[StockItem]) -> str:
    """Return items as CSV with a header; outlines are well-known text in mm."""
    text = io.StringIO()
    writer = csv.DictWriter(text, COLUMNS, lineterminator="\n")
    writer.writeheader()
    for item in items:
        row: dict[str, Any] = {name: getattr(item, name) for name in COLUMNS}
        for name in ("outline", "spoiled"):
            row[name] = "" if row[name] is None else shapely.to_wkt(row[name], rounding_precision=4)
        row |= {name: plain_cell(row[name]) for name in WORDS}
        row["turned"] = "yes" if item.turned else "no"
        row["price_m2"] = "" if item.price_m2 is None else item.price_m2
        writer.writerow(row)
    return text.getvalue()


def read_stock_csv(data: bytes, name: str) -> list[StockItem]:
    """Return the items of a CSV. Raises :class:`WorkshopError` that names the row and what is wrong with it.

    Their numbers are left out: an item that is put on the shelf is given the next label.
    """
    if len(data) > MOST_BYTES:
        raise WorkshopError(f"{name} has more than {MOST_BYTES // 1_000_000} MB; a list of stock is far smaller.")
    try:
        rows = list(csv.DictReader(lines_of(data.decode("utf-8-sig")), strict=True))
    except (UnicodeDecodeError, csv.Error) as error:
        raise WorkshopError(f"{name} is no CSV in UTF-8 ({error}).") from None
    missing = [column for column in ("film", "kind", "width_mm", "length_mm") if rows and column not in rows[0]]
    if not rows or missing:
        raise WorkshopError(f"{name} has no rows with the columns film, kind, width_mm and length_mm.")
    if len(rows) > MOST_ROWS:
        raise WorkshopError(f"{name} has more than {MOST_ROWS} rows.")
    return [_row(row, number, name) for number, row in enumerate(rows, start=2)]


def _row(row: dict[str, Any], number: int, name: str) -> StockItem:
    fields = {key: value.strip() for key, value in row.items() if key in COLUMNS and value and value.strip()}
    fields.pop("number", None)
    fields |= {name: cell_as_it_was(fields[name]) for name in WORDS if name in fields}
    try:
        for column in ("outline", "spoiled"):
            if column in fields:
                fields[column] = _shape(fields[column])
        return StockItem.model_validate(fields)
    except ValidationError as error:
        first = error.errors()[0]
        where = " ".join(map(str, first["loc"])) or "row"
        raise WorkshopError(f"{name}, row {number}: {where}: {first['msg']}.") from None
    except (shapely.errors.ShapelyError, ValueError) as error:
        raise WorkshopError(f"{name}, row {number}: an outline can't be read ({error}).") from None


def _shape(text: str) -> shapely.MultiPolygon:
    found = shapely.from_wkt(text)
    if found.geom_type not in ("Polygon", "MultiPolygon") or not found.is_valid or found.is_empty:
        raise ValueError("it is no valid POLYGON or MULTIPOLYGON")
    return shapely.MultiPolygon([found]) if found.geom_type == "Polygon" else found
