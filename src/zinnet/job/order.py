"""An order as a value: so many garments of each size and colour, for whom, and until when."""

import datetime

from pydantic import Field

from zinnet.base.frozen import Frozen

MOST_LINES = 200
FIRST_DAY, LAST_DAY = datetime.date(2000, 1, 1), datetime.date(2999, 12, 31)


class OrderLine(Frozen):
    """So many garments of a size in a colour; ``name`` is what the shop calls the colour."""

    size: str = Field(min_length=1, max_length=60)
    colour: str = Field(pattern="^#[0-9a-f]{6}$")
    name: str = Field(default="", max_length=60)
    count: int = Field(ge=1, le=1000)


class Order(Frozen):
    """What was ordered. Without lines every size has the colour of the blank, and the count that the job says.

    ``day_h`` is how many hours of a day are worked at it; None: as the price list says.
    """

    customer: str = Field(default="", max_length=200)
    due: datetime.date | None = Field(default=None, ge=FIRST_DAY, le=LAST_DAY)
    day_h: float | None = Field(default=None, gt=0, le=24)
    lines: tuple[OrderLine, ...] = Field(default=(), max_length=MOST_LINES)

    def counts(self) -> dict[str, int]:
        """Return how many garments of each size the lines ask for."""
        found: dict[str, int] = {}
        for line in self.lines:
            found[line.size] = found.get(line.size, 0) + line.count
        return found
