"""One sheet per stop: a picture of the aircraft or of the physics, edited in place."""
