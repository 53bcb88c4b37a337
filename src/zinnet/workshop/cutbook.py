"""The books of cutting: test cuts and what became of them, blades and their metres, and the log of what was done."""

import datetime
from typing import NamedTuple

from pydantic import ValidationError

from zinnet.cutting.settings import Blade, CutTest
from zinnet.workshop.store import WorkshopStore

MOST_SAID = 4000


class LogEntry(NamedTuple):
    """One line of the log: when, for which job, what was done, and what there is to say of it."""

    at: str
    job: str
    what: str
    said: str


class CutBook:
    """Test cuts, blades and the log in a workshop."""

    def __init__(self, store: WorkshopStore) -> None:
        self._store = store

    def tests(self) -> tuple[CutTest, ...]:
        """Return all test cuts, the earliest first; one that can't be read any more is left out."""
        with self._store.open() as connection:
            rows = connection.execute("SELECT test FROM test_cuts ORDER BY id").fetchall()
        found = []
        for (row,) in rows:
            try:
                found.append(CutTest.model_validate_json(row))
            except ValidationError:
                continue
        return tuple(found)

    def record(self, test: CutTest) -> CutTest:
        """Write a test cut down with the date, and return it."""
        dated = test.model_copy(update={"at": _now()})
        with self._store.change() as connection:
            connection.execute(
                "INSERT INTO test_cuts (at, machine, film, test) VALUES (:at, :machine, :film, :test)",
                {"at": dated.at, "machine": dated.machine, "film": dated.film, "test": dated.model_dump_json()},
            )
        return dated

    def take_back_test(self) -> None:
        """Take back the test cut that was written down last."""
        with self._store.change() as connection:
            connection.execute("DELETE FROM test_cuts WHERE id = (SELECT max(id) FROM test_cuts)")

    def blades(self) -> tuple[Blade, ...]:
        """Return all blades in the order in which they were put in."""
        with self._store.open() as connection:
            rows = connection.execute("SELECT number, machine, since, metres FROM blades ORDER BY number").fetchall()
        return tuple(Blade(number=row[0], machine=row[1], since=row[2], metres=row[3]) for row in rows)

    def put_in_blade(self, machine: str) -> Blade:
        """Write down that a new blade is in a machine."""
        at = _now()
        with self._store.change() as connection:
            number = connection.execute(
                "INSERT INTO blades (machine, since, metres) VALUES (:machine, :since, 0) RETURNING number",
                {"machine": machine, "since": at},
            ).fetchone()[0]
        return Blade(number=number, machine=machine, since=at)

    def add_metres(self, machine: str, metres: float) -> None:
        """Count metres to the blade that is in a machine; a machine that has none yet gets its first."""
        with self._store.change() as connection:
            row = {"machine": machine, "metres": max(0.0, metres), "since": _now()}
            newest = "SELECT max(number) FROM blades WHERE machine = :machine"
            changed = connection.execute(f"UPDATE blades SET metres = metres + :metres WHERE number = ({newest})", row)
            if not changed.rowcount:
                connection.execute(
                    "INSERT INTO blades (machine, since, metres) VALUES (:machine, :since, :metres)", row
                )

    def log(self, job: str, what: str, said: str) -> None:
        """Write a line of the log."""
        with self._store.change() as connection:
            connection.execute(
                "INSERT INTO log (at, job, what, said) VALUES (:at, :job, :what, :said)",
                {"at": _now(), "job": job[:200], "what": what[:40], "said": said[:MOST_SAID]},
            )

    def entries(self) -> list[LogEntry]:
        """Return the log, the latest first."""
        with self._store.open() as connection:
            rows = connection.execute("SELECT at, job, what, said FROM log ORDER BY id DESC").fetchall()
        return [LogEntry(*row) for row in rows]


def _now() -> str:
    return datetime.datetime.now(datetime.UTC).isoformat(timespec="seconds")
