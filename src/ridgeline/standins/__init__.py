"""Simulated devices that ship with the app, behind the interface a real one would have."""
