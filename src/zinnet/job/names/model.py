"""A list of names as a value: columns, rows, and the field that words are fitted to."""

from typing import Literal, Self

from pydantic import Field, model_validator

from zinnet.base.errors import ZinnetError
from zinnet.base.frozen import Frozen

MOST_ROWS = 2000
MOST_COLUMNS = 12
MOST_LETTERS = 200
Sizing = Literal["one size", "each its own"]


class NameRow(Frozen):
    """One row: what stands in each column, and the garments that it is for.

    ``size`` None is the job's own size. ``colour`` is that of the film, where it is not the text's own.
    """

    values: tuple[str, ...]
    size: str | None = None
    colour: str | None = Field(default=None, pattern="^#[0-9a-f]{6}$")
    count: int = Field(default=1, ge=1, le=1000)


class NameField(Frozen):
    """The field of a design that words are fitted to, in mm; None where it follows the design's place."""

    design: int = Field(ge=0)
    width_mm: float | None = Field(default=None, gt=0, le=100_000)
    height_mm: float | None = Field(default=None, gt=0, le=100_000)
    sizing: Sizing = "one size"


class NameList(Frozen):
    """The columns, the rows, and how words are fitted. Without rows there is no list."""

    columns: tuple[str, ...] = Field(default=(), max_length=MOST_COLUMNS)
    rows: tuple[NameRow, ...] = Field(default=(), max_length=MOST_ROWS)
    fields: tuple[NameField, ...] = ()

    @model_validator(mode="after")
    def _whole_rows(self) -> Self:
        if any(len(row.values) != len(self.columns) for row in self.rows):
            raise ValueError("every row has as many values as there are columns")
        if any(len(value) > MOST_LETTERS for row in self.rows for value in row.values):
            raise ValueError(f"a value has at most {MOST_LETTERS} letters")
        return self

    def field(self, design: int) -> NameField:
        """Return the field of a design."""
        return next((one for one in self.fields if one.design == design), NameField(design=design))

    def value(self, row: NameRow, column: str) -> str:
        """Return what stands in a column of a row. Raises :class:`ZinnetError` where there is no such column."""
        wanted = _folded(column)
        for name, value in zip(self.columns, row.values, strict=True):
            if _folded(name) == wanted:
                return value
        raise ZinnetError(
            f"The list of names has no column “{column}”; it has: {', '.join(self.columns)}. Change the word in braces."
        )

    def count_of(self, size: str | None, own: str | None) -> int:
        """Return how many garments of a size there are; ``own`` is the size that rows without one are for."""
        return sum(row.count for row in self.rows if (row.size or own) == size)


def _folded(text: str) -> str:
    return " ".join(text.split()).casefold()
