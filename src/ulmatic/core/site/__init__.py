"""One site, one plan."""
