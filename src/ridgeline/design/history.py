"""Undo and redo over immutable designs: a line of states with the names of the edits between them."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ridgeline.design.document import Design


@dataclass(frozen=True)
class Step:
    """A state and the edit that led to it. ``merge`` names a drag that is still going on."""

    design: Design
    label: str = ""
    merge: str | None = None


@dataclass(frozen=True)
class History:
    """States up to now in ``past`` (the last is the present) and undone ones in ``future``, nearest last."""

    past: tuple[Step, ...]
    future: tuple[Step, ...] = ()

    @classmethod
    def of(cls, design: Design) -> History:
        """Start a history at a design."""
        return cls((Step(design),))

    @property
    def present(self) -> Design:
        return self.past[-1].design

    @property
    def before(self) -> Design | None:
        """The state before the last edit, None at the start."""
        return self.past[-2].design if len(self.past) > 1 else None

    @property
    def undo_label(self) -> str | None:
        return self.past[-1].label if len(self.past) > 1 else None

    @property
    def redo_label(self) -> str | None:
        return self.future[-1].label if self.future else None

    def push(self, design: Design, label: str, merge: str | None = None) -> History:
        """Return the history with one more edit; edits with the same open ``merge`` count as one."""
        step = Step(design, label, merge)
        if merge is not None and len(self.past) > 1 and self.past[-1].merge == merge:
            return History((*self.past[:-1], step))
        return History((*self.past, step))

    def seal(self) -> History:
        """Return the history with a going drag closed, so that the next one is an edit of its own."""
        return History((*self.past[:-1], replace(self.past[-1], merge=None)), self.future)

    def undo(self) -> History:
        """Return the history one edit back."""
        if len(self.past) < 2:
            return self
        return History(self.past[:-1], (*self.future, self.past[-1]))

    def redo(self) -> History:
        """Return the history one undone edit forward."""
        if not self.future:
            return self
        return History((*self.past, self.future[-1]), self.future[:-1])
