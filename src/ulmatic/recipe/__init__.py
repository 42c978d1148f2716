"""Practices of a workspace, and what its plots' recipes depend on."""
