"""The command line: `python -m ulmatic COMMAND`."""

import getpass
import json
import os
import sys
from datetime import UTC, date, datetime
from pathlib import Path
from typing import Annotated, Any, NoReturn

import typer

from ulmatic.platform.clock import Clock
from ulmatic.platform.cluster import Cluster, ClusterError, default_folder

PROJECT = Path(__file__).parents[2]
MOST_YEARS = 10
FIRST_YEAR, LAST_YEAR = 1990, 2200
On = Annotated[str | None, typer.Option(help="The day on which it stands, like 2027-03-01; else today")]
cli = typer.Typer(no_args_is_help=True, add_completion=False, pretty_exceptions_enable=False)


def _cluster() -> Cluster:
    backups = os.environ.get("ULMATIC_BACKUPS")
    folder = Path(os.environ.get("ULMATIC_DATA") or default_folder(PROJECT))
    return Cluster(folder, backups=Path(backups).resolve() if backups else None)


def _say(text: str) -> None:
    sys.stdout.write(text + "\n")


@cli.command()
def start_database() -> None:
    """Start our own PostgreSQL and print its address."""
    try:
        _say(_cluster().start())
    except ClusterError as error:
        sys.stderr.write(f"{error}\n")
        raise typer.Exit(1) from None


@cli.command()
def stop_database() -> None:
    """Stop our own PostgreSQL."""
    _cluster().stop()


@cli.command()
def back_up(folder: Annotated[Path, typer.Argument(help="Where backups are kept")]) -> None:
    """Back up our own PostgreSQL while it runs, and check the copy."""
    from ulmatic.platform import backup

    try:
        _say(str(backup.back_up(_cluster(), folder.resolve())))
    except ClusterError as error:
        _refuse(str(error))


@cli.command()
def restore(
    copy: Annotated[Path, typer.Argument(help="A backup")],
    into: Annotated[Path, typer.Argument(help="A new folder for the restored server")],
    until: Annotated[datetime | None, typer.Option(help="A moment, UTC; else as late as the log goes")] = None,
) -> None:
    """Restore our own PostgreSQL beside the running one, start it and print its address."""
    from ulmatic.platform import backup

    copy, log = copy.resolve(), copy.resolve().parent / backup.WAL
    moment = until.replace(tzinfo=UTC) if until else None
    try:
        password = _cluster().folder / "password"
        restored = backup.restore(copy, log if log.is_dir() else None, password, into.resolve(), moment)
    except ClusterError as error:
        _refuse(str(error))
    _say(restored.address("ulmatic"))


@cli.command()
def rehearse_restore(folder: Annotated[Path, typer.Argument(help="Where backups are kept")]) -> None:
    """Back up, restore beside the running server, and compare every table; fails unless all are identical."""
    from ulmatic.platform import backup

    try:
        is_same = backup.rehearse(_cluster(), folder.resolve(), _say)
    except ClusterError as error:
        _refuse(str(error))
    if not is_same:
        _refuse("The restored copy is not the same.")


@cli.command()
def migrate(revision: str = "head") -> None:
    """Bring the database to a revision of its tables."""
    from ulmatic.migrations import upgrade
    from ulmatic.platform.settings import settings

    upgrade(settings().database_url, revision)


@cli.command()
def serve(port: int = 8420, host: str = "127.0.0.1", workers: Annotated[int, typer.Option(min=1, max=64)] = 1) -> None:
    """Serve the application in one process or several."""
    from ulmatic.platform.serving import serve as serve_in_processes
    from ulmatic.platform.settings import settings

    proxies = settings().proxies
    try:
        serve_in_processes(
            "ulmatic.app:served_app", host, port, workers, proxy_headers=bool(proxies), forwarded_allow_ips=proxies
        )
    except OSError as error:
        _refuse(f"{host}:{port} cannot be used: {error.strerror}.")


def _serve_stand_in(service: Any, port: int) -> None:
    import uvicorn

    uvicorn.run(service, host="127.0.0.1", port=port, log_level="warning")


@cli.command()
def stand_in_chips(port: int = 8421, seed: int = 7, trouble: float = 0.1, on: On = None) -> None:
    """Run the simulated chip service on loopback; a share of its requests is dropped."""
    from ulmatic.standins.chips import create_service

    _serve_stand_in(create_service(seed, _clock(on).now, trouble=trouble), port)


@cli.command()
def stand_in_weather(port: int = 8422, trouble: float = 0.1, on: On = None) -> None:
    """Run the simulated weather service on loopback; a share of its requests is dropped."""
    from ulmatic.standins.weather import create_service

    _serve_stand_in(create_service(_clock(on).today, trouble=trouble), port)


