"""Edits of the list of names."""

from typing import Any

from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import TextArt
from zinnet.base.errors import ZinnetError
from zinnet.base.frozen import with_fields
from zinnet.blanks.catalogue import blank_kind, size_of
from zinnet.blanks.model import BlankSpec
from zinnet.films.colours import contrast
from zinnet.job.asked import in_step, member_of, of_size, with_kept
from zinnet.job.edits.edit import Edit
from zinnet.job.model import Design, Job
from zinnet.job.names.model import NameField, NameList
from zinnet.job.names.words import columns_in, with_words, words_of

FONT = "atkinson"
PALE_INK, DARK_INK = "#f4ead5", "#1a1a1a"


def set_names(names: NameList) -> Edit:
    """Make the job for a list of names: sizes that it asks for are added, those that it does not need are taken out.

    Where no text has a column in braces, the only text of the job becomes the field for the first column; a job
    without artwork gets such a text.
    """

    def change(job: Job) -> Job:
        if not names.rows:
            raise ZinnetError("The list of names is empty; give one name to a line.")
        job = with_kept(_with_field(job, names.columns[0]))
        asked = dict.fromkeys(row.size or size_of(job.blank) for row in names.rows)
        own = size_of(job.blank) if size_of(job.blank) in asked else next(iter(asked))
        others = tuple(job.member(size) or member_of(job, size, 1) for size in asked if size != own)
        blank = job.blank if own == size_of(job.blank) else of_size(job, job.blank, own)
        fields = tuple(field for field in names.fields or job.names.fields if field.design < len(job.designs))
        return in_step(with_fields(job, blank=blank, family=others, names=with_fields(names, fields=fields)))

    return Edit("list of names", change)


def drop_names() -> Edit:
    """Take the list of names out."""
    return Edit("take out the names", lambda job: with_fields(job, names=NameList()))


def set_name_field(design: int, **fields: Any) -> Edit:
    """Change the field of a design that names are fitted to."""

    def change(job: Job) -> Job:
        others = tuple(field for field in job.names.fields if field.design != design)
        field: NameField = with_fields(job.names.field(design), **fields)
        return with_fields(job, names=with_fields(job.names, fields=(*others, field)))

    return Edit("field for names", change, f"name field {design} {' '.join(sorted(fields))}")


def _with_field(job: Job, column: str) -> Job:
    """Return the job with a column in braces in one of its texts. Raises where it is not clear in which."""
    if any(columns_in(design.source) for design in job.designs):
        return job
    if not job.designs:
        return with_fields(job, designs=(Design(source=_column_text(column, job.blank)),))
    texts = [index for index, design in enumerate(job.designs) if words_of(design.source)]
    if len(texts) != 1:
        said = "no text" if not texts else "several texts"
        raise ZinnetError(f"The job has {said} for names; write {{{column}}} into the text that they belong in.")
    designs = list(job.designs)
    source = with_words(designs[texts[0]].source, lambda words: f"{{{column}}}" if words else words)
    designs[texts[0]] = with_fields(designs[texts[0]], source=source)
    return with_fields(job, designs=tuple(designs))


def _column_text(column: str, blank: BlankSpec) -> TextArt:
    """Return a text for a column, in a colour that is seen on the blank."""
    cloth = blank.colour or blank_kind(blank.kind).colour
    ink = max(PALE_INK, DARK_INK, key=lambda colour: contrast(colour, cloth.lower()))
    return TextArt(text=TextSpec(text=f"{{{column}}}", font=FONT, colour=ink))
