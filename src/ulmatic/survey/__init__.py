"""Sites and their plots, as kept and as served."""
