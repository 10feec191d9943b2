"""Planforms, tails, bodies: what the aircraft is, in metres."""
