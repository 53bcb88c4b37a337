"""The workshop's file: one SQLite database in the data folder, brought up to date when it is opened."""

import datetime
import sqlite3
import threading
import time
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

import platformdirs
from pydantic import ValidationError

from zinnet.base.errors import WorkshopError
from zinnet.base.frozen import Frozen
from zinnet.blanks.model import BlankSpec
from zinnet.workshop.backup import back_up
from zinnet.workshop.migrations import HEAD, upgrade

BUSY_S = 5
RETRY_S = 0.02
UPGRADE_S = 60
"""So long another program is waited for that is bringing the same file up to date."""
UPGRADING = threading.Lock()


class KeptBlank(Frozen):
    """A blank that was measured and kept under a name."""

    name: str
    spec: BlankSpec
    kept_at: str


class WorkshopStore:
    """The open workshop file. Every call opens it, does its work in one transaction, and closes it."""

    def __init__(self, path: Path | None = None) -> None:
        self.path = path or platformdirs.user_data_path("zinnet") / "workshop.sqlite"
        self._is_current = False
        self._held = threading.local()
        """The connection that a thread has open: what it opens within that is the same."""

    def blanks(self) -> list[KeptBlank]:
        """Return the kept blanks by name; one that can't be read any more is left out."""
        with self.open() as connection:
            rows = connection.execute("SELECT name, spec, kept_at FROM blanks ORDER BY name").fetchall()
        found = []
        for name, spec, kept_at in rows:
            try:
                found.append(KeptBlank(name=name, spec=BlankSpec.model_validate_json(spec), kept_at=kept_at))
            except ValidationError:
                continue
        return found

    def keep_blank(self, name: str, spec: BlankSpec) -> None:
        """Keep a measured blank; one of the same name is replaced."""
        name = " ".join(name.split())
        if not 1 <= len(name) <= 200:
            raise WorkshopError("A blank is kept under a name of 1 to 200 letters; type another one.")
        row = {
            "name": name,
            "spec": spec.model_dump_json(),
            "kept_at": datetime.datetime.now(datetime.UTC).isoformat(timespec="seconds"),
        }
        with self.change() as connection:
            connection.execute(
                "INSERT INTO blanks (name, spec, kept_at) VALUES (:name, :spec, :kept_at) "
                "ON CONFLICT (name) DO UPDATE SET spec = :spec, kept_at = :kept_at",
                row,
            )

    def drop_blank(self, name: str) -> None:
        """Take a kept blank out of the workshop."""
        with self.change() as connection:
            connection.execute("DELETE FROM blanks WHERE name = :name", {"name": name})

    @contextmanager
    def change(self) -> Iterator[sqlite3.Connection]:
        """Open the file to change it: until the end of the block nobody else does, so that what is read stays true.

        Changes within the block of another one are part of it.
        """
        with self.open() as connection:
            if not connection.in_transaction:
                connection.execute("BEGIN IMMEDIATE")
            yield connection

    @contextmanager
    def open(self) -> Iterator[sqlite3.Connection]:
        """Open the file, brought up to date; what is done inside is done whole or not at all."""
        held: sqlite3.Connection | None = getattr(self._held, "connection", None)
        if held is not None:
            yield held
            return
        try:
            self.path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise WorkshopError(f"The workshop {self.path} can't be made: {error.strerror}.") from None
        try:
            if not self._is_current:
                back_up(self.path)
                self._bring_up_to_date()
            with closing(sqlite3.connect(self.path, timeout=BUSY_S)) as connection:
                _write_ahead(connection)
                connection.execute("PRAGMA foreign_keys=ON")
                self._held.connection = connection
                try:
                    with connection:
                        yield connection
                finally:
                    self._held.connection = None
        except (sqlite3.Error, UnicodeDecodeError) as error:
            raise WorkshopError(
                f"The workshop {self.path} can't be used ({error}); close other programs that use it, or put a "
                "backup in its place (zinnet stock restore)."
            ) from None

    def _bring_up_to_date(self) -> None:
        """Take the file through the steps that it lacks, where it lacks any."""
        there = self._revision()
        if there is not None and there > HEAD:
            raise WorkshopError(
                f"The workshop {self.path} is from a newer Zinnet (revision {there}, this one {HEAD}); update Zinnet."
            )
        if there != HEAD:
            with UPGRADING:
                upgrade(self.path, UPGRADE_S)
        self._is_current = True

    def _revision(self) -> str | None:
        """Return the step up to which the file is brought; None where there is no file, or an empty one."""
        if not self.path.exists():
            return None
        with closing(sqlite3.connect(self.path, timeout=BUSY_S)) as connection:
            known = "SELECT count(*) FROM sqlite_master WHERE name = 'alembic_version'"
            if not connection.execute(known).fetchone()[0]:
                return None
            row = connection.execute("SELECT version_num FROM alembic_version").fetchone()
        return None if row is None else str(row[0])


def _write_ahead(connection: sqlite3.Connection) -> None:
    """Let others read while one writes; the switch waits for nobody by itself, so it is tried again for a while."""
    until = time.monotonic() + BUSY_S
    while True:
        try:
            connection.execute("PRAGMA journal_mode=WAL")
            return
        except sqlite3.OperationalError:
            if time.monotonic() > until:
                raise
            time.sleep(RETRY_S)
