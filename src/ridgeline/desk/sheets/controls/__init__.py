"""The sheets of the Controls."""
