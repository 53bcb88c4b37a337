"""What a job costs: film that is used up, blanks, cover sheets, hours by stage, machines, misprints; and its price."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction
from functools import cached_property

from zinnet.base.units import write_seconds
from zinnet.blanks.catalogue import blank_kind
from zinnet.plan.model import Facts
from zinnet.pressing.recipes import Pressed
from zinnet.pressing.schedule.model import Task
from zinnet.pressing.schedule.tasks import tasks_of
from zinnet.shop.film_cost import FilmCost, film_costs, not_whole
from zinnet.shop.sums import (
    Item,
    Line,
    Priced,
    price,
)
from zinnet.workshop.price_list import PriceList, to_cent

HOUR_S = 3600
PERCENT = 100
SCALE = 1_000_000


@dataclass(frozen=True)
class Stage:
    """A stage of the work: how long people are at it, in s, and how that is shared among the lines."""

    name: str
    seconds: float
    weights: tuple[Fraction, ...]
    said: str


@dataclass(frozen=True, eq=False)
class Costing:
    """The reckoning of a job by a price list. Garments of one size, or of one name, are a line."""

    facts: Facts
    prices: PriceList

    @cached_property
    def lines(self) -> tuple[Line, ...]:
        """The lines: one for each name of the list, else one for each size."""
        facts = self.facts
        if facts.named:
            rows = [(one.words or f"no. {one.number}", one.garment, one.names.count) for one in facts.named]
            return tuple(
                Line(f"{words}, {facts.garments[garment].blank.name}", count) for words, garment, count in rows
            )
        return tuple(Line(one.blank.name, one.copies) for one in facts.garments if one.copies)

    @cached_property
    def _garments(self) -> tuple[int, ...]:
        """Which size each line is of."""
        if self.facts.named:
            return tuple(one.garment for one in self.facts.named)
        return tuple(k for k, one in enumerate(self.facts.garments) if one.copies)

    @cached_property
    def priced(self) -> Priced:
        """The price."""
        spec = self.facts.job.price
        mark_up = self.prices.mark_up_percent if spec.mark_up_percent is None else spec.mark_up_percent
        tax = self.prices.tax_percent if spec.tax_percent is None else spec.tax_percent
        material = (*self._films(), *self._blanks(), *self._covers())
        items = (*material, *self._hours(), *self._machines(), *self._misprints(material))
        return price(tuple(item for item in items if item.amount), self.lines, mark_up, tax)

    @cached_property
    def films(self) -> tuple[FilmCost, ...]:
        """What each film costs."""
        return film_costs(self.facts, self.prices)

    @cached_property
    def not_whole(self) -> str:
        """What is missing of a job that is not planned whole, in a sentence; of one that is, nothing."""
        return not_whole(self.facts)

    # what goes into it

    def _films(self) -> Iterator[Item]:
        """Film by what is used up: what is taken and not put back; its waste is shared by area."""
        for cost in self.films:
            yield Item("film", cost.ledger.name, cost.basis, cost.amount, self._areas(cost.ledger.film))

    def _areas(self, film: str | None = None) -> tuple[Fraction, ...]:
        """Return how much of a film, or of all, ends on the garments of each line, in mm2."""
        found = [0.0] * len(self.lines)
        for nest in self.facts.nests:
            for part in nest.parts if film in (None, nest.film.id) else ():
                for row, garment in enumerate(self._garments):
                    mine = part.row == row if part.row is not None else part.garment == garment
                    found[row] += part.region.area * len(part.places) * self.lines[row].count if mine else 0.0
        return tuple(_exact(area) for area in found)

    def _blanks(self) -> Iterator[Item]:
        asked = self.facts.job.price.blank
        kind = self.facts.job.blank.kind
        each = self.prices.blank_price(kind) if asked is None else asked
        count = sum(line.count for line in self.lines)
        several = len(self.facts.garments) > 1
        name = blank_kind(kind).name if several else self.facts.blank.name
        yield Item("blanks", name, f"{count} at {each:.2f}", to_cent(each * count), self._counts())

    def _counts(self) -> tuple[Fraction, ...]:
        return tuple(Fraction(line.count) for line in self.lines)

    def _covers(self) -> Iterator[Item]:
        """Cover sheets wear out with the presses that need one."""
        presses = self._by_garment(
            lambda garment: sum(bool(step.cover) and not step.reused for step in self.facts.presses[garment].presses)
        )
        count = sum(int(one) for one in presses)
        each = self.prices.cover_sheet / self.prices.cover_sheet_uses
        basis = f"{count} presses, {self.prices.cover_sheet:.2f} for {self.prices.cover_sheet_uses}"
        yield Item("cover sheets", "Cover sheets", basis, to_cent(each * count), presses)

    @cached_property
    def stages(self) -> tuple[Stage, ...]:
        """The hours of people, stage by stage."""
        return tuple(self._stages())

    def _stages(self) -> Iterator[Stage]:
        times = self.prices.time
        cut_s = sum(load.duration().seconds for load in self.facts.loads)
        mats = len(self.facts.loads)
        watched = mats * times.mat_s + times.attended_share * cut_s
        yield Stage("Preparing", times.job_s, self._counts(), "a job")
        loaded = f"{mats} {'mat' if mats == 1 else 'mats'}, and a look at the cutter"
        yield Stage("Loading and cutting", watched, self._areas(), loaded)
        weeded = self._weeded()
        yield Stage("Weeding", float(sum(weeded)), weeded, "all waste of all pieces")
        pressed = self._by_garment(lambda garment: sum(task.load("person") for task in self._tasks[garment]))
        yield Stage("Pressing", float(sum(pressed)), pressed, "hands, for all garments")

    def _hours(self) -> Iterator[Item]:
        asked = self.facts.job.price.hour
        rate = self.prices.hour if asked is None else asked
        for stage in self.stages:
            amount = to_cent(rate * _decimal(stage.seconds) / HOUR_S)
            basis = f"{write_seconds(stage.seconds)} ({stage.said}) at {rate:.2f} an hour"
            yield Item("time", stage.name, basis, amount, stage.weights)

    @cached_property
    def _tasks(self) -> tuple[tuple[Task, ...], ...]:
        return tuple(tasks_of(press.steps) for press in self.facts.presses)

    def _machines(self) -> Iterator[Item]:
        cut_s = sum(load.duration().seconds for load in self.facts.loads)
        pressed = self._by_garment(lambda garment: sum(task.load("press") for task in self._tasks[garment]))
        press_s = float(sum(pressed))
        for name, seconds, rate, weights in (
            ("Cutter", cut_s, self.prices.cutter_hour, self._areas()),
            ("Press", press_s, self.prices.press_hour, pressed),
        ):
            amount = to_cent(rate * _decimal(seconds) / HOUR_S)
            yield Item("machines", name, f"{write_seconds(seconds)} at {rate:.2f} an hour", amount, weights)

    def _misprints(self, material: Sequence[Item]) -> Iterator[Item]:
        percent, said = self.misprint
        spoiled = sum((item.amount for item in material), Decimal(0))
        weights = tuple(
            sum(
                (Fraction(item.amount) * item.weights[row] / (sum(item.weights) or 1) for item in material), Fraction(0)
            )
            for row in range(len(self.lines))
        )
        basis = f"{percent:f} % of film, blanks and cover sheets ({said})"
        yield Item("misprints", "Misprints", basis, to_cent(spoiled * percent / PERCENT), weights)

    @property
    def misprint(self) -> tuple[Decimal, str]:
        """How many in a hundred are spoiled, and who says so: the job, the log, or the price list."""
        asked = self.facts.job.price.misprint_percent
        if asked is not None:
            return asked, "set for this job"
        log: Sequence[Pressed] = self.facts.workshop.pressed
        if len(log) < self.prices.misprint_least:
            return self.prices.misprint_percent, "typical"
        failed = sum(not one.worked for one in log)
        return round(Decimal(failed) * PERCENT / len(log), 1), f"{failed} of {len(log)} in the log"

    def _by_garment(self, amount: Callable[[int], float]) -> tuple[Fraction, ...]:
        """Return an amount for each line, of all its garments."""
        each = [amount(garment) for garment in range(len(self.facts.garments))]
        return tuple(
            _exact(each[garment]) * line.count for line, garment in zip(self.lines, self._garments, strict=True)
        )

    def _weeded(self) -> tuple[Fraction, ...]:
        """Return how long each line is weeded, in s."""
        found = [Fraction(0)] * len(self.lines)
        for row, garment in enumerate(self._garments):
            same = self.facts.garments[garment].same
            named = self.facts.named[row] if self.facts.named else None
            taken = named.taken if named is not None else frozenset()
            designs = [composed for number, composed in enumerate(same) if number not in taken]
            designs += named.compositions if named is not None else ()
            for design in designs:
                places = len(design.placement.matrices) if design.placement is not None else 0
                for layer in design.layers:
                    if layer.film is not None and not layer.layer.region.is_empty:
                        found[row] += _exact(design.weeds(layer).seconds) * places * self.lines[row].count
        return tuple(found)


def _decimal(number: float) -> Decimal:
    return Decimal(repr(number))


def _exact(number: float) -> Fraction:
    return Fraction(repr(float(number)))
