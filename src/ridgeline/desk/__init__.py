"""The window: it draws reports and proposes edited documents."""

# First of all, before any module here brings in Qt.
from ridgeline.desk import imports as imports
