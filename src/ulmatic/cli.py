"""The command line: `python -m ulmatic COMMAND`."""

import gc
import getpass
import json
import os
import sys
from pathlib import Path
from typing import Annotated

import typer
import uvicorn

from ulmatic.platform.cluster import Cluster, ClusterError, default_folder

PROJECT = Path(__file__).parents[2]
cli = typer.Typer(no_args_is_help=True, add_completion=False, pretty_exceptions_enable=False)


def _cluster() -> Cluster:
    return Cluster(Path(os.environ.get("ULMATIC_DATA") or default_folder(PROJECT)))


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
def migrate(revision: str = "head") -> None:
    """Bring the database to a revision of its tables."""
    from ulmatic.migrations import upgrade  # noqa: PLC0415 - Alembic is slow to load
    from ulmatic.platform.settings import settings  # noqa: PLC0415

    upgrade(settings().database_url, revision)


@cli.command()
def load_demo() -> None:
    """Put the demo's invented sites into the database; a second time changes nothing."""
    from ulmatic.demo.load import load  # noqa: PLC0415
    from ulmatic.platform.database import engine_for, sessions_for  # noqa: PLC0415
    from ulmatic.platform.settings import settings  # noqa: PLC0415

    with sessions_for(engine_for(settings().database_url))() as session:
        load(session)


@cli.command()
def serve(port: int = 8420, host: str = "127.0.0.1") -> None:
    """Serve the application."""
    import ulmatic.app  # noqa: F401, PLC0415 - loaded now, so that it is frozen with the rest

    gc.collect()
    gc.freeze()
    uvicorn.run("ulmatic.app:create_app", factory=True, host=host, port=port, log_level="warning", access_log=False)


@cli.command()
def stand_in_chips(port: int = 8421, seed: int = 7, trouble: float = 0.1) -> None:
    """Run the simulated chip service on loopback; a share of its requests is dropped."""
    from ulmatic.standins.chips import create_service  # noqa: PLC0415

    uvicorn.run(create_service(seed, trouble=trouble), host="127.0.0.1", port=port, log_level="warning")


@cli.command()
def stand_in_weather(port: int = 8422, trouble: float = 0.1) -> None:
    """Run the simulated weather service on loopback; a share of its requests is dropped."""
    from ulmatic.standins.weather import create_service  # noqa: PLC0415

    uvicorn.run(create_service(trouble=trouble), host="127.0.0.1", port=port, log_level="warning")


@cli.command()
def openapi() -> None:
    """Print the OpenAPI document."""
    from ulmatic.app import create_app  # noqa: PLC0415

    _say(json.dumps(create_app().openapi(), indent=1, sort_keys=True))


@cli.command()
def advice_table() -> None:
    """Print the rules of advice as a table for the docs."""
    from ulmatic.core.recipe import advice_table as table  # noqa: PLC0415

    _say(table())


@cli.command()
def reset_password(email: Annotated[str, typer.Argument(help="Whose password is set anew")]) -> None:
    """Set somebody's password, asked for on the terminal; they are signed out everywhere."""
    from ulmatic.accounts.service import change_password, find_user  # noqa: PLC0415
    from ulmatic.platform.database import engine_for, sessions_for  # noqa: PLC0415
    from ulmatic.platform.settings import settings  # noqa: PLC0415

    with sessions_for(engine_for(settings().database_url))() as session:
        user = find_user(session, email)
        if user is None:
            sys.stderr.write("There is no account with this e-mail address.\n")
            raise typer.Exit(1)
        change_password(session, user, getpass.getpass("New password: "), None)
        session.commit()
