"""The window: it draws reports and proposes edited documents."""
