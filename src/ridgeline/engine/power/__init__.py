"""Pack, controller, motor and propeller: each link's law, and the point where they agree."""
