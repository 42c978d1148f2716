"""Links to a site that need no account: its calendar, and what its client sees."""