@cli.command()
def stand_in_mail(port: int = 8423, page_port: int = 8424) -> None:
    """Run the simulated mail server on loopback; what it got is looked at on a page."""
    from ulmatic.standins.mail import Mailbox, create_page

    mailbox = Mailbox()
    with mailbox.listening(port):
        _serve_stand_in(create_page(mailbox), page_port)


@cli.command()
def purge() -> None:
    """Delete what was given up long ago; the server does so by itself every hour."""
    from ulmatic.accounts.purge import purge as purge_rows
    from ulmatic.platform.database import engine_for, sessions_for
    from ulmatic.platform.settings import settings

    with sessions_for(engine_for(settings().database_url))() as session:
        for table, count in purge_rows(session).items():
            _say(f"{table}: {count}")


@cli.command()
def plan(
    archive: Annotated[Path, typer.Argument(help="A site archive")],
    on: On = None,
    years: Annotated[int, typer.Option(help="How far ahead, 1 to 10")] = 2,
    as_json: Annotated[bool, typer.Option("--json", help="JSON instead of a table")] = False,
    schema: Annotated[bool, typer.Option("--schema", help="Print the JSON Schema of --json instead")] = False,
) -> None:
    """Print the plan of a site's archive; no server and no database is needed."""
    from ulmatic.core.planning import PlanReport, plan_on, report, table
    from ulmatic.formats import FileRefused
    from ulmatic.formats.archive import read_archive

    if schema:
        _say(json.dumps(PlanReport.model_json_schema(by_alias=True), indent=1))
        return
    if not 1 <= years <= MOST_YEARS:
        _refuse(f"--years takes a whole number from 1 to {MOST_YEARS}.")
    day, clock = _day(on), _clock()
    try:
        site = read_archive(archive.read_bytes(), day or clock.today()).to_site()
    except OSError as error:
        _refuse(f"{archive} cannot be read: {error.strerror or 'it is not a file'}.")
    except FileRefused as refusal:
        _refuse(f"{archive}: {refusal}")
    answer = report(plan_on(site, day or clock.today(site.zone), years))
    _say(answer.model_dump_json(by_alias=True, indent=1) if as_json else table(answer))


def _day(on: str | None) -> date | None:
    """Return the day that was typed; refuse what is none."""
    try:
        day = None if on is None else date.fromisoformat(on)
    except ValueError:
        _refuse(f"“{on}” is not a date. Type it like 2027-03-01.")
    if day is not None and not FIRST_YEAR <= day.year <= LAST_YEAR:
        _refuse(f"--on takes a day from {FIRST_YEAR} to {LAST_YEAR}.")
    return day


def _clock(on: str | None = None) -> Clock:
    """Return the clock of this process; turned to a day where one was typed."""
    clock, day = Clock.configured(), _day(on)
    return clock if day is None else clock.turned((day - clock.today()).days)


def _refuse(sentence: str) -> NoReturn:
    sys.stderr.write(f"{sentence}\n")
    raise typer.Exit(2)


@cli.command()
def openapi() -> None:
    """Print the OpenAPI document."""
    from ulmatic.app import create_app

    _say(json.dumps(create_app().openapi(), indent=1, sort_keys=True))


@cli.command()
def advice_table() -> None:
    """Print the rules of advice as a table for the docs."""
    from ulmatic.core.recipe import advice_table as table

    _say(table())


@cli.command()
def decay_fit() -> None:
    """Fit the rates of decay to the evidence; print them, what is left out, and predicted beside observed."""
    from ulmatic.core.decay.evidence import EVIDENCE
    from ulmatic.core.decay.fit import fit, rates_table, table, without_each_source

    fitted, free = fit(), fit(exponent=None)
    _say(rates_table(fitted))
    _say(f"Exponent, fitted as well: {free.exponent:.2f} ± {free.exponent_spread:.2f}\n")
    _say(without_each_source())
    _say(table(EVIDENCE, lambda material: fitted.rates[material].value, fitted.pile.value))


@cli.command()
def reset_password(email: Annotated[str, typer.Argument(help="Whose password is set anew")]) -> None:
    """Set somebody's password, asked for on the terminal; they are signed out everywhere."""
    from ulmatic.accounts.service import change_password, find_user
    from ulmatic.platform.database import engine_for, sessions_for
    from ulmatic.platform.problems import Problem
    from ulmatic.platform.settings import settings

    with sessions_for(engine_for(settings().database_url))() as session:
        user = find_user(session, email)
        if user is None:
            sys.stderr.write("There is no account with this e-mail address.\n")
            raise typer.Exit(1)
        try:
            change_password(session, user, getpass.getpass("New password: "), None)
        except Problem as problem:
            _refuse(str(problem))
        session.commit()
