"""The stop of the templates."""
