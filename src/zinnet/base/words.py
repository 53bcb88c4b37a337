"""What counts as words of a person."""

LEAST_LETTERS = 3


def has_words(text: str) -> bool:
    """Tell whether a text says anything: at least three letters of any script, whatever else is in it.

    Blanks, signs without width and marks that are drawn over others say nothing.

    Examples
    --------
    >>> has_words("the maker says so"), has_words("\\u200b\\u200b\\u2060 ..."), has_words("  ")
    (True, False, False)
    """
    return sum(letter.isalpha() for letter in text) >= LEAST_LETTERS


def shown_source(source: str) -> str:
    """Return where a number comes from as it is shown: one from memory is typical, and has no source."""
    return source.replace("from memory", "typical, unsourced")


def source_said(source: str) -> str:
    """Return where a number comes from as a sentence.

    Examples
    --------
    >>> source_said("from memory: opening a job")
    'Typical, unsourced: opening a job.'
    """
    said = shown_source(source)
    return f"{said[:1].upper()}{said[1:]}."
