"""Processes of our own: they take no code from the folder they are started in, and little from the environment."""

import os
import sys
from pathlib import Path

import zinnet

KEPT = ("HOME", "LANG", "LANGUAGE", "PATH", "TMPDIR", "TZ")
"""What a child is told of the environment, beside the locale and the user's folders; nothing that names code."""
KEPT_PREFIXES = ("LC_", "XDG_")
INSTALLED = (f"{os.sep}site-packages", f"{os.sep}dist-packages")


def child_command(module: str) -> list[str]:
    """Return the command that runs ``main()`` of one of our modules in a process of its own.

    Python is isolated: neither the current folder nor ``PYTHONPATH`` is looked through. Packages are found where this
    process finds them: our own beside this file, all others where packages are installed.

    Examples
    --------
    >>> command = child_command("zinnet.nesting.worker")
    >>> command[1:3]
    ['-I', '-c']
    """
    own = str(Path(child_folder()).parent)
    first = [] if own.endswith(INSTALLED) else [own]
    last = [one for one in sys.path if one.endswith(INSTALLED)]
    code = f"import sys; sys.path[:] = [*{first!r}, *sys.path, *{last!r}]; from {module} import main; main()"
    return [sys.executable, "-I", "-c", code]


def child_environment() -> dict[str, str]:
    """Return what a process of ours is told of the environment."""
    return {name: value for name, value in os.environ.items() if name in KEPT or name.startswith(KEPT_PREFIXES)}


def child_folder() -> str:
    """Return the folder that processes of ours work in, whatever folder this one was started in."""
    return str(Path(zinnet.__file__).resolve().parent)
