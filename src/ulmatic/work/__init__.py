"""Moving and laying."""
