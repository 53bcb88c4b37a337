"""The garments on the shelf: how many of each kind, size and colour are there, not pressed yet."""

from pydantic import Field, ValidationError

from zinnet.base.frozen import Frozen
from zinnet.workshop.store import WorkshopStore


class BlankItem(Frozen):
    """Equal garments on the shelf, not pressed yet; ``each`` is what one cost."""

    number: int = Field(default=0, ge=0)
    kind: str = Field(min_length=1, max_length=60)
    size: str = Field(min_length=1, max_length=60)
    colour: str = Field(pattern="^#[0-9a-f]{6}$")
    name: str = Field(default="", max_length=60)
    count: int = Field(ge=0, le=100_000)
    place: str = Field(default="", max_length=200)


class BlankStock:
    """The garments on the shelf of a workshop."""

    def __init__(self, store: WorkshopStore) -> None:
        self._store = store

    def items(self) -> tuple[BlankItem, ...]:
        """Return all of them by kind; what can't be read any more is left out."""
        with self._store.open() as connection:
            rows = connection.execute("SELECT number, item FROM garments ORDER BY number").fetchall()
        found = []
        for number, data in rows:
            try:
                found.append(BlankItem.model_validate_json(data).model_copy(update={"number": number}))
            except ValidationError:
                continue
        return tuple(sorted(found, key=lambda one: (one.kind, one.number)))

    def put(self, item: BlankItem) -> BlankItem:
        """Say how many of a kind, size and colour are there; what was said of the same before is replaced."""
        with self._store.change() as connection:
            row = {"kind": item.kind, "size": item.size, "colour": item.colour, "item": item.model_dump_json()}
            number = connection.execute(
                "INSERT INTO garments (kind, size, colour, item) VALUES (:kind, :size, :colour, :item) "
                "ON CONFLICT (kind, size, colour) DO UPDATE SET item = :item RETURNING number",
                row,
            ).fetchone()[0]
        return item.model_copy(update={"number": number})
