"""Ulmatic plans wood chip mulching: from a tape measure to the seasons after."""

__version__ = "0.1.0"
