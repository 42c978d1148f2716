"""Routes for accounts, workspaces, members and invitations."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Depends, Request, Response

from ulmatic.accounts import service
from ulmatic.accounts.guards import limit_attempts
from ulmatic.accounts.models import Membership, Role, User
from ulmatic.accounts.schemas import (
    AccountChange,
    InvitationOut,
    InvitationView,
    MemberOut,
    PasswordChange,
    RoleEntry,
    SessionOut,
    SignInEntry,
    SignUp,
    Token,
    UserOut,
    WorkspaceEntry,
    WorkspaceOut,
)
from ulmatic.accounts.scope import COOKIE, OwnerScope, SignedIn, ViewerScope
from ulmatic.platform.database import Database
from ulmatic.platform.problems import Problem, not_found
from ulmatic.platform.settings import Settings

router = APIRouter(tags=["accounts"])


def _settings(request: Request) -> Settings:
    settings: Settings = request.app.state.settings
    return settings


App = Annotated[Settings, Depends(_settings)]


def _workspace(member: Membership) -> WorkspaceOut:
    return WorkspaceOut(id=member.workspace_id, name=member.workspace.name, role=Role(member.role))


def _session(database: Database, user: User | None, settings: Settings) -> SessionOut:
    if user is None:
        return SessionOut(user=None, workspaces=[], demo=settings.demo)
    return SessionOut(
        user=UserOut.model_validate(user, from_attributes=True),
        workspaces=[_workspace(member) for member in service.memberships(database, user)],
        demo=settings.demo,
    )


def _sign_in(database: Database, user: User, request: Request, response: Response, settings: Settings) -> SessionOut:
    service.end_session(database, request.cookies.get(COOKIE))
    token = service.start_session(database, user, settings.session_days)
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
    return _session(database, user, settings)


@router.get("/session")
def read_session(request: Request, database: Database, settings: App) -> SessionOut:
    """Say who is signed in."""
    return _session(database, service.user_of(database, request.cookies.get(COOKIE)), settings)


@router.post("/session")
def sign_in(entry: SignInEntry, request: Request, response: Response, database: Database, settings: App) -> SessionOut:
    """Sign in."""
    limit_attempts(request, entry.email)
    return _sign_in(
        database, service.check_password(database, entry.email, entry.password), request, response, settings
    )


@router.post("/session/demo")
def step_into_demo(request: Request, response: Response, database: Database, settings: App) -> SessionOut:
    """Sign in as the demo's visitor, where the demo is shown."""
    from ulmatic.demo import EMAIL  # noqa: PLC0415 - the demo uses the services

    user = service.find_user(database, EMAIL) if settings.demo else None
    if user is None:
        raise not_found("demo")
    return _sign_in(database, user, request, response, settings)


@router.delete("/session", status_code=204)
def sign_out(request: Request, response: Response, database: Database) -> None:
    """Sign out."""
    service.end_session(database, request.cookies.get(COOKIE))
    database.commit()
    response.delete_cookie(COOKIE, path="/")


@router.post("/accounts", status_code=201)
def sign_up(entry: SignUp, request: Request, response: Response, database: Database, settings: App) -> SessionOut:
    """Make an account and sign in."""
    limit_attempts(request, entry.email)
    return _sign_in(database, service.sign_up(database, entry), request, response, settings)


@router.patch("/account")
def change_account(entry: AccountChange, user: SignedIn, database: Database, settings: App) -> SessionOut:
    """Change one's own name and preferred units."""
    user.name, user.units = entry.name, entry.units
    database.commit()
    return _session(database, user, settings)


@router.post("/account/password", status_code=204)
def change_password(entry: PasswordChange, user: SignedIn, request: Request, database: Database) -> None:
    """Change one's own password; other devices are signed out."""
    limit_attempts(request, user.email)
    if not service.passwords.verify(entry.current, user.password_hash):
        raise Problem(422, "That is not your password until now.", field="current")
    service.change_password(database, user, entry.new, request.cookies.get(COOKIE))
    database.commit()


@router.post("/workspaces", status_code=201)
def found_workspace(entry: WorkspaceEntry, user: SignedIn, database: Database) -> WorkspaceOut:
    """Make another workspace."""
    member = service.found_workspace(database, user, entry.name)
    database.commit()
    return _workspace(member)


@router.patch("/workspaces/{workspace_id}")
def rename_workspace(entry: WorkspaceEntry, scope: OwnerScope) -> WorkspaceOut:
    """Rename a workspace."""
    scope.member.workspace.name = entry.name
    scope.commit()
    return _workspace(scope.member)


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
def invite(entry: RoleEntry, scope: OwnerScope) -> InvitationOut:
    """Make an invitation; the answer holds its token, this once."""
    invitation, token = service.invite(scope.session, scope.workspace_id, entry.role)
    scope.commit()
    return InvitationOut(id=invitation.id, role=Role(invitation.role), expires_at=invitation.expires_at, token=token)


@router.delete("/workspaces/{workspace_id}/invitations/{invitation_id}", status_code=204)
def withdraw_invitation(invitation_id: UUID, scope: OwnerScope) -> None:
    """Withdraw an invitation."""
    service.withdraw(scope.session, scope.workspace_id, invitation_id)
    scope.commit()


@router.get("/invitations/{token}")
def read_invitation(token: Token, request: Request, database: Database) -> InvitationView:
    """Say what an invitation is for."""
    limit_attempts(request)
    invitation = service.open_invitation(database, token)
    return InvitationView(workspace=invitation.workspace.name, role=Role(invitation.role))


@router.post("/invitations/{token}/acceptance")
def accept_invitation(token: Token, user: SignedIn, request: Request, database: Database) -> WorkspaceOut:
    """Join a workspace by an invitation."""
    limit_attempts(request)
    member = service.accept_invitation(database, user, token)
    database.commit()
    return _workspace(member)
