"""What the account routes take and answer."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import AfterValidator, BaseModel, StringConstraints
from pydantic_core import PydanticCustomError

from ulmatic.accounts.models import Role
from ulmatic.core.survey.plot import Name
from ulmatic.core.units import UnitSystem
from ulmatic.platform.typed import Entry


def _email(text: str) -> str:
    local, index, domain = text.partition("@")
    if not (local and index and "." in domain.strip(".")) or any(
        sign.isspace() or not sign.isprintable() for sign in text
    ):
        raise PydanticCustomError("text", "This is not an e-mail address. Type it like name@example.org.")
    return text


def _password(text: str) -> str:
    if len(text) < 10:
        raise PydanticCustomError("text", "Use at least 10 characters; four ordinary words are good.")
    if "\x00" in text:
        raise PydanticCustomError(
            "text", "The password contains a character that cannot be used. Please choose another one."
        )
    return text


Email = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200), AfterValidator(_email)]
NewPassword = Annotated[str, StringConstraints(max_length=200), AfterValidator(_password)]
Token = Annotated[str, StringConstraints(max_length=100, pattern=r"^[A-Za-z0-9_-]*$")]


class SignUp(Entry):
    """A new account; with an invitation's token it joins that workspace, else it founds one."""

    name: Name
    email: Email
    password: NewPassword
    workspace: Name | None = None
    invitation: Token | None = None


class SignInEntry(Entry):
    """E-mail address and password."""

    email: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]
    password: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class EmailEntry(Entry):
    """An e-mail address."""

    email: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]


class TokenEntry(Entry):
    """The secret of a link."""

    token: Token


class NewPasswordEntry(Entry):
    """A new password by a letter's link."""

    token: Token
    password: NewPassword


class PasswordEntry(Entry):
    """One's own password, for what cannot be taken back easily."""

    password: Annotated[str, StringConstraints(max_length=200)]


class UserOut(BaseModel):
    """The signed-in user; `units` is None where each site's own are used.

    `demo_until` is when a visitor of the demo goes.
    """

    id: UUID
    name: str
    email: str
    units: UnitSystem | None
    verified_at: datetime | None
    demo_until: datetime | None


class SignInOut(BaseModel):
    """Where somebody is signed in; `here` is this browser."""

    id: UUID
    device: str
    started_at: datetime
    seen_at: datetime
    here: bool


class Leaving(BaseModel):
    """When something is deleted for good."""

    leaves_at: datetime


class WorkspaceOut(BaseModel):
    """A workspace the user belongs to.

    `leaves_at` is when it is deleted for good; its clock stands `clock_ahead_s` ahead of the machine's.
    """

    id: UUID
    name: str
    role: Role
    leaves_at: datetime | None
    clock_ahead_s: float


class SessionOut(BaseModel):
    """Who is signed in; whether there is a demo, whether letters are sent, and where simulated ones are looked at."""

    user: UserOut | None
    workspaces: list[WorkspaceOut]
    demo: bool
    letters: bool
    mailbox: str | None


class AccountChange(Entry):
    """New name and preferred units."""

    name: Name
    units: UnitSystem | None = None


class PasswordChange(Entry):
    """The password until now, and the new one."""

    current: Annotated[str, StringConstraints(max_length=200)]
    new: NewPassword


class WorkspaceEntry(Entry):
    """A workspace's name."""

    name: Name


class MemberOut(BaseModel):
    """A member of a workspace."""

    user_id: UUID
    name: str
    email: str
    role: Role


class RoleEntry(Entry):
    """A role to give."""

    role: Role


class InvitationEntry(Entry):
    """A role to offer; with an e-mail address the link is sent there."""

    role: Role
    email: Email | None = None


class InvitationOut(BaseModel):
    """An open invitation; `token` is told once, when it is made and not sent by e-mail."""

    id: UUID
    role: Role
    expires_at: datetime
    token: str | None = None


class InvitationView(BaseModel):
    """What the holder of a link sees before accepting."""

    workspace: str
    role: Role
