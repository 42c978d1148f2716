"""Weather of sites, rules of renewal, forecasts and demand."""
