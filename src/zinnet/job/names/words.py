"""Words of a design's source: which columns stand in braces in them, and a row's own words in their place."""

import re
from collections.abc import Callable

from zinnet.artwork.lettering.runs import carried_over
from zinnet.artwork.source import OutlinedNameArt, Source, TextArt, WordThroughArt
from zinnet.base.stages import stage
from zinnet.job.names.model import NameList, NameRow

IN_BRACES = re.compile(r"\{([^{}\n]{1,60})\}")


def words_of(source: Source) -> tuple[str, ...]:
    """Return the texts of a source."""
    match source:
        case TextArt():
            return (source.text.text,)
        case OutlinedNameArt():
            return source.name.name, source.name.second
        case WordThroughArt():
            return (source.word.word,)
    return ()


def columns_in(source: Source) -> tuple[str, ...]:
    """Return the columns that stand in braces in the texts of a source."""
    return tuple(dict.fromkeys(name for words in words_of(source) for name in IN_BRACES.findall(words)))


@stage(most=32)
def all_filled(source: Source, names: NameList) -> tuple[Source | None, ...]:
    """Return a source with the words of every row; None for a row that has no words for it."""
    return tuple(filled(source, names, row) for row in names.rows)


def filled(source: Source, names: NameList, row: NameRow) -> Source | None:
    """Return a source with a row's words in place of its braces; None where nothing is left to cut.

    Where the row has a colour, letters take it.
    """

    def fill(words: str) -> str:
        return IN_BRACES.sub(lambda found: names.value(row, found[1]), words)

    return with_words(source, fill, row.colour)


def with_words(source: Source, fill: Callable[[str], str], colour: str | None = None) -> Source | None:
    """Return a source with other words, and another colour where one is given; None where no word is left."""
    tint = {"colour": colour} if colour else {}
    match source:
        case TextArt():
            own = source.text
            words_here = fill(own.text)
            runs = carried_over(own.text, words_here, own.runs) if own.runs else ()
            text = own.model_copy(update={"text": words_here, "runs": runs, **tint})
            return source.model_copy(update={"text": text}) if text.text.strip() else None
        case OutlinedNameArt():
            words = {"name": fill(source.name.name), "second": fill(source.name.second)}
            name = source.name.model_copy(update={**words, **tint})
            return source.model_copy(update={"name": name}) if name.name.strip() else None
        case WordThroughArt():
            word = source.word.model_copy(update={"word": fill(source.word.word)})
            return source.model_copy(update={"word": word}) if word.word.strip() else None
    return source
