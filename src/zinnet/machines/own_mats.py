"""Mats as a person names them: those that are known, and any size."""

from collections.abc import Sequence

from zinnet.machines.cutters import Machines, Mat, read_machines


def mats_named(names: Sequence[str], machines: Machines | None = None) -> tuple[tuple[str, ...], dict[str, Mat]]:
    """Return the names of mats, and those of them that are new, made from their sizes.

    Raises :class:`NestError` for one that is neither known nor a size.
    """
    machines = machines or read_machines()
    known = dict(machines.mats)
    return tuple(names), {name: machines.mat(name) for name in names if name not in known}
