"""Film on the shelf: rolls, sheets and scraps, each with its label number, and the history of each."""

import datetime
import json
from collections.abc import Iterable, Sequence
from sqlite3 import Connection
from typing import Any, Literal

from pydantic import Field, ValidationError, model_validator

from zinnet.base.errors import WorkshopError
from zinnet.base.frozen import Frozen
from zinnet.nesting.sheet import Shape, Sheet
from zinnet.workshop.store import WorkshopStore

StockKind = Literal["roll", "sheet", "scrap"]
MOST_MM = 200_000.0
FILM = {
    "film": "its film",
    "kind": "its kind",
    "length_mm": "its length in mm",
    "width_mm": "its width in mm",
    "count": "how many there are",
    "outline": "its outline",
    "spoiled": "its spoiled spots",
    "turned": "how it is turned",
}
"""What a plan relies on, and what it is called."""
SAID = ("place", "note", "price_m2")
"""What is said of film and no plan relies on."""
CHANGEABLE = ("film", "width_mm", "length_mm", "outline", "spoiled", "count", "turned", "price_m2", "place", "note")


class StockItem(Frozen):
    """One roll, some equal sheets, or one scrap. Lengths in mm.

    ``width_mm`` goes across a roll and ``length_mm`` along it, what is left; outline and spoiled spots lie in
    coordinates whose x runs along the length. ``turned`` says that nap or pattern runs across instead of along.
    ``price_m2`` is what a square metre cost, in the user's own money.
    """

    number: int = Field(default=0, ge=0)
    film: str = Field(min_length=1, max_length=200)
    kind: StockKind
    width_mm: float = Field(gt=0, le=MOST_MM)
    length_mm: float = Field(gt=0, le=MOST_MM)
    outline: Shape | None = None
    spoiled: Shape | None = None
    count: int = Field(default=1, ge=1, le=10_000)
    turned: bool = False
    price_m2: float | None = Field(default=None, ge=0)
    place: str = Field(default="", max_length=200)
    note: str = Field(default="", max_length=2000)

    @model_validator(mode="after")
    def _one_outline_one_piece(self) -> "StockItem":
        if self.kind == "scrap" and self.count != 1:
            raise ValueError("each scrap has its own label; its count is 1")
        return self

    @property
    def area_mm2(self) -> float:
        """How much film there is, spoiled spots counted in."""
        one = self.outline.area if self.outline is not None else self.width_mm * self.length_mm
        return float(one) * self.count

    @property
    def worth(self) -> float | None:
        """What it cost, where the price is known."""
        return None if self.price_m2 is None else self.area_mm2 / 1e6 * self.price_m2

    @property
    def described(self) -> str:
        """All that it can be found by, without capitals."""
        return f"{self.number} {self.film} {self.kind} {self.place} {self.note}".casefold()

    def sheet(self, margin_mm: float) -> Sheet:
        """Return it as something to nest on, x along its length."""
        return Sheet(
            width_mm=self.length_mm,
            height_mm=self.width_mm,
            margin_mm=margin_mm,
            outline=self.outline,
            keep_out=self.spoiled,
            copies=self.count,
            kind=self.kind,
            label=str(self.number),
        )


class StockEvent(Frozen):
    """Something that was done to an item: when, what, and how it was before and after."""

    number: int
    at: str
    what: str
    said: str
    before: StockItem | None = None
    after: StockItem | None = None


