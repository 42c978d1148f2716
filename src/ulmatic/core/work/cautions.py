"""Who can get hurt: cautions as data, each tied to the task or condition that raises it."""

from ulmatic.core.tables import rows_of
from ulmatic.core.value import Value


class Caution(Value):
    """A caution: what it is about, and what to do; common practice, deferring to local codes and licensed practice."""

    key: str
    about: str
    words: str


CAUTIONS = {row["key"]: Caution.model_validate(row) for row in rows_of("cautions")}
"""By key, in the order in which they are shown."""
