"""The book of pressing: makers' sheets, the user's own recipes, and what became of what was pressed."""

import datetime

from pydantic import ValidationError

from zinnet.pressing.hem_test import HemTest
from zinnet.pressing.recipes import KeptRecipe, Pressed
from zinnet.workshop.store import WorkshopStore


class PressBook:
    """Recipes and results of pressing in a workshop."""

    def __init__(self, store: WorkshopStore) -> None:
        self._store = store

    def recipes(self) -> tuple[KeptRecipe, ...]:
        """Return all kept recipes, the latest first; one that can't be read any more is left out."""
        return _read(KeptRecipe, self._rows("SELECT recipe FROM recipes ORDER BY id DESC"))

    def results(self) -> tuple[Pressed, ...]:
        """Return what was pressed, the earliest first."""
        return _read(Pressed, self._rows("SELECT pressed FROM pressed ORDER BY id"))

    def hem_tests(self) -> tuple[HemTest, ...]:
        """Return all hem tests, the earliest first."""
        return _read(HemTest, self._rows("SELECT test FROM hem_tests ORDER BY id"))

    def keep_test(self, test: HemTest) -> HemTest:
        """Keep a hem test with the date and return it; the one before of the same cloth, film and source goes."""
        dated = test.model_copy(update={"at": test.at or _now()})
        row = {"fabric": dated.fabric, "kind": dated.kind, "source": dated.heat_source, "test": dated.model_dump_json()}
        with self._store.change() as connection:
            connection.execute(
                "DELETE FROM hem_tests WHERE fabric = :fabric AND kind = :kind AND heat_source = :source", row
            )
            connection.execute(
                "INSERT INTO hem_tests (fabric, kind, heat_source, test) VALUES (:fabric, :kind, :source, :test)", row
            )
        return dated

    def _rows(self, query: str) -> list[str]:
        with self._store.open() as connection:
            return [row for (row,) in connection.execute(query)]

    def keep(self, kept: KeptRecipe) -> None:
        """Keep a recipe; the one before of the same film, fabric, source of heat and origin is replaced."""
        row = {
            "film": kept.film,
            "fabric": kept.fabric,
            "heat_source": kept.heat_source,
            "origin": kept.recipe.origin,
            "recipe": kept.model_dump_json(),
        }
        same = "film = :film AND fabric IS :fabric AND heat_source IS :heat_source AND origin = :origin"
        with self._store.change() as connection:
            connection.execute(f"DELETE FROM recipes WHERE {same}", row)
            connection.execute(
                "INSERT INTO recipes (film, fabric, heat_source, origin, recipe) "
                "VALUES (:film, :fabric, :heat_source, :origin, :recipe)",
                row,
            )

    def drop(self, film: str, origin: str) -> None:
        """Take the kept recipes of a film and an origin out."""
        with self._store.change() as connection:
            connection.execute(
                "DELETE FROM recipes WHERE film = :film AND origin = :origin", {"film": film, "origin": origin}
            )

    def record(self, pressed: Pressed) -> Pressed:
        """Write down with the date what became of a film, and return it."""
        dated = pressed.model_copy(update={"at": _now()})
        with self._store.change() as connection:
            connection.execute(
                "INSERT INTO pressed (at, film, pressed) VALUES (:at, :film, :pressed)",
                {"at": dated.at, "film": dated.film, "pressed": dated.model_dump_json()},
            )
        return dated


def _now() -> str:
    return datetime.datetime.now(datetime.UTC).isoformat(timespec="seconds")


def _read[T: (KeptRecipe, Pressed, HemTest)](model: type[T], rows: list[str]) -> tuple[T, ...]:
    """Return rows as values; those that can't be read any more are left out."""
    found: list[T] = []
    for row in rows:
        try:
            found.append(model.model_validate_json(row))
        except ValidationError:
            continue
    return tuple(found)
