"""Opening the workshop: what ships with Zinnet, with the user's own habits."""

from collections.abc import Callable, Sequence
from typing import Any

from zinnet.base.errors import ZinnetError
from zinnet.blanks.catalogue import read_blank_kinds
from zinnet.films.own import films_in_stock
from zinnet.machines.cutters import read_machines
from zinnet.machines.platens import read_presses
from zinnet.pressing.recipes import Pressed
from zinnet.workshop.blank_stock import BlankStock
from zinnet.workshop.cutbook import CutBook
from zinnet.workshop.habits import read_habits
from zinnet.workshop.made import Made
from zinnet.workshop.madebook import MadeBook
from zinnet.workshop.model import Workshop, standard_workshop
from zinnet.workshop.own_limits import read_limits
from zinnet.workshop.pressbook import PressBook
from zinnet.workshop.prices import read_prices
from zinnet.workshop.stock import Stock, StockItem
from zinnet.workshop.store import WorkshopStore

SETTINGS: dict[str, Callable[[], Any]] = {
    "habits": read_habits,
    "films": films_in_stock,
    "machines": read_machines,
    "blanks": read_blank_kinds,
    "presses": read_presses,
    "limits": read_limits,
    "prices": read_prices,
}
"""What of a workshop the user says in files of the configuration folder."""
BOOKS = ("stock", "tests", "blades", "recipes", "pressed", "hem_tests", "made", "garments")
"""What of a workshop is held in its file."""


def open_workshop() -> Workshop:
    """Return the user's workshop. Raises a :class:`ZinnetError` where its files can't be made sense of."""
    return with_books(open_settings(), WorkshopStore())


def books_of(store: WorkshopStore) -> dict[str, Any]:
    """Return what a workshop's file holds, by the names of the workshop's fields; nothing where there is no file."""
    if not store.path.exists():
        return dict.fromkeys(BOOKS, ())
    cuts, presses, made = CutBook(store), PressBook(store), tuple(MadeBook(store).entries())
    return {
        "stock": shelf_of(store),
        "tests": cuts.tests(),
        "blades": cuts.blades(),
        "recipes": presses.recipes(),
        "pressed": with_washes(presses.results(), made),
        "hem_tests": presses.hem_tests(),
        "made": made,
        "garments": BlankStock(store).items(),
    }


def with_washes(pressed: Sequence[Pressed], made: Sequence[Made]) -> tuple[Pressed, ...]:
    """Return what was pressed with what is said of it since in the log: washes, and whether it was lost after all."""
    since = {one.number: one for one in made}
    return tuple(
        one
        if one.made not in since
        else one.model_copy(
            update={
                "washes": since[one.made].washes,
                "worked": one.worked if since[one.made].verdict is None else since[one.made].verdict != "spoiled",
            }
        )
        for one in pressed
    )


def with_books(workshop: Workshop, store: WorkshopStore) -> Workshop:
    """Return the workshop with what its file holds."""
    return workshop.model_copy(update=books_of(store))


def open_settings() -> Workshop:
    """Return the user's workshop without what is on the shelf, which takes longer to read."""
    return standard_workshop().model_copy(update={name: read() for name, read in SETTINGS.items()})


def readable_settings() -> tuple[dict[str, Any], list[str]]:
    """Return what can be read of the user's settings, and a sentence about each file that can't."""
    found, refused = {}, []
    for name, read in SETTINGS.items():
        try:
            found[name] = read()
        except ZinnetError as error:
            refused.append(str(error))
    return found, refused


def shelf_of(store: WorkshopStore) -> tuple[StockItem, ...]:
    """Return what is on the shelf; a workshop that was never used has no file, and none is made for it."""
    return tuple(Stock(store).items()) if store.path.exists() else ()
