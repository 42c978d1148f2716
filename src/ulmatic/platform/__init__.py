"""What every part of the application stands on."""
