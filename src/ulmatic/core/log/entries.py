"""An entry of the log: one of the kinds that are registered."""

from functools import reduce
from operator import or_
from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from ulmatic.core.log import kinds  # noqa: F401 - they enter themselves in the register
from ulmatic.core.log.log_record import KINDS, LogRecord

if TYPE_CHECKING:
    LogEntry = LogRecord
else:
    LogEntry = Annotated[reduce(or_, KINDS.values()), Field(discriminator="kind")]
