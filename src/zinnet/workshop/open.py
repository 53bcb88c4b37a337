"""Opening the workshop: what ships with Zinnet, with the user's own habits."""

from zinnet.workshop import Workshop, standard_workshop
from zinnet.workshop.films import films_in_stock
from zinnet.workshop.settings import read_habits


def open_workshop() -> Workshop:
    """Return the user's workshop. Raises a :class:`ZinnetError` where its files can't be made sense of."""
    return standard_workshop().model_copy(update={"habits": read_habits(), "films": films_in_stock()})
