"""The Balance: the chord, every pack in its bay, every lever."""
