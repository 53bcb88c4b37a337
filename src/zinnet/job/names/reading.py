"""Reading a list of names for a job: against the sizes of its blank and the films of the workshop."""

from zinnet.blanks.catalogue import blank_kind, sizes
from zinnet.job.model import Job
from zinnet.job.names.table import Reading, ReadList, read_names
from zinnet.workshop.model import Workshop


def read_names_for(job: Job, workshop: Workshop, data: bytes | str) -> ReadList:
    """Return the list of a table, read for a job. Raises :class:`ZinnetError` that names the line."""
    kind = blank_kind(job.blank.kind)
    known: dict[str, str] = {}
    for size in kind.sizes:
        name = sizes()[size].name
        known |= {size.casefold(): size, name.casefold(): size}
    for size in kind.sizes:
        short = sizes()[size].name.split()[-1].casefold()
        if sizes()[size].class_ == "adult":
            known[short] = size
        else:
            known.setdefault(short, size)
    colours = {film.colour: film.colour for film in workshop.films}
    for film in workshop.films:
        colours |= {film.id.casefold(): film.colour, film.name.casefold(): film.colour}
    blank = (job.blank.kind.casefold(), kind.name.casefold())
    return read_names(data, Reading(known, blank, colours), job.names.fields)
