"""The shipped samples as the menu offers them: their file, and what each is."""

from __future__ import annotations

SAMPLES = (
    ("whimbrel", "Saltmarsh Whimbrel, V-tail camera plane"),
    ("dunlin", "Sandbar Dunlin, swept tailless, printed"),
    ("avocet", "Tideline Avocet, canard pusher on booms"),
    ("turnstone", "Jetty Turnstone, small biplane"),
    ("plover", "Ridge Plover, sailplane with two wings"),
    ("lapwing", "Lopsided Lapwing, a pod on one wing"),
    ("stint", "Boathouse Stint, hundred grams for the hall"),
    ("heron", "Harbour Heron, twelve kilograms on wheels"),
    ("season", "Saltmarsh Whimbrel, a season flown"),
)
