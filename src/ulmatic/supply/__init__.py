"""Suppliers, offers, deliveries, piles and quotes of a workspace."""
