"""The workshop's file: one SQLite database in the data folder, brought up to date when it is opened."""

import datetime
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

import platformdirs
from pydantic import ValidationError

from zinnet.base.errors import WorkshopError
from zinnet.base.frozen import Frozen
from zinnet.blanks.model import BlankSpec
from zinnet.workshop.backup import back_up

if TYPE_CHECKING:
    from sqlalchemy import Connection

BUSY_S = 5
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

    def blanks(self) -> list[KeptBlank]:
        """Return the kept blanks by name; one that can't be read any more is left out."""
        from sqlalchemy import text

        with self.open() as connection:
            rows = connection.execute(text("SELECT name, spec, kept_at FROM blanks ORDER BY name")).all()
        found = []
        for name, spec, kept_at in rows:
            try:
                found.append(KeptBlank(name=name, spec=BlankSpec.model_validate_json(spec), kept_at=kept_at))
            except ValidationError:
                continue
        return found

    def keep_blank(self, name: str, spec: BlankSpec) -> None:
        """Keep a measured blank; one of the same name is replaced."""
        from sqlalchemy import text

        name = " ".join(name.split())
        if not 1 <= len(name) <= 200:
            raise WorkshopError("A blank is kept under a name of 1 to 200 letters; type another one.")
        row = {
            "name": name,
            "spec": spec.model_dump_json(),
            "kept_at": datetime.datetime.now(datetime.UTC).isoformat(timespec="seconds"),
        }
        with self.open() as connection:
            connection.execute(
                text(
                    "INSERT INTO blanks (name, spec, kept_at) VALUES (:name, :spec, :kept_at) "
                    "ON CONFLICT (name) DO UPDATE SET spec = :spec, kept_at = :kept_at"
                ),
                row,
            )

    def drop_blank(self, name: str) -> None:
        """Take a kept blank out of the workshop."""
        from sqlalchemy import text

        with self.open() as connection:
            connection.execute(text("DELETE FROM blanks WHERE name = :name"), {"name": name})

    @contextmanager
    def open(self) -> "Iterator[Connection]":
        """Open the file, brought up to date; what is done inside is done whole or not at all."""
        from sqlalchemy import create_engine, event
        from sqlalchemy.exc import SQLAlchemyError

        try:
            self.path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise WorkshopError(f"The workshop {self.path} can't be made: {error.strerror}.") from None
        if not self._is_current:
            back_up(self.path)
        engine = create_engine(f"sqlite:///{self.path}", connect_args={"timeout": BUSY_S})

        @event.listens_for(engine, "connect")
        def _prepare(connection: object, record: object) -> None:
            connection.execute("PRAGMA journal_mode=WAL")  # type: ignore[attr-defined]
            connection.execute("PRAGMA foreign_keys=ON")  # type: ignore[attr-defined]

        try:
            with engine.begin() as connection:
                if not self._is_current:
                    self._bring_up_to_date(connection)
                yield connection
        except SQLAlchemyError as error:
            reason = str(getattr(error, "orig", error))
            raise WorkshopError(
                f"The workshop {self.path} can't be used ({reason}); close other programs that use it, or put a "
                "backup in its place (zinnet stock restore)."
            ) from None
        finally:
            engine.dispose()

    def _bring_up_to_date(self, connection: "Connection") -> None:
        """Take the file through the steps that it lacks; alembic keeps its state in one place, so one at a time."""
        from alembic import command
        from alembic.config import Config
        from alembic.util.exc import CommandError

        config = Config()
        config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
        config.attributes["connection"] = connection
        try:
            with UPGRADING:
                command.upgrade(config, "head")
        except CommandError as error:
            raise WorkshopError(f"The workshop {self.path} is from a newer Zinnet ({error}); update Zinnet.") from None
        self._is_current = True
