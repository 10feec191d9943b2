"""The one kind of error a builder sees: where it is, what was understood, what is allowed."""


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
    """

    def __init__(self, path: str, understood: str, allowed: str) -> None:
        self.path = path
        self.understood = understood
        self.allowed = allowed
        super().__init__(f"{path}: understood {understood}; allowed: {allowed}")
