"""What was pressed, written into the books: the job, what is said of it, and film by film how it was pressed."""

import datetime
from collections.abc import Mapping, Sequence

from zinnet.bench.made import made_of
from zinnet.bench.run_record import in_words
from zinnet.job.file import packed_job
from zinnet.plan.model import Plan
from zinnet.plan.press_cards import Card
from zinnet.plan.presses import GarmentPress
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.recipes import Pressed
from zinnet.workshop.cutbook import CutBook
from zinnet.workshop.made import MOST_NOTE
from zinnet.workshop.madebook import MadeBook
from zinnet.workshop.pressbook import PressBook
from zinnet.workshop.run_made import RunMade
from zinnet.workshop.store import WorkshopStore


def write_down(
    plan: Plan,
    cards: Sequence[Card],
    record: RunMade,
    store: WorkshopStore,
    *,
    worked: bool,
    lifted: Mapping[str, int] | None = None,
) -> str:
    """Write what was pressed into the books: the job, its run, film by film; return when it was done.

    ``lifted`` says of films how often they came up with their carrier and were pressed again.
    """
    at = datetime.datetime.now().astimezone().isoformat(timespec="minutes")
    said = in_words(record)
    CutBook(store).log(plan.job.title, "press", said or "pressed")
    lost = sum(bool(garment.spoiled) for garment in record.garments)
    made = made_of(
        plan,
        verdict="spoiled" if not worked else "usable" if lost else "good",
        note=said[:MOST_NOTE],
        spoiled=lost,
        run=record,
    )
    entry = MadeBook(store).record(made, packed_job(plan.job, plan.layouts))
    presses = tuple({id(card.press): card.press for card in cards}.values())
    record_pressed(presses, store, worked=worked, lifted=lifted or {}, made=entry.number)
    return at


def record_pressed(
    presses: Sequence[GarmentPress], store: WorkshopStore, *, worked: bool, lifted: Mapping[str, int], made: int
) -> None:
    """Write down film by film how it was pressed and what became of it."""
    book = PressBook(store)
    seen: set[tuple[str, str]] = set()
    for press in presses:
        for work in press.works:
            for piece in work.pieces:
                setting = piece.setting
                about = (piece.film.id, work.fabric.name if work.fabric is not None else "")
                if setting is None or about in seen:
                    continue
                seen.add(about)
                book.record(
                    Pressed(
                        film=piece.film.id,
                        kind=piece.film.kind,
                        fabric=about[1],
                        heat_source=work.heat_source,
                        school=setting.recipe.school,
                        heat_c=setting.heat_c,
                        seconds=setting.full_s,
                        worked=worked,
                        lifted=lifted.get(piece.film.id, 0),
                        more_s=lifted.get(piece.film.id, 0) * press_numbers().times.lifts_s,
                        made=made,
                    )
                )