class Stock:
    """The shelf in the workshop's file. Every change is whole or not at all, and is written down."""

    def __init__(self, store: WorkshopStore) -> None:
        self._store = store

    def items(self, *, words: str = "", film: str | None = None, kind: str | None = None) -> list[StockItem]:
        """Return what is on the shelf by label, narrowed to a film, a kind, and words in film, place, note or label."""
        with self._store.open() as connection:
            found = _on_shelf(connection)
        asked = words.casefold().split()
        return [
            item
            for item in found
            if (film is None or item.film == film)
            and (kind is None or item.kind == kind)
            and all(word in item.described for word in asked)
        ]

    def item(self, number: int) -> StockItem:
        """Return one item. Raises :class:`WorkshopError` where it is not on the shelf."""
        with self._store.open() as connection:
            return _read(connection, number)

    def add(self, items: Iterable[StockItem], *, said: str = "added") -> list[StockItem]:
        """Put items on the shelf, all or none; each is given the next label number."""
        with self._store.change() as connection:
            return [_insert(connection, item, said, None) for item in items]

    def correct(self, number: int, why: str, /, seen: StockItem | None = None, **fields: Any) -> StockItem:
        """Change fields of an item, with a reason; ``seen`` is how it was when that was decided.

        Raises :class:`WorkshopError` where it is another one now, or can't be so.
        """
        unknown = [name for name in fields if name not in CHANGEABLE]
        if unknown:
            raise WorkshopError(f"{unknown[0]} of an item can't be changed; one of {', '.join(CHANGEABLE)} can.")
        with self._store.change() as connection:
            before = _read(connection, number)
            _refuse_changed(before, seen)
            after = stock_item({**before.model_dump(), **fields})
            _update(connection, after, "corrected", why, before, None)
        return after

    def take_out(self, number: int, why: str, seen: StockItem | None = None) -> None:
        """Take an item off the shelf, with a reason; its history stays. ``seen`` is as for :meth:`correct`."""
        with self._store.change() as connection:
            before = _read(connection, number)
            _refuse_changed(before, seen)
            _remove(connection, before, why, None)

    def history(self, number: int) -> list[StockEvent]:
        """Return what was done to an item, the oldest first."""
        query = "SELECT number, at, what, said, before, after FROM stock_events WHERE number = :number ORDER BY id"
        with self._store.open() as connection:
            rows = connection.execute(query, {"number": number}).fetchall()
        return [
            StockEvent(
                number=row[0], at=row[1], what=row[2], said=row[3], before=_loaded(row[4]), after=_loaded(row[5])
            )
            for row in rows
        ]

    def cut(self, job: str, changes: Sequence["Change"]) -> int:
        """Write down what a cut took and left: all of it or nothing; return its number, until it is confirmed.

        Raises :class:`WorkshopError` where film is not as it was when the cut was planned: another window may have cut
        from it.
        """
        with self._store.change() as connection:
            made = connection.execute(
                "INSERT INTO cuts (at, job, state) VALUES (:at, :job, 'open')", {"at": _now(), "job": job[:200]}
            )
            cut = int(made.lastrowid or 0)
            for change in changes:
                before = _read(connection, change.number)
                _refuse_changed(before, change.before)
                if change.after is None:
                    _remove(connection, before, f"cut for {job}", cut)
                else:
                    kept = {name: getattr(before, name) for name in SAID}
                    after = stock_item({**change.after.model_dump(), **kept, "number": before.number})
                    _update(connection, after, "cut", f"cut for {job}", before, cut)
                for leftover in change.leftovers:
                    _insert(connection, leftover, f"left of {before.number}, cut for {job}", cut)
        return cut

    def open_cuts(self) -> list[tuple[int, str, str]]:
        """Return the cuts that can still be undone: number, when, for which job."""
        with self._store.open() as connection:
            rows = connection.execute("SELECT id, at, job FROM cuts WHERE state = 'open' ORDER BY id").fetchall()
        return [(int(row[0]), str(row[1]), str(row[2])) for row in rows]

    def confirm(self, cut: int) -> None:
        """Confirm a cut: it can't be undone any more."""
        with self._store.change() as connection:
            _close(connection, cut, "confirmed")

    def undo(self, cut: int) -> None:
        """Undo a cut that is not confirmed: what it took is back, what it left is gone."""
        with self._store.change() as connection:
            _close(connection, cut, "undone")
            query = "SELECT number, before, after FROM stock_events WHERE cut = :cut ORDER BY id DESC"
            for number, before, after in connection.execute(query, {"cut": cut}).fetchall():
                was, became = _loaded(before), _loaded(after)
                if became is not None and _read(connection, number) != became:
                    raise WorkshopError(
                        f"Film {number} was changed after the cut, so the cut can't be undone; correct it by hand."
                    )
                if was is None and became is not None:
                    _remove(connection, became, "cut undone", None)
                elif was is not None:
                    _update(connection, was, "put back", "cut undone", became, None)


class Change(Frozen):
    """What a cut did to one item: what is left of it (None: nothing), and what else was put on the shelf.

    ``before`` is how it was when the cut was planned, where that is known.
    """

    number: int
    before: StockItem | None = None
    after: StockItem | None = None
    leftovers: tuple[StockItem, ...] = ()


