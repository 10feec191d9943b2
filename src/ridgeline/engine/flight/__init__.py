"""What was flown, put into numbers: charge and time, airspeed from passes, records, and what an entry cannot be."""
