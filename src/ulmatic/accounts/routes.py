"""Routes for accounts, workspaces, members and invitations."""

from typing import Annotated
from uuid import UUID

from fastapi import Depends, Request, Response

from ulmatic.accounts import passwords, service
from ulmatic.accounts.guards import attempts_of, limit_attempts, slow_down
from ulmatic.accounts.models import Membership, Role, User
from ulmatic.accounts.schemas import (
    AccountChange,
    EmailEntry,
    InvitationEntry,
    InvitationOut,
    InvitationView,
    Leaving,
    MemberOut,
    NewPasswordEntry,
    PasswordChange,
    PasswordEntry,
    RoleEntry,
    SessionOut,
    SignInEntry,
    SignInOut,
    SignUp,
    TokenEntry,
    UserOut,
    WorkspaceEntry,
    WorkspaceOut,
)
from ulmatic.accounts.scope import COOKIE, AccountHolder, OwnerScope, SignedIn, ViewerScope, account_holder
from ulmatic.accounts.tokens import digest
from ulmatic.platform.background import background_of
from ulmatic.platform.database import Database, clock_of
from ulmatic.platform.problems import Problem
from ulmatic.platform.routing import api_router
from ulmatic.platform.settings import Settings

router = api_router("accounts")


def _settings(request: Request) -> Settings:
    settings: Settings = request.app.state.settings
    return settings


App = Annotated[Settings, Depends(_settings)]


def _workspace(database: Database, member: Membership) -> WorkspaceOut:
    workspace = member.workspace
    clock = clock_of(database).turned(workspace.days_ahead)
    return WorkspaceOut(
        id=workspace.id,
        name=workspace.name,
        role=Role(member.role),
        leaves_at=workspace.leaves_at,
        clock_ahead_s=clock.ahead.total_seconds(),
    )


def session_of(database: Database, user: User | None, settings: Settings) -> SessionOut:
    """Say who is signed in, and what there is for them."""
    letters, mailbox = bool(settings.smtp_url), settings.mailbox_url or None
    if user is None:
        return SessionOut(user=None, workspaces=[], demo=settings.demo, letters=letters, mailbox=mailbox)
    return SessionOut(
        letters=letters,
        mailbox=mailbox,
        user=UserOut.model_validate(user, from_attributes=True),
        workspaces=[_workspace(database, member) for member in service.memberships(database, user)],
        demo=settings.demo,
    )


def start_session(
    database: Database, user: User, request: Request, response: Response, settings: Settings
) -> SessionOut:
    """Sign somebody in, and let the answer carry the cookie."""
    service.end_session(database, request.cookies.get(COOKIE))
    device = request.headers.get("user-agent", "")
    token = service.start_session(database, user, settings.session_days, device)
    database.commit()
    response.set_cookie(
        COOKIE,
        token,
        max_age=settings.session_days * 86_400,
        httponly=True,
        samesite="lax",
        secure=settings.secure_cookies,
        path="/",
    )
    return session_of(database, user, settings)


@router.get("/session")
def read_session(request: Request, database: Database, settings: App) -> SessionOut:
    """Say who is signed in."""
    return session_of(database, service.user_of(database, request.cookies.get(COOKIE)), settings)


async def _slowed(entry: SignInEntry, request: Request) -> None:
    await slow_down(request, entry.email)


@router.post("/session", dependencies=[Depends(_slowed)])
def sign_in(entry: SignInEntry, request: Request, response: Response, database: Database, settings: App) -> SessionOut:
    """Sign in; after wrong passwords the answer comes later."""
    try:
        user = service.check_password(database, entry.email, entry.password)
    except Problem:
        attempts_of(request).failed(entry.email)
        raise
    session = start_session(database, user, request, response, settings)
    attempts_of(request).succeeded(entry.email)
    return session


@router.delete("/session", status_code=204)
def sign_out(request: Request, response: Response, database: Database) -> None:
    """Sign out."""
    service.end_session(database, request.cookies.get(COOKIE))
    database.commit()
    response.delete_cookie(COOKIE, path="/")
    # What the browser has kept of sites goes too.
    response.headers["Clear-Site-Data"] = '"cache"'


