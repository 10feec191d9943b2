"""Controls: servos, linkages and what they do to their surfaces."""
