"""Letters of a text in another font or weight than the rest, and what a change of the text leaves of them."""

from collections.abc import Iterator, Sequence
from itertools import groupby
from typing import NamedTuple

from pydantic import Field

from zinnet.base.frozen import Frozen

Letters = tuple[str, str | None]
"""A font and a style of it."""


class Run(Frozen):
    """Letters of one line in a font of their own: so many from ``letter`` on."""

    line: int = Field(ge=0)
    letter: int = Field(ge=0)
    count: int = Field(ge=1)
    font: str
    style: str | None = None


class Piece(NamedTuple):
    """Letters of one line that are set in one font, and how many stand before them."""

    begin: int
    text: str
    font: str
    style: str | None


def pieces_of(line: int, text: str, own: Letters, runs: Sequence[Run]) -> Iterator[Piece]:
    """Yield one line of a text in pieces of one font each; ``own`` is the font of the text."""
    marks = _marks(text, [run for run in runs if run.line == line])
    begin = 0
    for mark, group in groupby(marks):
        count = len(list(group))
        yield Piece(begin, text[begin : begin + count], *(mark or own))
        begin += count


def marked(text: str, runs: Sequence[Run], first: int, last: int, letters: Letters | None) -> tuple[Run, ...]:
    """Return the runs with the letters from ``first`` to before ``last`` of the whole text in a font of their own.

    None gives them that of the text again.

    Examples
    --------
    >>> [(run.line, run.letter, run.count) for run in marked("reed walk", (), 5, 9, ("bitter", None))]
    [(0, 5, 4)]
    """
    marks = _all_marks(text, runs)
    marks[first:last] = [letters] * (last - first)
    return _runs(text, marks)


def letters_at(text: str, runs: Sequence[Run], index: int) -> Letters | None:
    """Return the font of its own of one letter of the whole text, None where it has that of the text."""
    marks = _all_marks(text, runs)
    return marks[index] if index < len(marks) else None


def carried_over(old: str, new: str, runs: Sequence[Run]) -> tuple[Run, ...]:
    """Return the runs of a text that was changed: letters before and behind the change keep theirs.

    What was typed in takes the font of what it replaces, else of the letter before it.
    """
    marks = _all_marks(old, runs)
    shared = min(len(old), len(new))
    before = next((k for k in range(shared) if old[k] != new[k]), shared)
    behind = next((k for k in range(shared - before) if old[-1 - k] != new[-1 - k]), shared - before)
    replaced = marks[before : len(old) - behind] or marks[max(0, before - 1) : before] or [None]
    typed = [replaced[0]] * (len(new) - before - behind)
    return _runs(new, [*marks[:before], *typed, *marks[len(old) - behind :]])


def _marks(line: str, runs: Sequence[Run]) -> list[Letters | None]:
    marks: list[Letters | None] = [None] * len(line)
    for run in runs:
        for k in range(run.letter, min(run.letter + run.count, len(line))):
            marks[k] = run.font, run.style
    return marks


def _all_marks(text: str, runs: Sequence[Run]) -> list[Letters | None]:
    """Return the font of its own of every letter of a text, the ends of lines among them."""
    found: list[Letters | None] = []
    for number, line in enumerate(text.split("\n")):
        found += [*_marks(line, [run for run in runs if run.line == number]), None]
    return found[:-1]


def _runs(text: str, marks: Sequence[Letters | None]) -> tuple[Run, ...]:
    found, begin = [], 0
    for number, line in enumerate(text.split("\n")):
        letter = 0
        for mark, group in groupby(marks[begin : begin + len(line)]):
            count = len(list(group))
            if mark is not None:
                found.append(Run(line=number, letter=letter, count=count, font=mark[0], style=mark[1]))
            letter += count
        begin += len(line) + 1
    return tuple(found)
