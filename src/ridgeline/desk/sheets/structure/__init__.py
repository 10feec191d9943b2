"""The leaves of the Structure: wing, twist, stock."""
