"""What the validator found wrong, in the builder's words: the place, what stands there and what is allowed."""

from __future__ import annotations

from typing import Any, get_args

from pydantic import ValidationError

from ridgeline.design.base import Node
from ridgeline.errors import Bound, DesignError
from ridgeline.typed import short
from ridgeline.units import STORED_UNIT

_LIMITS = {
    "greater_than": ("more than {}", "gt"),
    "greater_than_equal": ("{} or more", "ge"),
    "less_than": ("less than {}", "lt"),
    "less_than_equal": ("{} or less", "le"),
}
_KINDS = {
    "finite_number": "a finite number",
    "float_type": "a number",
    "int_type": "a whole number",
    "bool_type": "true or false",
    "string_type": "text",
    "tuple_type": "a list",
    "extra_forbidden": "no field of this name",
    "missing": "this field to be present",
}


def explain(error: ValidationError, source: str = "", prefix: str = "") -> DesignError:
    """Turn the validator's first complaint into a `DesignError` in the builder's words.

    Parameters
    ----------
    error : ValidationError
        Of a node of the document.
    source : str
        File the data came from, where they came from one.
    prefix : str
        Dotted path of the node in the document.
    """
    first = error.errors(include_url=False)[0]
    path = prefix
    for step in first["loc"]:
        path += f"[{step}]" if isinstance(step, int) else (f".{_spelt(step)}" if path else _spelt(step))
    kind, context = first["type"], first.get("ctx", {})
    quantity = _quantity_of(error.title, first["loc"])
    bound = None
    if kind in _LIMITS:
        words, name = _LIMITS[kind]
        if quantity is None:
            allowed = words.format(f"{context[name]:g}")
        else:
            bound = Bound(words, float(context[name]), quantity)
            allowed = words.format(_stored(context[name], quantity))
    else:
        allowed = _allowed(kind, context, first["msg"])
    understood = "nothing" if kind == "missing" else _brief_repr(first["input"], quantity)
    where = f"{source}: {path}" if source and path else source or path or "design"
    return DesignError(where, understood, allowed, bound=bound, route=tuple(first["loc"]))


def _spelt(name: str) -> str:
    """Return a field's name on one line: what cannot be printed is written by its code."""
    return "".join(letter if letter.isprintable() else letter.encode("unicode_escape").decode() for letter in name)


def _allowed(kind: str, context: dict[str, Any], message: str) -> str:
    if kind == "too_long":
        return f"{context['max_length']} entries at most"
    if kind == "too_short":
        return f"{context['min_length']} entries at least"
    if kind == "string_too_long":
        return f"{context['max_length']} letters at most"
    if kind == "string_too_short":
        return "at least one letter"
    if kind == "literal_error":
        return f"one of {context['expected']}"
    if kind in ("model_type", "model_attributes_type", "dict_type"):
        return "an entry of named fields"
    if kind in _KINDS:
        return _KINDS[kind]
    words = message.removeprefix("Value error, ")
    return words if kind == "value_error" else words[:1].lower() + words[1:]


def _stored(value: float, quantity: str) -> str:
    unit = STORED_UNIT[quantity]
    return f"{value:g}" if unit == "1" else f"{value:g} {unit}"


def _brief_repr(value: Any, quantity: str | None) -> str:
    if isinstance(value, dict | list | tuple) or hasattr(value, "model_dump"):
        name = value.get("name") if isinstance(value, dict) else None
        return f"this {short(str(name))}" if name else f"this {type(value).__name__.lower()}"
    if isinstance(value, bool) or value is None:
        return {True: "true", False: "false", None: "nothing"}[value]
    if isinstance(value, int) and abs(value) >= 10**18:
        return f"a whole number of {len(f'{abs(value):x}') * 1.2041:.0f} digits"
    if isinstance(value, int | float):
        return f"{value:g}" if quantity is None else _stored(value, quantity)
    return f"“{short(str(value))}”"


def _quantity_of(title: str, loc: tuple[int | str, ...]) -> str | None:
    """Return the quantity of the field at a place below a node, named by its class; None where it is no measure."""
    node = _nodes().get(title)
    quantity = None
    for step in loc:
        if isinstance(step, int) or node is None:
            continue
        field = node.model_fields.get(step)
        if field is None:
            return None
        extra = field.json_schema_extra
        quantity = str(extra["quantity"]) if isinstance(extra, dict) and "quantity" in extra else None
        node = _node_in(field.annotation)
    return quantity


def _node_in(annotation: Any) -> type[Node] | None:
    if isinstance(annotation, type) and issubclass(annotation, Node):
        return annotation
    return next((found for part in get_args(annotation) if (found := _node_in(part)) is not None), None)


def _nodes() -> dict[str, type[Node]]:
    found: dict[str, type[Node]] = {}
    waiting: list[type[Node]] = [Node]
    while waiting:
        kind = waiting.pop()
        found[kind.__name__] = kind
        waiting += kind.__subclasses__()
    return found
