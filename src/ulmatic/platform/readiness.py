"""Whether requests can be served: the database answers and can write, and this machine has room."""

import shutil
import tempfile
from datetime import datetime

from sqlalchemy import func, select, update
from sqlalchemy.orm import Mapped, Session, mapped_column

from ulmatic.platform.database import Base
from ulmatic.platform.problems import Problem

LEAST_FREE_BYTES = 100_000_000


class Readiness(Base):
    """One row, written to see whether rows can be written."""

    __tablename__ = "readiness"
    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    at: Mapped[datetime]


def check(database: Session, *, write: bool = True) -> None:
    """Raise the 503 problem where the disk is as good as full; database errors pass through.

    A row is written each time: a server whose disk is full still reads.
    """
    database.execute(update(Readiness).values(at=func.now()) if write else select(Readiness.at))
    database.commit()
    if shutil.disk_usage(tempfile.gettempdir()).free < LEAST_FREE_BYTES:
        raise Problem(503, "The disk is full.", headers={"Retry-After": "60"}, fault="disk")
