"""What an order needs: garments and film against what is there, what is to be bought, and when it can be done."""

import datetime
import math
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property
from typing import Any

from zinnet.base.units import (
    write_area,
    write_seconds,
)
from zinnet.blanks.catalogue import blank_kind, size_of, sizes
from zinnet.blanks.cloth_colours import colour_called
from zinnet.job.order import OrderLine
from zinnet.plan.model import Facts
from zinnet.plan.press_cards import quick_schedule
from zinnet.plan.presses import day_before, day_before_said
from zinnet.plan.run_garments import by_size
from zinnet.pressing.schedule.tasks import team_of
from zinnet.shop.costing import HOUR_S, Costing
from zinnet.shop.film_cost import film_price_m2
from zinnet.shop.film_need import FilmNeed, film_needs, missing_said
from zinnet.workshop.price_list import to_cent

SCALE = 1_000_000


@dataclass(frozen=True)
class GarmentNeed:
    """Garments of a kind, size and colour: how many are asked for, and how many are there."""

    kind: str
    line: OrderLine
    there: int

    @property
    def to_buy(self) -> int:
        """How many are missing."""
        return max(0, self.line.count - self.there)

    @property
    def in_words(self) -> str:
        """Kind, size and colour in words."""
        colour = self.line.name or colour_called(self.line.colour)
        return f"{blank_kind(self.kind).name}, {sizes()[self.line.size].name}, {colour}"


@dataclass(frozen=True)
class Bought:
    """One line of the shopping list: what, how much, and about what it costs."""

    what: str
    amount: str
    cost: Decimal


@dataclass(frozen=True)
class Span:
    """A part of the work and how long it takes by the clock, in s."""

    name: str
    seconds: float


@dataclass(frozen=True, eq=False)
class Ordered:
    """An order against the shelf and the calendar."""

    costing: Costing

    @property
    def facts(self) -> Facts:
        """The facts of the job."""
        return self.costing.facts

    # garments and film

    @cached_property
    def lines(self) -> tuple[OrderLine, ...]:
        """The lines of the order; of an order without, each size in the colour of the blank."""
        job, facts = self.facts.job, self.facts
        if job.order.lines:
            return job.order.lines
        own = size_of(job.blank)
        return tuple(
            OrderLine(size=one.size or own, colour=facts.blank.colour, count=one.copies)
            for one in facts.garments
            if one.copies
        )

    @property
    def remarks(self) -> tuple[str, ...]:
        """Where the job is not whole, or does not make what was ordered, in words."""
        made = {one.size or size_of(self.facts.job.blank): one.copies for one in self.facts.garments}
        asked = self.facts.job.order.counts()
        counts = (
            f"Size {sizes()[size].name}: {asked.get(size, 0)} ordered, the job makes {made.get(size, 0)}."
            for size in dict.fromkeys((*asked, *made))
            if asked and asked.get(size, 0) != made.get(size, 0)
        )
        short = self.costing.not_whole if self.facts.is_nested else ""
        return (*([short] if short else []), *counts)

    @cached_property
    def garments(self) -> tuple[GarmentNeed, ...]:
        """The garments of each line against the shelf; lines that ask for the same share what is there."""
        kind = self.facts.job.blank.kind
        left = {(one.size, one.colour): one.count for one in self.facts.workshop.garments if one.kind == kind}
        found = []
        for line in self.lines:
            there = min(line.count, left.get((line.size, line.colour), 0))
            left[line.size, line.colour] = left.get((line.size, line.colour), 0) - there
            found.append(GarmentNeed(kind, line, there))
        return tuple(found)

    @cached_property
    def films(self) -> tuple[FilmNeed, ...]:
        """Each film against the shelf."""
        return film_needs(self.facts)

    @cached_property
    def shopping(self) -> tuple[Bought, ...]:
        """What is to be bought."""
        return tuple(self._shopping())

    def _shopping(self) -> Iterator[Bought]:
        prices, spec, unit = self.costing.prices, self.facts.job.price, self.facts.job.unit
        each = prices.blank_price(self.facts.job.blank.kind) if spec.blank is None else spec.blank
        for need in self.garments:
            if need.to_buy:
                yield Bought(need.in_words, str(need.to_buy), to_cent(each * need.to_buy))
        for film in self.films:
            if film.missing_mm:
                price_m2 = film_price_m2(film.film, prices)
                cost = price_m2 * Decimal(repr(film.missing_mm * film.width_mm / SCALE))
                yield Bought(film.film.name, missing_said(film, unit), to_cent(cost))

    # the calendar

    @cached_property
    def spans(self) -> tuple[Span, ...]:
        """The parts of the work one after another, by the clock; the press by a schedule that is made quickly."""
        facts, times, press = self.facts, self.costing.prices.time, self.facts.job.pressing
        stages = {stage.name: stage.seconds for stage in self.costing.stages}
        cut_s = sum(load.duration().seconds for load in facts.loads)
        team = team_of(press.presses, press.people, press.cooling)
        return (
            Span("Preparing", stages["Preparing"]),
            Span("Loading and cutting", len(facts.loads) * times.mat_s + cut_s),
            Span("Weeding", stages["Weeding"] / press.people),
            Span("Pressing", float(quick_schedule(by_size(facts.presses), team).total_s)),
        )

    @property
    def total_s(self) -> float:
        """How long all of it takes by the clock."""
        return sum(span.seconds for span in self.spans)

    @property
    def day_h(self) -> float:
        """How many hours of a day are worked at it."""
        asked = self.facts.job.order.day_h
        return self.costing.prices.time.day_h if asked is None else asked

    @property
    def days(self) -> int:
        """On how many days it is worked at."""
        return max(1, math.ceil(self.total_s / HOUR_S / self.day_h - 1e-9))

    @property
    def begin(self) -> datetime.date | None:
        """The last day on which it can be begun; the day on which it is due is not worked."""
        due = self.facts.job.order.due
        ahead = 1 if day_before(self.facts.presses) else 0
        return None if due is None else due - datetime.timedelta(days=self.days + ahead)

    def spare_days(self, today: datetime.date) -> int | None:
        """Return how many days are to spare from today; below 0 it comes too late."""
        return None if self.begin is None else (self.begin - today).days

    def due_said(self, today: datetime.date) -> str:
        """Return in words whether it can be done in time."""
        before = day_before_said(self.facts.presses)
        work = f"{write_seconds(self.total_s)} of work, {_days(self.days)} at {self.day_h:g} h a day"
        work = f"{before} {work}" if before else work
        spare, order = self.spare_days(today), self.facts.job.order
        if spare is None or order.due is None:
            return f"{work}; no due date is set."
        if spare < 0:
            return (
                f"{work}: {_days(-spare)} too late for {order.due.isoformat()}. Begin at once, and work longer days, "
                "with a second person, or on another date."
            )
        begun = "today" if spare == 0 else f"on {self.begin}"
        return f"{work}: done by {order.due.isoformat()} where it is begun {begun} at the latest."


