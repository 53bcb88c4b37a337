"""The workshop: what is in stock. For now the catalogue's films; the shelf as it really is comes with it."""

from zinnet.layers.films import Film, catalogue_films
from zinnet.model import Frozen


class Workshop(Frozen):
    """What the user works with."""

    films: tuple[Film, ...]

    def film(self, film_id: str) -> Film | None:
        """Return a film by its id, or None where it is not in stock."""
        return next((film for film in self.films if film.id == film_id), None)


def standard_workshop() -> Workshop:
    """Return the workshop that everybody begins with."""
    return Workshop(films=catalogue_films())
