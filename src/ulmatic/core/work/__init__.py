"""Moving and laying: carriers, trips, hours, order of laying."""
