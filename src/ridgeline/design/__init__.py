"""The document: what a builder decided, frozen and validated. No computation lives here."""
