"""From whom: suppliers, certainty, and the choice of loads."""
