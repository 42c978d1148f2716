"""The catalogue, own materials, guessing a load, mixing a pile: as kept and as served."""
