"""All pieces of a design."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.document import Design
from ridgeline.engine.build.cut_up import Rooms, longest_of, rooms_of
from ridgeline.engine.build.hulls import pieces_of_body
from ridgeline.engine.build.panels import pieces_of_surface
from ridgeline.engine.build.pieces import Piece
from ridgeline.engine.build.seats import seats_of


def pieces_of(surfaces: Iterable[Surface], bodies: Iterable[Body], rooms: Rooms = ()) -> tuple[Piece, ...]:
    """Return the pieces of surfaces and bodies, those first.

    Parameters
    ----------
    surfaces : iterable of Surface
    bodies : iterable of Body
    rooms : tuple of Room
        Of the sheets on hand.

    Returns
    -------
    tuple of Piece
        None of what does not say how it is built.
    """
    return (
        *(piece for surface in surfaces for piece in pieces_of_surface(surface, (), rooms)),
        *(piece for body in bodies for piece in pieces_of_body(body, rooms)),
    )


def pieces_of_design(design: Design) -> tuple[Piece, ...]:
    """Return the pieces of a design, no hole where a servo sits, those cut up that no sheet on hand takes.

    Parameters
    ----------
    design : Design

    Returns
    -------
    tuple of Piece
    """
    rooms = rooms_of(design.cutting)
    seats = dict(seats_of(design.surfaces, design.parts, longest_of(rooms)))
    return (
        *(
            piece
            for surface in design.surfaces
            for piece in pieces_of_surface(surface, seats.get(surface.id, ()), rooms)
        ),
        *(piece for body in design.bodies for piece in pieces_of_body(body, rooms)),
    )


def parts_of(design: Design) -> Iterator[tuple[str, Surface | Body]]:
    """Yield each surface and body of a design with its path.

    Parameters
    ----------
    design : Design

    Yields
    ------
    path : str
    part : Surface or Body
    """
    yield from ((f"surfaces[{k}]", surface) for k, surface in enumerate(design.surfaces))
    yield from ((f"bodies[{k}]", body) for k, body in enumerate(design.bodies))
