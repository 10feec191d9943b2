"""Spars that are made rather than bought: strips of faced board glued flat on one another, as one stock of its own."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ridgeline.design.shelf import Material
from ridgeline.engine.structure.skin_forms import PAPER, PAPER_BEARS, PAPER_E

#: Strips are cut this wide, m, and so many at most lie on one another (usual).
WIDTHS, MOST_LAYERS = (0.020, 0.030), 4


def board_strips(stock: Sequence[Material], room: float) -> tuple[Material, ...]:
    """Return the strips that could be cut and stacked from the faced boards of a stock, as stock to be tried.

    Parameters
    ----------
    stock : sequence of Material
    room : float
        Height there is, m: no higher ones are made.

    Returns
    -------
    tuple of Material
        Each with the modulus and strength that a solid strip of its size would need to be as stiff and as strong.

    Source
    ------
    E I/b = E_p t_p Σ z² over its papers, whose outermost bears 12 MPa (second part of the handbook §16.4;
    docs/theory.md §13); paper of a heavier board is taken as that of craft board.
    """
    return tuple(strip for board in stock if board.kind == "sheet" and board.faced and board.thickness > 0
                 for strip in _of_board(board, room))  # fmt: skip


def _of_board(board: Material, room: float) -> Iterator[Material]:
    for layers in range(1, MOST_LAYERS + 1):
        high = layers * board.thickness
        if high > room + 1e-9:
            return
        stiff, outermost = papers_of(board.thickness, layers)
        # Of each metre of width: E b h³/12 and σ b h²/6 turned round.
        modulus = stiff * 12 / high**3
        strength = PAPER_BEARS * stiff / (PAPER_E * outermost) * 6 / high**2
        for width in WIDTHS:
            count = "one strip" if layers == 1 else f"{layers} strips"
            yield Material(
                name=f"{board.name}, {count} of {1000 * width:.0f} mm",
                kind="length",
                amount=1000 * board.constant * width * layers,
                unit="g/m",
                thickness=high,
                width=width,
                modulus=modulus,
                strength=strength,
                price=None if board.price is None else 0.0,
            )


def papers_of(thickness: float, layers: int) -> tuple[float, float]:
    """Return the bending stiffness of stacked board for each metre of width, N m, and how far out its last paper is, m.

    Parameters
    ----------
    thickness : float
        Of one board with its papers, m.
    layers : int

    Returns
    -------
    stiffness, outermost : float
    """
    half = 0.5 * layers * thickness
    places = [k * thickness + side - half for k in range(layers) for side in (0.5 * PAPER, thickness - 0.5 * PAPER)]
    return PAPER_E * PAPER * sum(z**2 for z in places), half - 0.5 * PAPER