@router.post("/accounts", status_code=201)
def sign_up(entry: SignUp, request: Request, response: Response, database: Database, settings: App) -> SessionOut:
    """Make an account and sign in."""
    limit_attempts(request, f"new account {entry.email.lower()}")
    return start_session(database, service.sign_up(database, entry), request, response, settings)


@router.patch("/account")
def change_account(entry: AccountChange, user: SignedIn, database: Database, settings: App) -> SessionOut:
    """Change one's own name and preferred units; a visitor of the demo keeps the name."""
    if entry.name != user.name:
        account_holder(user)
    user.name, user.units = entry.name, entry.units
    database.commit()
    return session_of(database, user, settings)


@router.post("/account/password", status_code=204)
def change_password(entry: PasswordChange, user: AccountHolder, request: Request, database: Database) -> None:
    """Change one's own password; other devices are signed out."""
    limit_attempts(request, f"password of {user.id}")
    if not passwords.checked(entry.current, user.password_hash)[0]:
        raise Problem(422, "The current password is incorrect.", field="current")
    service.change_password(database, user, entry.new, request.cookies.get(COOKIE))
    database.commit()


@router.post("/account/verification", status_code=204)
def verify(entry: TokenEntry, request: Request, database: Database) -> None:
    """Confirm an e-mail address by the link that was sent there."""
    limit_attempts(request)
    service.verify(database, entry.token)
    database.commit()


@router.post("/account/verification-letter", status_code=204)
def ask_for_verification(user: AccountHolder, request: Request, database: Database) -> None:
    """Have the letter sent again."""
    limit_attempts(request, f"letter to {user.email.lower()}")
    service.ask_for_verification(database, user)
    database.commit()
    background_of(request).start()


@router.post("/password-letters", status_code=204)
def forget_password(entry: EmailEntry, request: Request, database: Database) -> None:
    """Have a letter sent with which a new password is chosen; the answer is the same for an unknown address."""
    limit_attempts(request, f"letter to {entry.email.lower()}")
    service.forget_password(database, entry.email)
    database.commit()
    background_of(request).start()


@router.post("/passwords")
def renew_password(
    entry: NewPasswordEntry, request: Request, response: Response, database: Database, settings: App
) -> SessionOut:
    """Choose a new password by a letter's link, and sign in."""
    limit_attempts(request)
    user = service.renew_password(database, entry.token, entry.password)
    attempts_of(request).succeeded(user.email)
    return start_session(database, user, request, response, settings)


@router.get("/account/sign-ins")
def list_sign_ins(user: SignedIn, request: Request, database: Database) -> list[SignInOut]:
    """List where one is signed in."""
    current_hash = digest(request.cookies.get(COOKIE, ""))
    return [
        SignInOut(
            id=row.id,
            device=row.device,
            started_at=row.started_at,
            seen_at=row.seen_at,
            here=row.token_hash == current_hash,
        )
        for row in service.sign_ins(database, user)
    ]


@router.delete("/account/sign-ins/{sign_in_id}", status_code=204)
def end_sign_in(sign_in_id: UUID, user: SignedIn, database: Database) -> None:
    """Sign out somewhere else."""
    service.end_sign_in(database, user, sign_in_id)
    database.commit()


@router.post("/account/departure")
def leave(
    entry: PasswordEntry, user: AccountHolder, request: Request, response: Response, database: Database
) -> Leaving:
    """Delete one's account after a while; signing in before then takes that back."""
    limit_attempts(request, f"password of {user.id}")
    leaves_at = service.leave(database, user, entry.password)
    database.commit()
    response.delete_cookie(COOKIE, path="/")
    return Leaving(leaves_at=leaves_at)


@router.post("/workspaces", status_code=201)
def found_workspace(entry: WorkspaceEntry, user: AccountHolder, database: Database) -> WorkspaceOut:
    """Make another workspace."""
    member = service.found_workspace(database, user, entry.name)
    database.commit()
    return _workspace(database, member)


