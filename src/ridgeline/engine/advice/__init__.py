"""Findings: what is right, what to look at and what to stop for, each with its reason and a way out."""
