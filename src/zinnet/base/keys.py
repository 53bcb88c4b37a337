"""Keys of kept results: what a stage reads, told apart by its content."""

from collections.abc import Hashable

import shapely
from shapely.geometry.base import BaseGeometry


class Key:
    """What a stage reads, as a key whose hash is worked out once; geometries are told apart by a quick look first."""

    __slots__ = ("_hash", "reads")

    def __init__(self, reads: tuple[Hashable, ...]) -> None:
        self.reads = reads
        self._hash = hash(tuple(map(_glance, reads)))

    def __hash__(self) -> int:
        return self._hash

    def __eq__(self, other: object) -> bool:
        return self is other or (isinstance(other, Key) and self._hash == other._hash and self.reads == other.reads)

    def __reduce__(self) -> tuple[type["Key"], tuple[tuple[Hashable, ...]]]:
        return Key, (self.reads,)


def _glance(value: Hashable) -> Hashable:
    """Return what tells most values apart: of a geometry its box and its number of points, of others themselves."""
    if isinstance(value, BaseGeometry):
        if value.is_empty:
            return str(value.geom_type)
        return (*shapely.bounds(value).tolist(), shapely.get_num_coordinates(value))
    if type(value) is tuple and value and isinstance(value[0], BaseGeometry):
        return tuple(map(_glance, value))
    return value
