"""Masses, their bands, the balance point, and the levers that move it."""
