"""Ridgeline: sizes, balances and powers a scratch-built model aircraft, and shows its working."""

import os

# Matrices here are small and many: the threads of a linear algebra library would wait on one another, and on whatever
# else the machine does, longer than they save. It reads this once, when NumPy is first imported.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

__version__ = "0.1.0"
