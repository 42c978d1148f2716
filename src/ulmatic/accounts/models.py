"""Tables of users, workspaces, memberships, sessions and invitations."""

from datetime import datetime
from enum import StrEnum
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import BigInteger, ForeignKey, Index, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from ulmatic.platform.database import Base, WorkspaceRow, of_site


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
    """A person who can sign in.

    `verified_at` is when the address was confirmed; `demo_until` when a visitor of the demo goes, `leaves_at` when
    somebody does who wants to go.
    """

    __tablename__ = "users"
    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    email: Mapped[str]
    name: Mapped[str]
    password_hash: Mapped[str]
    units: Mapped[str | None] = mapped_column(default=None)
    verified_at: Mapped[datetime | None] = mapped_column(default=None)
    demo_until: Mapped[datetime | None] = mapped_column(default=None, index=True)
    leaves_at: Mapped[datetime | None] = mapped_column(default=None, index=True)
    created_at: Mapped[datetime] = mapped_column(server_default=func.now())


Index("uq_users_email_lower", func.lower(User.email), unique=True)


class Workspace(Base):
    """A customer's own records; `leaves_at` is when they are deleted for good.

    `days_ahead` of the clock its days are counted: a demo can stand on a day of its own.
    """

    __tablename__ = "workspaces"
    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    name: Mapped[str]
    practice: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    parameters: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    crops: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}")
    days_ahead: Mapped[int] = mapped_column(default=0, server_default="0")
    leaves_at: Mapped[datetime | None] = mapped_column(default=None, index=True)
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
    """A server-side session; the cookie's token is kept only as its SHA-256, `device` as its browser calls itself."""

    __tablename__ = "sign_ins"
    token_hash: Mapped[bytes] = mapped_column(primary_key=True)
    user_id: Mapped[UUID] = mapped_column(ForeignKey("users.id", ondelete="CASCADE"), index=True)
    expires_at: Mapped[datetime]
    id: Mapped[UUID] = mapped_column(default=uuid4, server_default=func.gen_random_uuid(), unique=True)
    device: Mapped[str] = mapped_column(server_default="")
    started_at: Mapped[datetime] = mapped_column(server_default=func.now())
    seen_at: Mapped[datetime] = mapped_column(server_default=func.now())
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


class LinkRow(WorkspaceRow, Base):
    """A link to one site that needs no account: a calendar to subscribe to, or the site as a client sees it.

    It shows what `user_id` may see, who made it; its secret is kept as its SHA-256.
    """

    __tablename__ = "links"
    noun = "link"
    site_id: Mapped[UUID]
    kind: Mapped[str]
    user_id: Mapped[UUID]
    token_hash: Mapped[bytes]
    expires_at: Mapped[datetime]
    created_at: Mapped[datetime]
    __table_args__ = (of_site(), Index("ix_links_token_hash", "token_hash"))


class MailedToken(Base):
    """The secret of a link that was sent by e-mail, as its SHA-256; it works once."""

    __tablename__ = "mailed_tokens"
    token_hash: Mapped[bytes] = mapped_column(primary_key=True)
    user_id: Mapped[UUID] = mapped_column(ForeignKey("users.id", ondelete="CASCADE"), index=True)
    purpose: Mapped[str]
    expires_at: Mapped[datetime] = mapped_column(index=True)


class Letter(Base):
    """A letter that is to be sent by e-mail; it is gone once it was."""

    __tablename__ = "letters"
    id: Mapped[UUID] = mapped_column(primary_key=True, default=uuid4)
    purpose: Mapped[str]
    to: Mapped[str]
    user_id: Mapped[UUID | None] = mapped_column(ForeignKey("users.id", ondelete="CASCADE"), index=True)
    workspace_id: Mapped[UUID | None]
    invitation_id: Mapped[UUID | None]
    tries: Mapped[int] = mapped_column(default=0)
    due_at: Mapped[datetime] = mapped_column(index=True)


class Attempt(Base):
    """An attempt at a secret, counted by every process; whose it was is kept as a digest only."""

    __tablename__ = "attempts"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    key: Mapped[str]
    at: Mapped[datetime] = mapped_column(server_default=func.now(), index=True)
    __table_args__ = (Index("ix_attempts_key_at", "key", "at"),)
