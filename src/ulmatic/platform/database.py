"""The connection to PostgreSQL and what every table shares."""

from collections.abc import Iterator
from datetime import datetime
from typing import Annotated, Any
from uuid import UUID, uuid4

from fastapi import Depends, Request
from pydantic_core import from_json
from sqlalchemy import DateTime, Engine, ForeignKeyConstraint, MetaData, create_engine, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, Session, mapped_column, sessionmaker

from ulmatic.platform.clock import MACHINE, Clock


class Base(DeclarativeBase):
    """Every table."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(column_0_N_label)s",
            "uq": "uq_%(table_name)s_%(column_0_N_name)s",
            "ck": "ck_%(table_name)s_%(constraint_name)s",
            "fk": "fk_%(table_name)s_%(column_0_N_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = {datetime: DateTime(timezone=True), dict[str, Any]: JSONB}  # noqa: RUF012


class Stamped:
    """Rows that know when they were written and in which version they are."""

    version: Mapped[int] = mapped_column(default=1)
    created_at: Mapped[datetime] = mapped_column(server_default=func.now())
    updated_at: Mapped[datetime] = mapped_column(server_default=func.now(), onupdate=func.now())


class WorkspaceRow:
    """Rows that belong to a customer; reach them through `ulmatic.accounts.scope.Scope` only.

    `named_later` says that other rows may name one that was deleted: those are kept.
    """

    noun = "entry"
    named_later = False
    workspace_id: Mapped[UUID] = mapped_column(primary_key=True, sort_order=-2)
    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4, sort_order=-1)
    deleted_at: Mapped[datetime | None] = mapped_column(default=None)


def of_workspace() -> ForeignKeyConstraint:
    """Return what ties a row to its workspace."""
    return ForeignKeyConstraint(["workspace_id"], ["workspaces.id"], ondelete="CASCADE")


def of_site() -> ForeignKeyConstraint:
    """Return what ties a row to its site."""
    return ForeignKeyConstraint(["workspace_id", "site_id"], ["sites.workspace_id", "sites.id"], ondelete="CASCADE")


def engine_for(url: str) -> Engine:
    """Return an engine that notices lost connections and does not wait long for new ones."""
    return create_engine(
        url,
        pool_pre_ping=True,
        pool_size=10,
        max_overflow=30,
        pool_timeout=5,
        json_deserializer=from_json,
        connect_args={"connect_timeout": 3},
    )


def sessions_for(engine: Engine, *, read_only: bool = False, clock: Clock | None = None) -> sessionmaker[Session]:
    """Return what opens database sessions on `engine`; nothing is noted in passing where it is `read_only`."""
    return sessionmaker(engine, expire_on_commit=False, info={"read_only": read_only, "clock": clock or MACHINE})


def clock_of(database: Session) -> Clock:
    """Return the clock that was handed to the application with its database sessions."""
    clock: Clock = database.info.get("clock", MACHINE)
    return clock


def database_session(request: Request) -> Iterator[Session]:
    """Open a session for one request; what is not committed is rolled back."""
    with request.app.state.sessions() as session:
        yield session


Database = Annotated[Session, Depends(database_session)]
