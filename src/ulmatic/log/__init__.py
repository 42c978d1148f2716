"""What was seen and done on plots."""
