"""Reading a list of names: a CSV file, or a table that was pasted from a spreadsheet or a message."""

import csv
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from zinnet.base.csv_text import lines_of
from zinnet.base.errors import ZinnetError
from zinnet.job.names.model import (
    MOST_COLUMNS,
    MOST_LETTERS,
    MOST_ROWS,
    NameField,
    NameList,
    NameRow,
)

MOST_BYTES = 2_000_000
DELIMITERS = "\t;,"
HEADS = {
    "size": ("size",),
    "blank": ("blank", "garment"),
    "colour": ("colour", "color", "film"),
    "count": ("count", "quantity", "number of garments", "pieces"),
}
"""The columns that say what a row is for, by the words at their head; every other one holds words to be cut."""


@dataclass(frozen=True)
class Reading:
    """What a table is read against: the sizes and the blank of the job, and colours by the name of a film.

    ``sizes`` leads from what people type, without capitals, to the size's id.
    """

    sizes: Mapping[str, str]
    blank: tuple[str, ...]
    colours: Mapping[str, str]


@dataclass(frozen=True)
class ReadList:
    """The list, and what a person should know of how it was read."""

    names: NameList
    remarks: tuple[str, ...]


def read_names(data: bytes | str, against: Reading, fields: Sequence[NameField] = ()) -> ReadList:
    """Return the list of a table. Raises :class:`ZinnetError` that names the line and what to do about it.

    Without a head of known words the first column is the name. Rows for another blank are left out and said.
    """
    lines = _lines(data)
    if not lines:
        raise ZinnetError("The list of names is empty; give one name to a line.")
    head = [cell.casefold() for cell in lines[0][1]]
    known = {word for words in HEADS.values() for word in words}
    has_head = any(cell in known or cell in ("name", "names") for cell in head) and len(lines) > 1
    columns = lines[0][1] if has_head else ["name", *(f"column {k}" for k in range(2, len(head) + 1))]
    if len(columns) > MOST_COLUMNS:
        raise ZinnetError(f"The list of names has {len(columns)} columns; {MOST_COLUMNS} are the most. Leave some out.")
    body = lines[1:] if has_head else lines
    if len(body) > MOST_ROWS:
        raise ZinnetError(f"The list has {len(body)} names; {MOST_ROWS} are the most for one job. Part it in two.")
    special = _special(columns) if has_head else {}
    words = [k for k in range(len(columns)) if k not in special.values()]
    if not words:
        raise ZinnetError("The list of names has no column with words; add one, such as “name”.")
    rows, left_out, unknown = [], [], []
    for line, cells in body:
        if len(cells) > len(columns):
            raise ZinnetError(f"Line {line} of the list has {len(cells)} cells, its head {len(columns)}; mend it.")
        cells = cells + [""] * (len(columns) - len(cells))
        said = {name: cells[place] for name, place in special.items()}
        if said.get("blank") and said["blank"].casefold() not in against.blank:
            left_out.append(f"line {line} ({said['blank']})")
            continue
        if said.get("colour") and said["colour"].casefold() not in against.colours:
            unknown.append(f"line {line} (“{said.pop('colour')}”)")
        rows.append(_row(line, [cells[k] for k in words], said, against))
    if not rows:
        raise ZinnetError("No line of the list is for this job's blank; choose the blank first, or mend the list.")
    names = NameList(columns=tuple(columns[k] for k in words), rows=tuple(rows), fields=tuple(fields))
    remarks = [f"Left out, for another blank: {', '.join(left_out)}."] if left_out else []
    if unknown:
        remarks.append(f"No film is called so, the text's own is used: {', '.join(unknown)}. Give a film's name.")
    return ReadList(names, tuple(remarks))


def _lines(data: bytes | str) -> list[tuple[int, list[str]]]:
    """Return the lines that are not empty, each with its number and its cells."""
    if len(data) > MOST_BYTES:
        raise ZinnetError(f"The list has more than {MOST_BYTES // 1_000_000} MB; a list of names is far smaller.")
    if isinstance(data, bytes):
        try:
            data = data.decode("utf-8-sig")
        except UnicodeDecodeError:
            raise ZinnetError("The list of names is no text in UTF-8; save it as CSV in UTF-8 and try again.") from None
    text = data.replace("\x00", "")
    first = next((line for line in text.splitlines() if line.strip()), "")
    delimiter = max(DELIMITERS, key=first.count)
    try:
        reader = csv.reader(lines_of(text), delimiter=delimiter, strict=True)
        rows = [(reader.line_num, [" ".join(cell.split()) for cell in row]) for row in reader]
    except csv.Error as error:
        raise ZinnetError(f"The list of names can't be read as a table ({error}); mend its quotes.") from None
    return [(line, row) for line, row in rows if any(row)]


def _special(columns: Sequence[str]) -> dict[str, int]:
    """Return where the columns stand that say what a row is for. Raises where one stands twice."""
    found: dict[str, int] = {}
    for place, column in enumerate(columns):
        name = next((name for name, words in HEADS.items() if column.casefold() in words), None)
        if name is None:
            continue
        if name in found:
            raise ZinnetError(f"The list of names has two columns for the {name}; leave one of them out.")
        found[name] = place
    return found


def _row(line: int, values: Sequence[str], said: Mapping[str, str], against: Reading) -> NameRow:
    if not any(values):
        raise ZinnetError(f"Line {line} of the list has no name; fill it in, or take the line out.")
    long = next((value for value in values if len(value) > MOST_LETTERS), None)
    if long is not None:
        raise ZinnetError(f"Line {line} of the list has a word of {len(long)} letters; {MOST_LETTERS} are the most.")
    return NameRow(
        values=tuple(values),
        size=_size(line, said.get("size", ""), against),
        colour=against.colours.get(said.get("colour", "").casefold()),
        count=_count(line, said.get("count", "")),
    )


def _size(line: int, said: str, against: Reading) -> str | None:
    if not said:
        return None
    size = against.sizes.get(said.casefold())
    if size is None:
        known = ", ".join(dict.fromkeys(against.sizes.values()))
        raise ZinnetError(f"Line {line} of the list: this blank has no size “{said}”; it has: {known}.")
    return size


def _count(line: int, said: str) -> int:
    if not said:
        return 1
    if not said.isdecimal() or not 1 <= int(said) <= 1000:
        raise ZinnetError(f"Line {line} of the list: the count “{said}” is no whole number from 1 to 1000.")
    return int(said)
