"""The colours of cloth by name."""

from functools import cache

from zinnet.data import read_toml
from zinnet.data.limits import limits
from zinnet.films.colours import colour_difference


@cache
def cloth_colours() -> dict[str, str]:
    """Return the colours that have a name, as ``#rrggbb`` by name, in the order in which they are offered."""
    return dict(read_toml("cloth_colours")["colours"])


@cache
def colour_called(colour: str) -> str:
    """Return what a colour (``#rrggbb``) is called: by its name, or by the nearest one: "near moss"."""
    name, apart = min(
        ((name, colour_difference(colour.lower(), known)) for name, known in cloth_colours().items()),
        key=lambda found: found[1],
    )
    return name if apart <= float(limits()["colour"]["called_delta_e"]) else f"near {name}"
