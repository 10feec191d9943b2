"""Sections, the vortex lattice and what is read from it, the hand formulas beside it, drag, and motions."""
