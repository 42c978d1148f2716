"""Signing up, in and out; members and invitations."""

from datetime import datetime, timedelta
from uuid import UUID

from sqlalchemy import delete, func, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from ulmatic.accounts import letters, passwords
from ulmatic.accounts.models import Invitation, Membership, Role, SignIn, User, Workspace
from ulmatic.accounts.schemas import SignUp
from ulmatic.accounts.tokens import digest, new_token
from ulmatic.platform.database import clock_of
from ulmatic.platform.problems import Problem, not_found

INVITATION_DAYS = 14
GRACE = timedelta(days=14)
"""Between wanting to go and being deleted."""
SEEN_EVERY = timedelta(minutes=10)
MOST_WORKSPACES, MOST_MEMBERS, MOST_INVITATIONS = 20, 200, 50


def find_user(database: Session, email: str) -> User | None:
    """Return the user with this e-mail address, whatever its case."""
    return database.scalar(select(User).where(func.lower(User.email) == email.lower()))


def sign_up(database: Session, entry: SignUp) -> User:
    """Make an account, with a workspace of its own or by an invitation."""
    password_hash = passwords.hashed(entry.password, "password", entry.name, entry.email, entry.workspace or "")
    user = User(email=entry.email, name=entry.name, password_hash=password_hash)
    conflict = Problem(409, "An account with this e-mail address already exists. Sign in instead.", field="email")
    if find_user(database, entry.email):
        raise conflict
    database.add(user)
    try:
        database.flush()
    except IntegrityError:
        raise conflict from None
    if entry.invitation:
        accept_invitation(database, user, entry.invitation)
    else:
        found_workspace(database, user, entry.workspace or f"{entry.name}’s ground")
    letters.write(database, "verification", user.email, user, None)
    return user


def found_workspace(database: Session, owner: User, name: str) -> Membership:
    """Make a workspace that `owner` owns."""
    if len(memberships(database, owner)) >= MOST_WORKSPACES:
        raise Problem(409, f"One person can be a member of {MOST_WORKSPACES} workspaces at most.")
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
    right, renewed = passwords.checked(password, user.password_hash if user else None)
    if user is None or not right:
        raise Problem(401, "The e-mail address or the password is incorrect.", field="password")
    if renewed:
        user.password_hash = renewed
    return user


def change_password(database: Session, user: User, password: str, keep_token: str | None, field: str = "new") -> None:
    """Set a new password and end every other session."""
    user.password_hash = passwords.hashed(password, field, user.name, user.email)
    others = delete(SignIn).where(SignIn.user_id == user.id)
    database.execute(others.where(SignIn.token_hash != digest(keep_token)) if keep_token else others)


def ask_for_verification(database: Session, user: User) -> None:
    """Have the address of a user confirmed by a letter."""
    if user.verified_at is None:
        letters.write(database, "verification", user.email, user, None)


def verify(database: Session, token: str) -> None:
    """Keep that an address was confirmed."""
    user_id = letters.use_token(database, token, "verification")
    user = None if user_id is None else database.get(User, user_id)
    if user is None:
        raise Problem(404, "This link was already used or has expired. Ask for a new e-mail in your account.")
    user.verified_at = clock_of(database).now()


def forget_password(database: Session, email: str) -> None:
    """Have a letter sent with which a new password is chosen; nobody learns whether there is such an account."""
    user = find_user(database, email)
    if user is not None and user.demo_until is None:
        letters.write(database, "password", user.email, user, None)


def renew_password(database: Session, token: str, password: str) -> User:
    """Choose a new password by a letter's link; every session ends, and the address is confirmed by it."""
    user_id = letters.use_token(database, token, "password")
    user = None if user_id is None else database.get(User, user_id)
    if user is None:
        raise Problem(404, "This link was already used or has expired. Ask for a new e-mail.")
    change_password(database, user, password, None, "password")
    user.verified_at = user.verified_at or clock_of(database).now()
    return user


def start_session(database: Session, user: User, days: int, device: str) -> str:
    """Sign `user` in and return the token for the cookie; who wanted to go and comes back stays."""
    now = clock_of(database).now()
    if user.leaves_at is not None:
        for member in memberships(database, user):
            if member.workspace.leaves_at == user.leaves_at:
                member.workspace.leaves_at = None
        user.leaves_at = None
    database.execute(delete(SignIn).where(SignIn.expires_at < now))
    token = new_token()
    until = now + timedelta(days=days)
    if user.demo_until is not None:
        until = min(until, user.demo_until)
    database.add(SignIn(token_hash=digest(token), user_id=user.id, expires_at=until, device=device[:200]))
    return token