def needs_table(ordered: Ordered) -> list[tuple[str, str, str, str]]:
    """Return what is needed, what is there and what is to be bought, line by line in words."""
    unit = ordered.facts.job.unit
    rows = [(one.in_words, str(one.line.count), str(one.there), str(one.to_buy or "")) for one in ordered.garments]
    for film in ordered.films:
        lacking = missing_said(film, unit) if film.missing_mm else ""
        taken, there = (write_area(area, unit=unit) for area in (film.taken_mm2, film.there_mm2))
        rows.append((film.film.name, taken, there, lacking))
    return rows


def order_json(ordered: Ordered, today: datetime.date) -> dict[str, Any]:
    """Return the order as JSON."""
    order = ordered.facts.job.order
    return {
        "title": ordered.facts.job.title,
        "customer": order.customer,
        "garments": [one.line.model_dump() | {"there": one.there, "to_buy": one.to_buy} for one in ordered.garments],
        "films": [
            {
                "film": one.film.name,
                "taken_mm2": round(one.taken_mm2, 1),
                "there_mm2": round(one.there_mm2, 1),
                "roll_mm": one.width_mm,
                "missing_mm": one.missing_mm,
                "exact": one.exact,
            }
            for one in ordered.films
        ],
        "shopping": [{"what": one.what, "amount": one.amount, "cost": str(one.cost)} for one in ordered.shopping],
        "work": [{"name": one.name, "seconds": round(one.seconds, 1)} for one in ordered.spans],
        "days": ordered.days,
        "due": None if order.due is None else order.due.isoformat(),
        "begin": None if ordered.begin is None else ordered.begin.isoformat(),
        "spare_days": ordered.spare_days(today),
        "said": ordered.due_said(today),
        "remarks": list(ordered.remarks),
    }


def _days(count: int) -> str:
    return "1 day" if count == 1 else f"{count} days"
