"""The Shape: views, solid, sections, trim, controls, and layouts to start from."""
