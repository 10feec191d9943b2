"""Import the core at full speed after Qt.

Qt's Python bindings replace the import function by one that reads the source of every module imported after them,
for an optional naming feature this program does not use. That costs a quarter of the start, so the core is
imported with the function there was before. This module must be imported before the bindings are.
"""

from __future__ import annotations

import builtins
from collections.abc import Iterator
from contextlib import contextmanager

_plain_import = builtins.__import__


@contextmanager
def plain_imports() -> Iterator[None]:
    """Import as Python does by itself, inside the block."""
    present = builtins.__import__
    builtins.__import__ = _plain_import
    try:
        yield
    finally:
        builtins.__import__ = present
