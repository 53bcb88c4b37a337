"""The price list as a value: what the workshop pays for things and hours. Money is decimal, to the cent."""

from decimal import ROUND_HALF_UP, Decimal
from typing import Annotated

from pydantic import Field

from zinnet.base.frozen import Frozen
from zinnet.data import read_toml

CENT = Decimal("0.01")
Money = Annotated[Decimal, Field(ge=0, le=1_000_000)]
Percent = Annotated[Decimal, Field(ge=0, le=1000)]


def to_cent(amount: Decimal) -> Decimal:
    """Return an amount of money rounded to the cent, half a cent up."""
    return amount.quantize(CENT, ROUND_HALF_UP)


class StageTimes(Frozen):
    """Time besides what is planned, in s: for a job, for each mat; and the share of cutting that is watched.

    ``day_h`` is how many hours of a day are worked at a job.
    """

    job_s: float = Field(ge=0, le=1e6)
    mat_s: float = Field(ge=0, le=1e6)
    attended_share: float = Field(ge=0, le=1)
    day_h: float = Field(gt=0, le=24)
    source: str = ""


class PriceList(Frozen):
    """What things and hours cost. ``blanks`` are prices by kind of blank; ``blank`` is that of any other.

    ``misprint_percent`` holds until so many (``misprint_least``) are in the log.
    """

    currency: str = Field(min_length=1, max_length=8)
    source: str = ""
    hour: Money
    film_m2: Money
    blank: Money
    cover_sheet: Money
    cover_sheet_uses: int = Field(ge=1, le=10_000)
    cutter_hour: Money
    press_hour: Money
    misprint_percent: Percent
    misprint_least: int = Field(ge=1, le=100_000)
    mark_up_percent: Percent
    tax_percent: Percent
    time: StageTimes
    blanks: dict[str, Money] = {}

    def __hash__(self) -> int:
        """Return a hash by what is most often changed; equal lists have equal ones."""
        return hash((self.currency, self.hour, self.film_m2, self.blank, tuple(sorted(self.blanks.items()))))

    def blank_price(self, kind: str) -> Decimal:
        """Return what a blank of a kind costs."""
        return self.blanks.get(kind, self.blank)


def usual_prices() -> PriceList:
    """Return the prices that ship with Zinnet."""
    return PriceList.model_validate(decimals(read_toml("prices")))


def decimals(data: object) -> object:
    """Return data with its numbers as they are written, not as the nearest binary fraction."""
    if isinstance(data, dict):
        return {key: decimals(value) for key, value in data.items()}
    return Decimal(str(data)) if isinstance(data, float) else data