def sign_ins(database: Session, user: User) -> list[SignIn]:
    """Return where somebody is signed in, the last seen first."""
    query = select(SignIn).where(SignIn.user_id == user.id, SignIn.expires_at > clock_of(database).now())
    return list(database.scalars(query.order_by(SignIn.seen_at.desc(), SignIn.id)))


def end_sign_in(database: Session, user: User, sign_in_id: UUID) -> None:
    """Sign somebody out where they are signed in."""
    ended = delete(SignIn).where(SignIn.user_id == user.id, SignIn.id == sign_in_id)
    if not database.execute(ended.returning(SignIn.id)).all():
        raise not_found("sign-in")


def leave(database: Session, user: User, password: str) -> datetime:
    """Let an account go after a while, with the workspaces of which nobody else is a member; return when.

    Signing in before then takes it back.
    """
    if not passwords.checked(password, user.password_hash)[0]:
        raise Problem(422, "The password is incorrect.", field="password")
    leaves_at = clock_of(database).now() + GRACE
    for member in memberships(database, user):
        others = len(members(database, member.workspace_id)) > 1
        if member.role == Role.OWNER and others:
            _owned_still(database, member)
        if not others:
            member.workspace.leaves_at = leaves_at
    user.leaves_at = leaves_at
    database.execute(delete(SignIn).where(SignIn.user_id == user.id))
    return leaves_at


def end_session(database: Session, token: str | None) -> None:
    """Sign out."""
    if token:
        database.execute(delete(SignIn).where(SignIn.token_hash == digest(token)))


def user_of(database: Session, token: str | None) -> User | None:
    """Return the user signed in with `token`."""
    if not token:
        return None
    sign_in, now = database.get(SignIn, digest(token)), clock_of(database).now()
    if sign_in is None or sign_in.expires_at < now:
        return None
    if sign_in.seen_at < now - SEEN_EVERY and not database.info.get("read_only"):
        sign_in.seen_at = now
        database.commit()
    return sign_in.user


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
        raise Problem(409, "A workspace needs an owner. Make another member owner first.")


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


def invite(database: Session, workspace_id: UUID, role: Role, email: str | None) -> tuple[Invitation, str | None]:
    """Make an invitation and return it with the token for its link, which is not kept.

    With an e-mail address the link goes there and to nobody else.
    """
    if len(invitations(database, workspace_id)) >= MOST_INVITATIONS:
        raise Problem(409, f"{MOST_INVITATIONS} invitations are open. Withdraw some first.")
    token = new_token()
    invitation = Invitation(
        workspace_id=workspace_id,
        token_hash=digest(token),
        role=role,
        expires_at=clock_of(database).now() + timedelta(days=INVITATION_DAYS),
    )
    database.add(invitation)
    database.flush()
    if email is None:
        return invitation, token
    letters.write(database, "invitation", email, None, invitation)
    return invitation, None


def invitations(database: Session, workspace_id: UUID) -> list[Invitation]:
    """Return the invitations of a workspace that can still be used."""
    query = select(Invitation).where(Invitation.workspace_id == workspace_id)
    return list(
        database.scalars(query.where(Invitation.expires_at > clock_of(database).now()).order_by(Invitation.expires_at))
    )


def withdraw(database: Session, workspace_id: UUID, invitation_id: UUID) -> None:
    """Make an invitation useless."""
    invitation = database.get(Invitation, (workspace_id, invitation_id))
    if invitation is None:
        raise not_found("invitation")
    database.delete(invitation)


def open_invitation(database: Session, token: str, *, take: bool = False) -> Invitation:
    """Return the invitation behind a link, locked for this transaction when it is to be taken."""
    query = select(Invitation).where(Invitation.token_hash == digest(token))
    invitation = database.scalar(query.with_for_update(of=Invitation) if take else query)
    if invitation is None or invitation.expires_at < clock_of(database).now():
        raise Problem(404, "This invitation was already used, withdrawn or has expired. Ask for a new one.")
    return invitation


def accept_invitation(database: Session, user: User, token: str) -> Membership:
    """Make `user` a member by an invitation, which is then used up; nobody loses a higher role by it."""
    invitation = open_invitation(database, token, take=True)
    member = database.get(Membership, (invitation.workspace_id, user.id))
    if member is None:
        if len(members(database, invitation.workspace_id)) >= MOST_MEMBERS:
            raise Problem(409, f"A workspace has {MOST_MEMBERS} members at most.")
        member = Membership(workspace_id=invitation.workspace_id, user_id=user.id, role=invitation.role)
        database.add(member)
    elif Role(member.role).rank < Role(invitation.role).rank:
        member.role = invitation.role
    database.delete(invitation)
    database.flush()
    return member
