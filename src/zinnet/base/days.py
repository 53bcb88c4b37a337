"""Days as people type them: "2026-12-01", "1 Dec", "1 December 2026"."""

import datetime

from zinnet.base.errors import ZinnetError

HOW = "type it like 2026-12-01 or 1 Dec"
WITH_YEAR, WITHOUT = ("%Y-%m-%d", "%d %b %Y", "%d %B %Y"), ("%d %b", "%d %B")


def read_day(text: str, today: datetime.date) -> datetime.date:
    """Return a day; one without a year is the next one from ``today`` on. Raises :class:`ZinnetError`."""
    said = " ".join(text.replace(".", " ").split()) if any(letter.isalpha() for letter in text) else text.strip()
    for form in WITH_YEAR:
        try:
            return datetime.datetime.strptime(said, form).date()
        except ValueError:
            continue
    for form in WITHOUT:
        for year in range(today.year, today.year + 5):  # the 29th of February comes within four years
            try:
                day = datetime.datetime.strptime(f"{said} {year}", f"{form} %Y").date()
            except ValueError:
                continue
            if day >= today:
                return day
    raise ZinnetError(f"“{text}” is no day; {HOW}.")
