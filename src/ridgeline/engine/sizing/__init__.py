"""From a purpose to a first size: starting values, the constraint chart, and the laid-out airframe."""
