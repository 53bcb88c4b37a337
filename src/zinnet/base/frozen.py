"""The base of every document model: frozen, strict about unknown names, and hashable."""

from pydantic import BaseModel, ConfigDict


class Frozen(BaseModel):
    """A value: it never changes, equal fields make equal values, and it can key a cache."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)
