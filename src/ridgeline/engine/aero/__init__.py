"""Lift, neutral point, stall, drag and trim by hand formulas; a lattice replaces the neutral point later."""
