"""The shipped tables: generic classes of parts and materials, each with a source line, validated on load."""

from ridgeline.library.tables import demo_names, demo_text, flown_names, gallery_names, shipped_shelf

__all__ = ["demo_names", "demo_text", "flown_names", "gallery_names", "shipped_shelf"]
