"""The one place that says how wide a band is: what is shown as ± is this many standard deviations, 90 % of a normal."""

BAND = 1.645
