"""The invented sites that the demo shows."""

EMAIL = "visitor@demo.invalid"
