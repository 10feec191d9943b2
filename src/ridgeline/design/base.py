"""What every part of the document shares: frozen, closed to unknown fields, finite, and with stated units."""

from __future__ import annotations

from itertools import compress, count
from operator import is_not
from typing import Annotated, Any, Literal, Self, get_args, get_origin

from pydantic import BaseModel, ConfigDict, Field, Strict, model_validator

from ridgeline.units import STORED_UNIT

#: Ids of the sets (configurations) a part flies in; every one when empty.
Sets = tuple[str, ...]
#: Whole numbers and switches of a file are taken as they stand: no "3", no 1 for true, no 2.0 pieces.
Whole = Annotated[int, Strict()]
Flag = Annotated[bool, Strict()]


#: A day as it is written down everywhere.
DAY = r"^(\d{4}-\d{2}-\d{2})?$"


class Node(BaseModel):
    """Base of every document node."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, str_max_length=200)

    def check(self) -> None:
        """Raise a ValueError that says what is allowed when the fields do not agree with each other."""

    @model_validator(mode="after")
    def _agrees(self) -> Self:
        self.check()
        return self


def scalar_kind(model: type[BaseModel], field: str) -> type[Any] | None:
    """Return what a field holds when it is a single value: a switch, a whole number, a number or words.

    Parameters
    ----------
    model : type
        A node's.
    field : str

    Returns
    -------
    type or None
        Bool, int, float or str.
    """
    known = model.model_fields.get(field)
    waiting: list[Any] = [] if known is None else [known.annotation]
    found: set[Any] = set()
    while waiting:
        annotation = waiting.pop()
        if get_origin(annotation) is tuple:
            return None
        found.add(annotation)
        waiting += get_args(annotation)
        if get_origin(annotation) is Literal:
            return str
    return next((kind for kind in (bool, int, float, str) if kind in found), None)


def changed(now: tuple[Any, ...], before: tuple[Any, ...]) -> list[int]:
    """Return where two lists differ, as far as both go: nodes are frozen, and an edit leaves the others the same.

    Parameters
    ----------
    now, before : tuple
        Of nodes.

    Returns
    -------
    list of int
        Places.
    """
    return list(compress(count(), map(is_not, now, before)))


def measure(
    quantity: str,
    about: str,
    default: Any = ...,
    *,
    above: float | None = None,
    low: float | None = None,
    high: float | None = None,
) -> Any:
    """Declare a number with its quantity and limits, in the stored unit of that quantity.

    The limits are sanity bounds of the trade (80 g to 15 kg aircraft), not advice: findings advise.

    Parameters
    ----------
    quantity : str
        A key of the units.
    about : str
        What it is.
    default : object
        Required when left out.
    above, low, high : float, optional
        Limits, in the stored unit.

    Returns
    -------
    FieldInfo
    """
    extra: dict[str, Any] = {"quantity": quantity, "unit": STORED_UNIT[quantity]}
    return Field(default, gt=above, ge=low, le=high, strict=True, description=about, json_schema_extra=extra)


def sets() -> Any:
    """Declare which sets a part flies in."""
    return Field((), max_length=12, description="ids of the sets it flies in; every one when left out")


def price() -> Any:
    """Declare what a part of the bin costs."""
    return measure("ratio", "price, in the builder's money", None, low=0.0, high=1e6)


def stock() -> Any:
    """Declare how many of a part lie in the bin."""
    return Field(None, ge=0, le=999, strict=True, description="how many lie in the bin")
