"""Load the demo's sites through the same services that people use."""

import secrets
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from ulmatic.accounts import service as accounts
from ulmatic.accounts.models import User
from ulmatic.accounts.scope import Scope
from ulmatic.demo import EMAIL
from ulmatic.demo.sites import SITES
from ulmatic.survey import service as survey
from ulmatic.survey.models import SiteRow
from ulmatic.survey.schemas import NewLandmark, NewPlot, NewSite, Places

_NAMES = UUID("5f1d8c8e-3f0e-4c62-9a44-6d2f7a9c1e10")


def load(database: Session) -> None:
    """Make the demo's visitor, workspace, sites and plots where they are missing.

    What a visitor changed or deleted stays as it is.
    """
    user = accounts.find_user(database, EMAIL)
    if user is None:
        user = User(email=EMAIL, name="Demo visitor", password_hash=accounts.passwords.hash(secrets.token_hex()))
        database.add(user)
        database.flush()
        accounts.found_workspace(database, user, "Demo ground")
    scope = Scope(database, accounts.memberships(database, user)[0])
    for site in SITES:
        site_id = uuid5(_NAMES, site["name"])
        if database.get(SiteRow, (scope.workspace_id, site_id)) is not None:
            continue
        units = site["units"]
        own = {key: value for key, value in site.items() if key not in ("plots", "places", "landmarks")}
        survey.add_site(scope, NewSite.model_validate({**own, "id": site_id}))
        entries = [{**plot, "id": uuid5(site_id, plot["name"]), "units": units} for plot in site["plots"]]
        survey.add_plots(scope, site_id, [NewPlot.model_validate(entry) for entry in entries])
        places = {
            uuid5(site_id, name): {"x_m": x, "y_m": y, "turn_deg": turn}
            for name, (x, y, turn) in site["places"].items()
        }
        survey.put_places(scope, site_id, Places.model_validate({"places": places}))
        for one in site["landmarks"]:
            entry = {**one, "id": uuid5(site_id, one["name"]), "units": units}
            survey.add_landmark(scope, site_id, NewLandmark.model_validate(entry))
    database.commit()
