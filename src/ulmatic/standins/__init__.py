"""Small simulated services that ship with the application; each says so in every answer."""
