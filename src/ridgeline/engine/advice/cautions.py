"""Cautions, at the stops where the work can hurt someone (handbook of the trade §13)."""

from __future__ import annotations

CAUTIONS: dict[str, str] = {
    "brief": "Fly where it is allowed, away from people, roads and aerodromes. National weight classes, "
    "registration and insurance differ: ask your authority.",
    "weights": "Large models, often above 7 kg or 25 kg, need inspection by people qualified for it.",
    "balance": "Check the balance with the propeller off and the pack unplugged until the model is held.",
    "controls": "Propeller off while controls are set up; then clear of its disc. Set the failsafe and try it: "
    "throttle off when the link is lost.",
    "structure": "Sized hobby parts with stated factors are no airworthiness approval. Mask for carbon dust and "
    "splinters; test a wing by its weight at the tips before it is thrown.",
    "templates": "Cut away from the hand, with a fresh blade. Ventilate at hot wire, hot plastics, glue and paint, and "
    "do not breathe their fumes; mask for foam and carbon dust, eyes covered at drill and saw.",
    "flights": "The propeller stays off until its line of the list; then clear of its disc, eyes covered, nobody "
    "ahead. Fly where it is allowed, away from people, roads and aerodromes, in wind under a third of cruise. What "
    "climbs on paper may not: throw into the wind over soft ground, the hand clear of the disc.",
    "power": "Propeller off for all bench work; stand clear of its disc and wear eye protection. Charge lithium "
    "packs attended, on a base that cannot burn, and never use a puffed one.",
}
