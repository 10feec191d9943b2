"""The Power: chain, match, flight, wash, bench and bin."""
