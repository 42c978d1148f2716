"""The snapshot of a site, and its plan."""
