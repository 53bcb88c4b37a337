"""The user's films in a TOML file: kinds and films in the tables of the catalogue, beside it or in its place."""

from pathlib import Path

import platformdirs

from zinnet.base.errors import SettingsError, ZinnetError
from zinnet.base.own_toml import read_own_toml
from zinnet.films.catalogue import Film, catalogue_films, films_of

MOST_BYTES = 2_000_000


def films_file() -> Path:
    """Return where the user's own films lie."""
    return platformdirs.user_config_path("zinnet") / "films.toml"


def read_films(path: Path) -> tuple[Film, ...]:
    """Return the films of a file. Raises :class:`SettingsError` where it can't be made sense of."""
    try:
        found = films_of(read_own_toml(path))
    except SettingsError:
        raise
    except ZinnetError as error:
        raise SettingsError(f"{path}: {error}") from None
    if not found:
        raise SettingsError(f"{path} holds no film; add one, such as [films.my-white].")
    return found


def films_in_stock() -> tuple[Film, ...]:
    """Return the films that ship with Zinnet and the user's own; one of the same id is the user's."""
    path = films_file()
    if not path.exists():
        return catalogue_films()
    own = {film.id: film for film in read_films(path)}
    kept = [own.pop(film.id, film) for film in catalogue_films()]
    return (*kept, *own.values())
