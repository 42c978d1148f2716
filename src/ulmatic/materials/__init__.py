"""The catalogue, own materials, guessing a load, mixing a heap: as kept and as served."""
