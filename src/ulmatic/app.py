"""The application: `/api/v1`, the health checks and the built web pages."""

import gc
from functools import partial
from hmac import compare_digest
from importlib import import_module
from pathlib import Path
from threading import Thread
from typing import Any
from uuid import UUID

from fastapi import FastAPI, Request
from fastapi.responses import FileResponse, Response
from fastapi.staticfiles import StaticFiles

from ulmatic import __version__
from ulmatic.accounts.guards import Attempts
from ulmatic.accounts.letters import Postman
from ulmatic.accounts.purge import purge
from ulmatic.accounts.routes import router as accounts
from ulmatic.accounts.scope import Scope, is_member
from ulmatic.demo.routes import router as demo
from ulmatic.errands.routes import router as errands
from ulmatic.errands.service import Doing, Errands, Tell
from ulmatic.heavy import HEAVY, workshop_of
from ulmatic.links.routes import router as links
from ulmatic.log.routes import router as log
from ulmatic.materials.routes import router as materials
from ulmatic.money.routes import router as money
from ulmatic.nitrogen.routes import router as nitrogen
from ulmatic.platform import problems, readiness, requests
from ulmatic.platform.background import Background, Chore
from ulmatic.platform.clock import Clock
from ulmatic.platform.database import Database, engine_for, sessions_for
from ulmatic.platform.metrics import exposition
from ulmatic.platform.problems import Problem, ProblemDetails, not_found
from ulmatic.platform.routing import name_of
from ulmatic.platform.settings import Settings
from ulmatic.platform.settings import settings as read_settings
from ulmatic.recipe.routes import router as recipe
from ulmatic.records.errands import ErrandRow
from ulmatic.schedule import weather
from ulmatic.schedule.routes import router as schedule
from ulmatic.schedule.weather import WeatherService
from ulmatic.site.own_figures import router as parameters
from ulmatic.site.photos import sweep_photos
from ulmatic.stock.routes import router as stock
from ulmatic.supply import offers
from ulmatic.supply.crews import Crews
from ulmatic.supply.routes import router as supply
from ulmatic.survey.exchange_routes import router as exchange
from ulmatic.survey.routes import router as survey
from ulmatic.work.day_routes import router as days
from ulmatic.work.routes import router as work
from ulmatic.work.row_routes import router as rows

HOUR_S = 3_600.0
ROUTERS = (
    accounts,
    demo,
    errands,
    survey,
    exchange,
    materials,
    recipe,
    parameters,
    supply,
    log,
    schedule,
    stock,
    work,
    days,
    rows,
    money,
    nitrogen,
    links,
)
"""In the order in which the API is described."""


def create_app(settings: Settings | None = None, clock: Clock | None = None) -> FastAPI:
    """Build the application.

    Parameters
    ----------
    settings : Settings, optional
        Read from the environment when not given.
    clock : Clock, optional
        What the settings say when not given.
    """
    settings = settings or read_settings()
    clock = clock or Clock.configured()
    requests.configure_logging()
    app = FastAPI(
        title="Ulmatic",
        version=__version__,
        openapi_url="/api/v1/openapi.json",
        docs_url=None,
        redoc_url=None,
        generate_unique_id_function=name_of,
    )
    app.state.settings = settings
    app.state.engine = engine_for(settings.database_url)
    app.state.sessions = sessions_for(app.state.engine, read_only=settings.read_only, clock=clock)
    app.state.crews = Crews(settings.chips_url) if settings.chips_url else None
    app.state.weather = WeatherService(settings.weather_url) if settings.weather_url else None
    app.state.errands = Errands(app.state.sessions, _errands(app) | HEAVY, set(HEAVY), workshop_of(settings))
    app.state.background = Background(_chores(app, settings))
    app.state.attempts = Attempts(app.state.sessions, settings.attempts)
    problems.install(app)
    requests.install(app, settings, is_member)
    # Including a router builds each of its routes again.
    app.router.routes.extend(route for router in ROUTERS for route in router.routes)
    app.openapi = partial(_described, app)  # type: ignore[method-assign]
    _health(app, settings)
    _pages(app, settings.web_dist)
    return app


