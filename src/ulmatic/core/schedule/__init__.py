"""Seasons, layings and the years ahead."""
