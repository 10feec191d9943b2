"""The one kind of error a builder sees: where it is, what was understood, what is allowed."""

from typing import NamedTuple


class Bound(NamedTuple):
    """A limit in the stored unit, kept as a number so that it can be told in the builder's units.

    Attributes
    ----------
    words : str
        How the limit is told, with ``{}`` for the value: ``"{} or less"``.
    value : float
        The limit, in the stored unit of ``quantity``.
    quantity : str
        A key of `ridgeline.units.STORED_UNIT`.
    """

    words: str
    value: float
    quantity: str


class DesignError(ValueError):
    """Refuse an input where it enters.

    Parameters
    ----------
    path : str
        Dotted path in the document, a file name, or the name of what was asked for.
    understood : str
        What the program made of the input.
    allowed : str
        What would have been accepted.
    bound : Bound, optional
        The limit that was passed, where it is one: `ridgeline.typed.told` writes it in the builder's units.
    route : tuple of str and int, optional
        Where in a document the error is, step by step: the reader of files finds its line by it.
    """

    def __init__(
        self,
        path: str,
        understood: str,
        allowed: str,
        *,
        bound: Bound | None = None,
        route: tuple[str | int, ...] | None = None,
    ) -> None:
        self.path = path
        self.understood = understood
        self.allowed = allowed
        self.bound = bound
        self.route = route
        super().__init__(f"{path}: understood {understood}; allowed: {allowed}")
