"""Pieces: what a construction is cut, laid and glued from, and what they weigh."""
