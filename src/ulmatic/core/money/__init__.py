"""Prices, cost and quotes."""
