"""What all values of the core are made of."""

from pydantic import BaseModel, ConfigDict


class Value(BaseModel):
    """A record that never changes; what checks its fields is built when the first of its kind is made."""

    model_config = ConfigDict(frozen=True, defer_build=True)
