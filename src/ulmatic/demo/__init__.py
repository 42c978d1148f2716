"""The invented sites that the demo shows."""
