"""Who may see and change what."""
