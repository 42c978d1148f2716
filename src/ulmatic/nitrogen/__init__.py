"""The nitrogen account of plots."""
