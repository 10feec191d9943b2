"""Ridgeline: sizes, balances and powers a scratch-built model aircraft, and shows its working."""

__version__ = "0.1.0"
