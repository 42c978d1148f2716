"""Signing up, in and out; members and invitations."""

import hashlib
import secrets
from datetime import UTC, datetime, timedelta
from uuid import UUID

from pwdlib import PasswordHash
from sqlalchemy import delete, func, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from ulmatic.accounts.models import Invitation, Membership, Role, SignIn, User, Workspace
from ulmatic.accounts.schemas import SignUp
from ulmatic.platform.problems import Problem, not_found

passwords = PasswordHash.recommended()
_NOBODY = passwords.hash(secrets.token_hex())
INVITATION_DAYS = 14


def _hashed(token: str) -> bytes:
    return hashlib.sha256(token.encode()).digest()


def find_user(database: Session, email: str) -> User | None:
    """Return the user with this e-mail address, whatever its case."""
    return database.scalar(select(User).where(func.lower(User.email) == email.lower()))


def sign_up(database: Session, entry: SignUp) -> User:
    """Make an account, with a workspace of its own or by an invitation."""
    user = User(email=entry.email, name=entry.name, password_hash=passwords.hash(entry.password))
    taken = Problem(409, "There is an account with this e-mail address already. Sign in instead.", field="email")
    if find_user(database, entry.email):
        raise taken
    database.add(user)
    try:
        database.flush()
    except IntegrityError:
        raise taken from None
    if entry.invitation:
        accept_invitation(database, user, entry.invitation)
    else:
        found_workspace(database, user, entry.workspace or f"{entry.name}’s ground")
    return user


def found_workspace(database: Session, owner: User, name: str) -> Membership:
    """Make a workspace that `owner` owns."""
    workspace = Workspace(name=name)
    database.add(workspace)
    database.flush()
    member = Membership(workspace_id=workspace.id, user_id=owner.id, role=Role.OWNER)
    database.add(member)
    database.flush()
    return member


def check_password(database: Session, email: str, password: str) -> User:
    """Return the user whose password this is; takes as long for an unknown address as for a wrong password."""
    user = find_user(database, email)
    right, rehashed = passwords.verify_and_update(password, user.password_hash if user else _NOBODY)
    if user is None or not right:
        raise Problem(401, "This e-mail address and password do not go together.", field="password")
    if rehashed:
        user.password_hash = rehashed
    return user


def change_password(database: Session, user: User, password: str, keep_token: str | None) -> None:
    """Set a new password and end every other session."""
    user.password_hash = passwords.hash(password)
    others = delete(SignIn).where(SignIn.user_id == user.id)
    database.execute(others.where(SignIn.token_hash != _hashed(keep_token)) if keep_token else others)


def start_session(database: Session, user: User, days: int) -> str:
    """Sign `user` in and return the token for the cookie."""
    now = datetime.now(UTC)
    database.execute(delete(SignIn).where(SignIn.expires_at < now))
    token = secrets.token_urlsafe(32)
    database.add(SignIn(token_hash=_hashed(token), user_id=user.id, expires_at=now + timedelta(days=days)))
    return token


def end_session(database: Session, token: str | None) -> None:
    """Sign out."""
    if token:
        database.execute(delete(SignIn).where(SignIn.token_hash == _hashed(token)))


def user_of(database: Session, token: str | None) -> User | None:
    """Return the user signed in with `token`."""
    if not token:
        return None
    sign_in = database.get(SignIn, _hashed(token))
    return sign_in.user if sign_in and sign_in.expires_at > datetime.now(UTC) else None


def memberships(database: Session, user: User) -> list[Membership]:
    """Return the workspaces `user` belongs to, with the roles."""
    query = select(Membership).where(Membership.user_id == user.id).join(Membership.workspace)
    return list(database.scalars(query.order_by(func.lower(Workspace.name), Workspace.id)))


def members(database: Session, workspace_id: UUID) -> list[Membership]:
    """Return the members of a workspace by name."""
    query = select(Membership).where(Membership.workspace_id == workspace_id).join(Membership.user)
    return list(database.scalars(query.order_by(func.lower(User.name), User.id)))


def _owned_still(database: Session, member: Membership) -> None:
    """Raise unless somebody else owns the workspace; holds its owners' rows until the commit."""
    query = select(Membership.user_id).where(
        Membership.workspace_id == member.workspace_id, Membership.role == Role.OWNER
    )
    owners = database.scalars(query.order_by(Membership.user_id).with_for_update(of=Membership)).all()
    if not any(owner != member.user_id for owner in owners):
        raise Problem(409, "A workspace needs an owner. Make somebody else owner first.")


def member_of(database: Session, workspace_id: UUID, user_id: UUID) -> Membership:
    """Return one membership or raise the 404 problem."""
    member = database.get(Membership, (workspace_id, user_id))
    if member is None:
        raise not_found("member")
    return member


def change_role(database: Session, member: Membership, role: Role) -> None:
    """Give a member another role."""
    if member.role == Role.OWNER and role is not Role.OWNER:
        _owned_still(database, member)
    member.role = role


def remove_member(database: Session, member: Membership) -> None:
    """Take a member out of the workspace."""
    if member.role == Role.OWNER:
        _owned_still(database, member)
    database.delete(member)


def invite(database: Session, workspace_id: UUID, role: Role) -> tuple[Invitation, str]:
    """Make an invitation and return it with the token for its link, which is not kept."""
    token = secrets.token_urlsafe(24)
    invitation = Invitation(
        workspace_id=workspace_id,
        token_hash=_hashed(token),
        role=role,
        expires_at=datetime.now(UTC) + timedelta(days=INVITATION_DAYS),
    )
    database.add(invitation)
    database.flush()
    return invitation, token


def invitations(database: Session, workspace_id: UUID) -> list[Invitation]:
    """Return the invitations of a workspace that can still be used."""
    query = select(Invitation).where(Invitation.workspace_id == workspace_id)
    return list(
        database.scalars(query.where(Invitation.expires_at > datetime.now(UTC)).order_by(Invitation.expires_at))
    )


def withdraw(database: Session, workspace_id: UUID, invitation_id: UUID) -> None:
    """Make an invitation useless."""
    invitation = database.get(Invitation, (workspace_id, invitation_id))
    if invitation is None:
        raise not_found("invitation")
    database.delete(invitation)


def open_invitation(database: Session, token: str, *, take: bool = False) -> Invitation:
    """Return the invitation behind a link, locked for this transaction when it is to be taken."""
    query = select(Invitation).where(Invitation.token_hash == _hashed(token))
    invitation = database.scalar(query.with_for_update(of=Invitation) if take else query)
    if invitation is None or invitation.expires_at < datetime.now(UTC):
        raise Problem(404, "This invitation was used, withdrawn or is out of date. Ask for a new one.")
    return invitation


def accept_invitation(database: Session, user: User, token: str) -> Membership:
    """Make `user` a member by an invitation, which is then used up; nobody loses a higher role by it."""
    invitation = open_invitation(database, token, take=True)
    member = database.get(Membership, (invitation.workspace_id, user.id))
    if member is None:
        member = Membership(workspace_id=invitation.workspace_id, user_id=user.id, role=invitation.role)
        database.add(member)
    elif Role(member.role).rank < Role(invitation.role).rank:
        member.role = invitation.role
    database.delete(invitation)
    database.flush()
    return member
