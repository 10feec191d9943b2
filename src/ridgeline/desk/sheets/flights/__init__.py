"""The sheets of the Flights."""
