"""Learning from the scale: one weighed part of a material tells what the unbuilt parts of its kind will weigh."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridgeline.design.build import BuildKind
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.weights.estimates import Extent, mass_of
from ridgeline.engine.weights.items import ESTIMATE_SIGMA, kinds_of, sigma_of

#: The constant of a recipe that a weighing corrects, by its kind.
CONSTANT: dict[str, str] = {
    "sheet": "areal",
    "covering": "areal",
    "length": "linear",
    "print": "density",
    "pieces": "share",
}
#: Parts of one material still differ among themselves by this share of a first estimate's error; chosen.
_PIECE_TO_PIECE, _LEAST_KNOWN = 0.5, 0.015


@dataclass(frozen=True)
class Learnt:
    """What weighed parts of one material say: their constant in stored units, its one-sigma share, and for whom.

    ``weighed`` and ``open`` are indices of items; ``ratio`` is the new constant over what the open ones count with.
    """

    material: str
    kind: BuildKind
    constant: float
    sigma: float
    ratio: float
    weighed: tuple[int, ...]
    open: tuple[int, ...]

    def changes(self) -> tuple[Change, ...]:
        """Return the edits that rescale the unbuilt parts and narrow their band."""
        made = []
        for index in self.open:
            base = f"parts[{index}].build"
            made += [Change(f"{base}.{CONSTANT[self.kind]}", self.constant), Change(f"{base}.known", self.sigma)]
        return tuple(made)


def learnt(design: Design, extents: dict[str, Extent]) -> tuple[Learnt, ...]:
    """Return what the weighed parts say of each material that still has parts to build.

    Parameters
    ----------
    extents : dict
        Extents of the surfaces and bodies by name.

    Source
    ------
    Each weighing gives the constant its part must have had; the mean is weighted by mass. Error: the weighings' own and
    the piece-to-piece spread over √n: docs/theory.md §5.
    """
    kinds: dict[tuple[str, BuildKind], list[int]] = {}
    for index in kinds_of(design.parts).built:
        build = design.parts[index].build
        if build is not None and build.material:
            kinds.setdefault((build.material, build.kind), []).append(index)
    found = (_of_kind(design, extents, material, kind, members) for (material, kind), members in kinds.items())
    return tuple(one for one in found if one is not None)


def _of_kind(
    design: Design, extents: dict[str, Extent], material: str, kind: BuildKind, members: list[int]
) -> Learnt | None:
    rows, weighed, still = [], [], []
    for index in members:
        part = design.parts[index]
        assert part.build is not None
        now = float(getattr(part.build, CONSTANT[kind]))
        expected = mass_of(part.build, extents)
        if part.weighed is None:
            still.append((index, now))
        elif expected is not None and expected > 0 and now > 0 and part.weighed > 0:
            mass = part.weighed * part.count
            rows.append((now * mass / expected, mass, sigma_of(part, None) / mass))
            weighed.append(index)
    if not rows or not still:
        return None
    constants, masses, errors = np.array(rows).T
    share = masses / masses.sum()
    constant = float(share @ constants)
    basis = design.parts[weighed[0]].basis
    spread = _PIECE_TO_PIECE * ESTIMATE_SIGMA[basis] / np.sqrt(len(rows))
    if len(rows) > 1:
        spread = max(spread, float(np.std(constants, ddof=1)) / constant / np.sqrt(len(rows)))
    sigma = max(float(np.hypot(spread, np.sqrt(np.sum((share * errors) ** 2)))), _LEAST_KNOWN)
    usual = float(np.mean([now for _index, now in still]))
    ratio = constant / usual if usual > 0 else 1.0
    return Learnt(material, kind, constant, sigma, ratio, tuple(weighed), tuple(index for index, _now in still))
