"""Loads, piles and their book."""
