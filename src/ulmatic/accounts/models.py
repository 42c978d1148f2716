"""Tables of users, workspaces, memberships, sessions and invitations."""

from datetime import datetime
from enum import StrEnum
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import BigInteger, ForeignKey, Index, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from ulmatic.platform.database import Base


class Role(StrEnum):
    """What a member may do: a viewer reads, a crew member logs and edits, an owner also decides who may."""

    VIEWER = "viewer"
    CREW = "crew"
    OWNER = "owner"

    @property
    def rank(self) -> int:
        """Order of the roles; a higher one may do all that a lower one may."""
        return list(Role).index(self)


class User(Base):
    """A person who can sign in."""

    __tablename__ = "users"
    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    email: Mapped[str]
    name: Mapped[str]
    password_hash: Mapped[str]
    units: Mapped[str | None] = mapped_column(default=None)
    created_at: Mapped[datetime] = mapped_column(server_default=func.now())


Index("uq_users_email_lower", func.lower(User.email), unique=True)


class Workspace(Base):
    """A customer's own records."""

    __tablename__ = "workspaces"
    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str]
    practice: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    parameters: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    created_at: Mapped[datetime] = mapped_column(server_default=func.now())


class Membership(Base):
    """A user's role in a workspace."""

    __tablename__ = "memberships"
    workspace_id: Mapped[UUID] = mapped_column(ForeignKey("workspaces.id", ondelete="CASCADE"), primary_key=True)
    user_id: Mapped[UUID] = mapped_column(ForeignKey("users.id", ondelete="CASCADE"), primary_key=True, index=True)
    role: Mapped[str]
    user: Mapped[User] = relationship(lazy="joined")
    workspace: Mapped[Workspace] = relationship(lazy="joined")


class SignIn(Base):
    """A server-side session; the cookie's token is kept only as its SHA-256."""

    __tablename__ = "sign_ins"
    token_hash: Mapped[bytes] = mapped_column(primary_key=True)
    user_id: Mapped[UUID] = mapped_column(ForeignKey("users.id", ondelete="CASCADE"), index=True)
    expires_at: Mapped[datetime]
    user: Mapped[User] = relationship(lazy="joined")


class Invitation(Base):
    """A link that makes whoever opens it a member, once."""

    __tablename__ = "invitations"
    workspace_id: Mapped[UUID] = mapped_column(ForeignKey("workspaces.id", ondelete="CASCADE"), primary_key=True)
    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    token_hash: Mapped[bytes] = mapped_column(unique=True)
    role: Mapped[str]
    expires_at: Mapped[datetime]
    workspace: Mapped[Workspace] = relationship(lazy="joined")


class Attempt(Base):
    """An attempt at a secret, counted by every process; whose it was is kept as a digest only."""

    __tablename__ = "attempts"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    key: Mapped[str]
    at: Mapped[datetime] = mapped_column(server_default=func.now(), index=True)
    __table_args__ = (Index("ix_attempts_key_at", "key", "at"),)