@router.patch("/workspaces/{workspace_id}")
def rename_workspace(entry: WorkspaceEntry, scope: OwnerScope) -> WorkspaceOut:
    """Rename a workspace."""
    scope.member.workspace.name = entry.name
    scope.commit()
    return _workspace(scope.session, scope.member)


@router.post("/workspaces/{workspace_id}/departure")
def leave_workspace(scope: OwnerScope, _holder: AccountHolder) -> Leaving:
    """Delete a workspace with all that is in it after a while; until then `restoration` takes that back."""
    leaves_at = scope.member.workspace.leaves_at = clock_of(scope.session).now() + service.GRACE
    scope.commit()
    return Leaving(leaves_at=leaves_at)


@router.post("/workspaces/{workspace_id}/restoration")
def restore_workspace(scope: OwnerScope) -> WorkspaceOut:
    """Keep a workspace that was to be deleted."""
    scope.member.workspace.leaves_at = None
    scope.commit()
    return _workspace(scope.session, scope.member)


@router.get("/workspaces/{workspace_id}/members")
def list_members(scope: ViewerScope) -> list[MemberOut]:
    """List the members."""
    return [_member(member) for member in service.members(scope.session, scope.workspace_id)]


def _member(member: Membership) -> MemberOut:
    return MemberOut(user_id=member.user_id, name=member.user.name, email=member.user.email, role=Role(member.role))


@router.patch("/workspaces/{workspace_id}/members/{user_id}")
def change_role(user_id: UUID, entry: RoleEntry, scope: OwnerScope) -> MemberOut:
    """Give a member another role."""
    member = service.member_of(scope.session, scope.workspace_id, user_id)
    service.change_role(scope.session, member, entry.role)
    scope.commit()
    return _member(member)


@router.delete("/workspaces/{workspace_id}/members/{user_id}", status_code=204)
def remove_member(user_id: UUID, scope: OwnerScope) -> None:
    """Take a member out of the workspace."""
    service.remove_member(scope.session, service.member_of(scope.session, scope.workspace_id, user_id))
    scope.commit()


@router.get("/workspaces/{workspace_id}/invitations")
def list_invitations(scope: OwnerScope) -> list[InvitationOut]:
    """List open invitations, without their links."""
    invitations = service.invitations(scope.session, scope.workspace_id)
    return [
        InvitationOut(id=invitation.id, role=Role(invitation.role), expires_at=invitation.expires_at)
        for invitation in invitations
    ]


@router.post("/workspaces/{workspace_id}/invitations", status_code=201)
def invite(entry: InvitationEntry, scope: OwnerScope, _holder: AccountHolder, request: Request) -> InvitationOut:
    """Make an invitation; the answer holds its token, this once, unless it is sent by e-mail."""
    if entry.email is not None:
        limit_attempts(request, f"letter to {entry.email.lower()}")
    invitation, token = service.invite(scope.session, scope.workspace_id, entry.role, entry.email)
    scope.commit()
    background_of(request).start()
    return InvitationOut(id=invitation.id, role=Role(invitation.role), expires_at=invitation.expires_at, token=token)


@router.delete("/workspaces/{workspace_id}/invitations/{invitation_id}", status_code=204)
def withdraw_invitation(invitation_id: UUID, scope: OwnerScope) -> None:
    """Withdraw an invitation."""
    service.withdraw(scope.session, scope.workspace_id, invitation_id)
    scope.commit()


@router.post("/invitation")
def read_invitation(entry: TokenEntry, request: Request, database: Database) -> InvitationView:
    """Say what an invitation is for; its secret stands in no address, so that it is in no log."""
    limit_attempts(request)
    invitation = service.open_invitation(database, entry.token)
    return InvitationView(workspace=invitation.workspace.name, role=Role(invitation.role))


@router.post("/invitation/acceptance")
def accept_invitation(entry: TokenEntry, user: AccountHolder, request: Request, database: Database) -> WorkspaceOut:
    """Join a workspace by an invitation."""
    limit_attempts(request)
    member = service.accept_invitation(database, user, entry.token)
    database.commit()
    return _workspace(database, member)