def _now() -> str:
    return datetime.datetime.now(datetime.UTC).isoformat(timespec="seconds")


def stock_item(fields: dict[str, Any]) -> StockItem:
    """Return an item of these fields. Raises :class:`WorkshopError` that says what can't be."""
    try:
        return StockItem.model_validate(fields)
    except ValidationError as error:
        first = error.errors()[0]
        where = " ".join(map(str, first["loc"])) or "item"
        raise WorkshopError(f"Film in stock can't be so: {where}: {first['msg']}; type another value.") from None


def _refuse_changed(now: StockItem, seen: StockItem | None) -> None:
    """Raise where film is not as it was seen; where it lies and what is noted or paid of it may change."""
    if seen is None:
        return
    for name, called in FILM.items():
        was, has = getattr(seen, name), getattr(now, name)
        if was != has:
            told = f": {was} then, {has} now" if isinstance(was, str | int | float) else ""
            raise WorkshopError(
                f"Film {now.number} was changed meanwhile ({called}{told}), so nothing was written; look at it and "
                "plan again with what is there."
            )


def _loaded(text: str | None) -> StockItem | None:
    return None if text is None else StockItem.model_validate_json(text)


def _item(row: tuple[int, str]) -> StockItem:
    return StockItem.model_validate({**json.loads(row[1]), "number": row[0]})


def _on_shelf(connection: Connection) -> list[StockItem]:
    rows = connection.execute("SELECT number, item FROM stock WHERE NOT gone ORDER BY number").fetchall()
    found = []
    for row in rows:
        try:
            found.append(_item(row))
        except (ValidationError, ValueError):
            raise WorkshopError(
                f"Film {row[0]} in the workshop can't be read; put a backup in its place (zinnet stock restore)."
            ) from None
    return found


def _read(connection: Connection, number: int) -> StockItem:
    query = "SELECT number, item FROM stock WHERE number = :number AND NOT gone"
    row = connection.execute(query, {"number": number}).fetchone()
    if row is None:
        raise WorkshopError(f"There is no film {number} on the shelf; look at the list of the stock.")
    return _item(row)


def _insert(connection: Connection, item: StockItem, said: str, cut: int | None) -> StockItem:
    made = connection.execute(
        "INSERT INTO stock (film, kind, item, gone) VALUES (:film, :kind, :item, 0)",
        {"film": item.film, "kind": item.kind, "item": item.model_dump_json()},
    )
    numbered = item.model_copy(update={"number": int(made.lastrowid or 0)})
    _write(connection, numbered, gone=False)
    _note(connection, numbered.number, "added", said, None, numbered, cut)
    return numbered


def _update(
    connection: Connection, after: StockItem, what: str, said: str, before: StockItem | None, cut: int | None
) -> None:
    _write(connection, after, gone=False)
    _note(connection, after.number, what, said, before, after, cut)


def _remove(connection: Connection, item: StockItem, said: str, cut: int | None) -> None:
    _write(connection, item, gone=True)
    _note(connection, item.number, "taken out", said, item, None, cut)


def _write(connection: Connection, item: StockItem, *, gone: bool) -> None:
    connection.execute(
        "UPDATE stock SET film = :film, kind = :kind, item = :item, gone = :gone WHERE number = :number",
        {
            "film": item.film,
            "kind": item.kind,
            "item": item.model_dump_json(),
            "gone": gone,
            "number": item.number,
        },
    )


def _note(
    connection: Connection,
    number: int,
    what: str,
    said: str,
    before: StockItem | None,
    after: StockItem | None,
    cut: int | None,
) -> None:
    connection.execute(
        "INSERT INTO stock_events (number, at, what, said, before, after, cut) "
        "VALUES (:number, :at, :what, :said, :before, :after, :cut)",
        {
            "number": number,
            "at": _now(),
            "what": what,
            "said": said,
            "before": None if before is None else before.model_dump_json(),
            "after": None if after is None else after.model_dump_json(),
            "cut": cut,
        },
    )


def _close(connection: Connection, cut: int, state: str) -> None:
    done = connection.execute(
        "UPDATE cuts SET state = :state WHERE id = :cut AND state = 'open'", {"state": state, "cut": cut}
    )
    if done.rowcount != 1:
        raise WorkshopError(f"Cut {cut} is not open: it was confirmed or undone before.")
