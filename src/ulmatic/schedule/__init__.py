"""Seasons, layings and the weather."""
