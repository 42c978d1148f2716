"""A demo for everybody who steps in: a user and a workspace of their own that go again."""

from datetime import date, timedelta
from uuid import uuid4

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from ulmatic.accounts import passwords
from ulmatic.accounts import service as accounts
from ulmatic.accounts.models import User
from ulmatic.accounts.scope import Scope
from ulmatic.demo.load import load
from ulmatic.platform.database import clock_of
from ulmatic.platform.problems import Problem
from ulmatic.platform.settings import Settings

DOMAIN = "demo.invalid"


def new_visitor(database: Session, settings: Settings, on: date | None) -> User:
    """Make a visitor with a workspace of the demo's sites that stands on a day; today where None.

    Raises the 503 problem where as many are there as may be.
    """
    now = clock_of(database).now()
    if (database.scalar(select(func.count()).where(User.demo_until > now)) or 0) >= settings.demo_most:
        words = "The demo is full. Come back in one hour, or create an account."
        raise Problem(503, words, headers={"Retry-After": "3600"}, fault="busy")
    user = User(
        email=f"{uuid4().hex}@{DOMAIN}",
        name="Demo visitor",
        password_hash=passwords.unguessable(),
        demo_until=now + timedelta(hours=settings.demo_hours),
    )
    database.add(user)
    database.flush()
    member = accounts.found_workspace(database, user, "Demo ground")
    if on is not None:
        member.workspace.days_ahead = (on - now.date()).days
    load(Scope(database, member))
    return user
