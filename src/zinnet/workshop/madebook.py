"""The book of what was made, in the workshop's file: each entry with its job, to do it again, and a photo."""

import datetime
from typing import Any

from pydantic import ValidationError

from zinnet.base.errors import WorkshopError
from zinnet.workshop.made import Made
from zinnet.workshop.store import WorkshopStore

MOST_PHOTO = 20_000_000
MOST_JOB = 100_000_000


class MadeBook:
    """What was made in a workshop."""

    def __init__(self, store: WorkshopStore) -> None:
        self._store = store

    def record(self, made: Made, job: bytes | None = None, photo: bytes | None = None) -> Made:
        """Write an entry with the date, unless it has one, and return it with its number."""
        if job is not None and len(job) > MOST_JOB:
            job = None
        _refuse_large(photo)
        at = made.at or datetime.datetime.now(datetime.UTC).isoformat(timespec="seconds")
        dated = made.model_copy(update={"at": at, "has_job": job is not None, "has_photo": photo is not None})
        with self._store.change() as connection:
            number = connection.execute(
                "INSERT INTO made (at, title, made, job, photo) VALUES (:at, :title, :made, :job, :photo) "
                "RETURNING number",
                {"at": at, "title": made.title, "made": dated.model_dump_json(), "job": job, "photo": photo},
            ).fetchone()[0]
        return dated.model_copy(update={"number": number})

    def entries(self, words: str = "") -> list[Made]:
        """Return the entries, the latest first, narrowed to those with all the words."""
        with self._store.open() as connection:
            rows = connection.execute("SELECT number, made FROM made ORDER BY at DESC, number DESC").fetchall()
        found = [one for number, data in rows if (one := _read(number, data)) is not None]
        asked = words.casefold().split()
        return [one for one in found if all(word in one.described for word in asked)]

    def entry(self, number: int) -> Made:
        """Return one entry. Raises :class:`WorkshopError` where there is none of the number."""
        found = next((one for one in self.entries() if one.number == number), None)
        if found is None:
            raise WorkshopError(f"The log has no entry {number}; zinnet log list shows all.")
        return found

    def change(self, number: int, *, photo: bytes | None = None, **fields: Any) -> Made:
        """Change what is said of an entry, such as its verdict, and return it."""
        _refuse_large(photo)
        before = self.entry(number)
        try:
            after = Made.model_validate(before.model_dump() | fields | ({"has_photo": True} if photo else {}))
        except ValidationError as error:
            first = error.errors()[0]
            raise WorkshopError(f"That can't be written down: {first['loc'][0]}: {first['msg'].lower()}.") from None
        with self._store.change() as connection:
            connection.execute(
                "UPDATE made SET made = :made, photo = coalesce(:photo, photo) WHERE number = :number",
                {"made": after.model_dump_json(), "photo": photo, "number": number},
            )
        return after

    def job(self, number: int) -> bytes:
        """Return the job file of an entry. Raises :class:`WorkshopError` where it was not kept."""
        return self._kept("job", number)

    def photo(self, number: int) -> bytes:
        """Return the photo of an entry. Raises :class:`WorkshopError` where there is none."""
        return self._kept("photo", number)

    def _kept(self, what: str, number: int) -> bytes:
        self.entry(number)
        with self._store.open() as connection:
            (data,) = connection.execute(f"SELECT {what} FROM made WHERE number = :n", {"n": number}).fetchone()
        if not isinstance(data, bytes):
            raise WorkshopError(f"Entry {number} of the log has no {what}.")
        return data


def _refuse_large(photo: bytes | None) -> None:
    if photo is not None and len(photo) > MOST_PHOTO:
        raise WorkshopError(f"The photo has more than {MOST_PHOTO // 1_000_000} MB; make it smaller.")


def _read(number: int, data: str) -> Made | None:
    """Return an entry; None where it can't be read any more."""
    try:
        return Made.model_validate_json(data).model_copy(update={"number": number})
    except ValidationError:
        return None
