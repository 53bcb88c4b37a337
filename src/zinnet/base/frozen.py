"""The base of every document model: frozen, strict about unknown names, and hashable."""

from typing import Any

from pydantic import BaseModel, ConfigDict


class Frozen(BaseModel):
    """A value: it never changes, equal fields make equal values, and it can key a cache.

    The hash is worked out once: a job is asked for it at every edit, and most of its parts stay what they were.
    """

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, defer_build=True)
    __slots__ = ("_hash_kept",)

    def __hash__(self) -> int:
        kept: int | None = getattr(self, "_hash_kept", None)
        if kept is None:
            kept = hash((type(self), *(self.__dict__[name] for name in type(self).model_fields)))
            object.__setattr__(self, "_hash_kept", kept)
        return kept


def with_fields[T: Any](value: T, **fields: Any) -> T:
    """Return a validated copy with some fields replaced."""
    kept = {name: getattr(value, name) for name in type(value).model_fields}
    return type(value)(**{**kept, **fields})  # type: ignore[no-any-return]