def _described(app: FastAPI) -> dict[str, Any]:
    """Return the OpenAPI document; what a problem looks like stands in it once, not as a model of every answer."""
    document = FastAPI.openapi(app)
    parts = ProblemDetails.model_json_schema(ref_template="#/components/schemas/{model}")
    document["components"]["schemas"] |= {**parts.pop("$defs", {}), "ProblemDetails": parts}
    return document


def _errands(app: FastAPI) -> dict[str, Doing]:
    """Return what does each kind of errand; services outside are those of the application when it is done."""

    def hear_offers(scope: Scope, _errand: ErrandRow, _tell: Tell) -> None:
        offers.hear(scope, app.state.crews)

    def accept_offer(scope: Scope, errand: ErrandRow, _tell: Tell) -> None:
        offers.accept(scope, app.state.crews, UUID(errand.subject["offer_id"]), UUID(errand.subject["site_id"]))

    def decline_offer(_scope: Scope, errand: ErrandRow, _tell: Tell) -> None:
        if app.state.crews is not None:
            app.state.crews.decline(errand.subject["reference"])

    def hear_weather(scope: Scope, errand: ErrandRow, _tell: Tell) -> None:
        weather.refresh(scope, app.state.weather, UUID(errand.subject["site_id"]))

    return {
        "hear_offers": hear_offers,
        "accept_offer": accept_offer,
        "decline_offer": decline_offer,
        "hear_weather": hear_weather,
    }


def _chores(app: FastAPI, settings: Settings) -> list[Chore]:
    """Return what a process does besides answering."""
    chores = [Chore(app.state.errands.do_waiting), Chore(lambda: _purge(app), HOUR_S)]
    if settings.smtp_url:
        origin = settings.public_origin or f"http://{settings.allowed_hosts[0]}"
        postman = Postman(app.state.sessions, settings.smtp_url, settings.mail_from, origin)
        chores.append(Chore(postman.send_waiting))
    return chores


def _purge(app: FastAPI) -> None:
    with app.state.sessions() as database:
        purge(database)
        sweep_photos(database)


def served_app() -> FastAPI:
    """Build the application in a process that only serves it."""
    app = create_app()
    if not app.state.settings.read_only:
        app.state.background.start()
    # What tells how sure crops are is loaded while the first requests are answered.
    Thread(target=import_module, args=("scipy.special",), daemon=True).start()
    gc.collect()
    gc.freeze()
    # A request makes tens of thousands of short-lived objects: they need not be looked through each time.
    gc.set_threshold(300_000, 50, 100)
    return app


def _health(app: FastAPI, settings: Settings) -> None:
    @app.get("/healthz", include_in_schema=False)
    def healthz() -> dict[str, str]:
        """Say that the process is alive."""
        return {"status": "alive", "version": __version__}

    @app.get("/readyz", include_in_schema=False)
    def readyz(database: Database) -> dict[str, str]:
        """Say whether requests can be served; 503 while the database does not answer or cannot write."""
        readiness.check(database, write=not settings.read_only)
        return {"status": "ready"}

    @app.get("/metrics", include_in_schema=False)
    def metrics(request: Request) -> Response:
        """Return what was measured, to whoever brings the token."""
        token = request.headers.get("authorization", "").removeprefix("Bearer ")
        if not settings.metrics_token or not compare_digest(token.encode(), settings.metrics_token.encode()):
            raise not_found()
        return Response(exposition(), media_type="text/plain; version=0.0.4; charset=utf-8")


class NamedByContent(StaticFiles):
    """Files whose names change with their content: a browser asks for each of them once."""

    def file_response(self, *args: Any, **named: Any) -> Response:
        """Return a file with the word that it never changes."""
        response = super().file_response(*args, **named)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response


def _pages(app: FastAPI, dist: Path) -> None:
    if not (dist / "index.html").is_file():
        return
    app.mount("/assets", NamedByContent(directory=dist / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        """Serve a file of the web application, or its page for any address of its own."""
        if path.startswith("api/"):
            raise Problem(404, "There is nothing at this address.")
        try:
            file = (dist / path).resolve()
            servable = bool(path) and file.is_relative_to(dist.resolve()) and file.is_file()
        except (OSError, ValueError):
            raise Problem(400, "This address cannot be read.") from None
        if servable:
            return FileResponse(file)
        return FileResponse(dist / "index.html", headers={"Cache-Control": "no-cache"})
