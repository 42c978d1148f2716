"""Quotes."""
