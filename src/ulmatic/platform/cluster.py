"""A PostgreSQL server of our own on loopback, for people who do not run one.

It listens on 127.0.0.1 only, on a free port, wants a password kept beside its data, and leaves any other server
alone. PostgreSQL refuses to run as root, so root runs it as the system user `postgres`.
"""

import os
import pwd
import secrets
import shutil
import socket
import subprocess
import time
from dataclasses import dataclass
from pathlib import Path

STARTED_WITHIN_S = 60.0
FREE_WITHIN_S = 10.0
"""What is left of a killed server lets go of its port by then."""
_STILL_GOING = ("in use", "lock file")
_BINARIES = sorted(Path("/usr/lib/postgresql").glob("*/bin"), reverse=True)


class ClusterError(RuntimeError):
    """The server cannot be made or started; the text says what to do."""


def default_folder(project: Path) -> Path:
    """Return where the data of the project in `project` is kept."""
    if os.geteuid() == 0:
        return Path("/var/lib/ulmatic") / str(project.resolve()).strip("/").replace("/", "-")
    return project / ".data" / "postgres"


@dataclass(frozen=True)
class Cluster:
    """A data folder and the server that runs on it.

    Parameters
    ----------
    folder : Path
        Kept between runs.
    throwaway : bool
        True for test data: faster, not safe against power loss.
    backups : Path, optional
        Where backups are kept; the log of what is written goes there, so that any moment can be restored.
    """

    folder: Path
    throwaway: bool = False
    backups: Path | None = None

    @property
    def data(self) -> Path:
        """PostgreSQL's own folder."""
        return self.folder / "data"

    def run(self, program: str, *arguments: str) -> None:
        """Run a program of PostgreSQL, or ``cp``, as who owns the data."""
        if not _BINARIES:
            raise ClusterError("PostgreSQL's server is not installed. On Debian: apt-get install postgresql-15")
        command = [program if program == "cp" else str(_BINARIES[0] / program), *arguments]
        environment = {**os.environ, "HOME": str(self.folder)}
        if os.geteuid() == 0:
            command = [
                "setpriv",
                "--reuid=postgres",
                "--regid=postgres",
                "--init-groups",
                "--no-new-privs",
                "--",
                *command,
            ]
        outcome = subprocess.run(  # noqa: S603 - fixed programs, paths of our own
            command,
            env=environment,
            cwd="/",
            capture_output=True,
            text=True,
            check=False,
            stdin=subprocess.DEVNULL,
        )
        if outcome.returncode:
            log = self.folder / "server.log"
            tail = log.read_text(errors="replace")[-600:] if log.exists() else ""
            raise ClusterError(f"{program} failed: {(outcome.stderr or outcome.stdout).strip()}\n{tail}".strip())

    def _pass_file(self) -> Path:
        """Return a file as PostgreSQL's programs read passwords from."""
        file = self.folder / "pgpass"
        line = f"127.0.0.1:*:*:ulmatic:{(self.folder / 'password').read_text().strip()}\n"
        if not file.exists() or file.read_text() != line:
            file.touch(mode=0o600)
            file.write_text(line)
            self.hand_over(file)
        return file

    def hand_over(self, path: Path) -> None:
        """Give a file to who owns the data."""
        if os.geteuid() == 0:
            user = pwd.getpwnam("postgres")
            os.chown(path, user.pw_uid, user.pw_gid)

    def _reachable(self) -> None:
        if os.geteuid() != 0:
            return
        command = [
            "setpriv",
            "--reuid=postgres",
            "--regid=postgres",
            "--init-groups",
            "--",
            "test",
            "-x",
            str(self.folder),
        ]
        if subprocess.run(command, check=False).returncode:  # noqa: S603
            raise ClusterError(
                f"The system user postgres cannot enter {self.folder}. Set ULMATIC_DATA to a folder it can enter."
            )

    def own_folder(self, folder: Path) -> None:
        """Make a folder for who owns the data, and nobody else."""
        folder.mkdir(parents=True, exist_ok=True)
        self.hand_over(folder)
        folder.chmod(0o700)

    def make(self) -> None:
        """Make the data folder unless it is there; an interrupted attempt is cleared away first."""
        if (self.folder / "made").exists():
            return
        if self.data.exists():
            shutil.rmtree(self.data)
        self.own_folder(self.folder)
        self._reachable()
        password = self.folder / "password"
        password.touch(mode=0o600)
        password.write_text(secrets.token_urlsafe(24))
        self.hand_over(password)
        self.run(
            "initdb",
            "-D",
            str(self.data),
            "-U",
            "ulmatic",
            "--locale=C.UTF-8",
            "-E",
            "UTF8",
            "--auth=scram-sha-256",
            f"--pwfile={password}",
            *(["--no-sync"] if self.throwaway else []),
        )
        (self.folder / "made").touch()

    def _told(self) -> tuple[int, int, bool] | None:
        """Return process, port, and whether that process is a server on this folder, as a file tells of a server.

        It may be left of one that crashed; after a reboot the process it names can be any.
        """
        try:
            lines = (self.data / "postmaster.pid").read_text().splitlines()
            pid, port = int(lines[0]), int(lines[3])
        except (OSError, ValueError, IndexError):
            return None
        try:
            command = Path(f"/proc/{pid}/cmdline").read_bytes().split(b"\0")
        except OSError:
            return pid, port, False
        return pid, port, command[0].endswith(b"postgres") and str(self.data).encode() in command

    def port(self) -> int | None:
        """Return the port of the running server, or None."""
        process = self._told()
        return process[1] if process and process[2] else None

    def _forget_stranger(self) -> None:
        """Remove the file that names another program's process: PostgreSQL would take it for a server and not start.

        What names no process at all is left to PostgreSQL, which looks whether something of that server still runs.
        """
        process = self._told()
        if process is None or process[2]:
            return
        try:
            ended = Path(f"/proc/{process[0]}/stat").read_text().rpartition(")")[2].split()[0] in "ZX"
        except OSError:
            ended = True
        if not ended:
            (self.data / "postmaster.pid").unlink()

    def _kept_port(self) -> int:
        """Return the port that was used before, so that whoever knows the address finds the server again."""
        kept_in = self.folder / "port"
        try:
            port = int(kept_in.read_text())
        except (OSError, ValueError):
            port = 0
        deadline = time.monotonic() + FREE_WITHIN_S
        while port and not _is_free(port) and time.monotonic() < deadline:
            time.sleep(0.1)
        if not port or not _is_free(port):
            port = free_port()
            kept_in.write_text(str(port))
        return port

    def start(self, port: int | None = None) -> str:
        """Make and start the server unless it runs; return the address of its database `ulmatic`.

        One that was killed a moment ago may still look alive, or hold on to its memory: it is tried again for a while.
        """
        import psycopg

        self.make()
        deadline = time.monotonic() + STARTED_WITHIN_S
        while True:
            try:
                if self.port() is None:
                    self._launch(port)
                with psycopg.connect(self.address("postgres"), autocommit=True) as connection:
                    if not connection.execute("SELECT 1 FROM pg_database WHERE datname = 'ulmatic'").fetchone():
                        connection.execute("CREATE DATABASE ulmatic")
                return self.address("ulmatic")
            except (psycopg.OperationalError, ClusterError) as error:
                passing = not isinstance(error, ClusterError) or any(words in str(error) for words in _STILL_GOING)
                if not passing or time.monotonic() > deadline:
                    raise ClusterError(str(error)) from None
                time.sleep(0.1)

    def _launch(self, port: int | None) -> None:
        self._forget_stranger()
        options = f"-p {port or self._kept_port()} -c listen_addresses=127.0.0.1 -c unix_socket_directories=''"
        options += f" -c timezone=UTC{self._archiving()}"
        if self.throwaway:
            options += " -c fsync=off -c synchronous_commit=off -c full_page_writes=off -c max_connections=500"
        self.run("pg_ctl", "-D", str(self.data), "-l", str(self.folder / "server.log"), "-w", "-o", options, "start")

    def _archiving(self) -> str:
        """Return the options by which the log is kept beside the backups, where there is a place for them."""
        if self.backups is None:
            return ""
        log = self.backups / "wal"
        for folder in (self.backups, log):
            self.own_folder(folder)
        command = f"test ! -f {log}/%f && cp %p {log}/%f.part && mv {log}/%f.part {log}/%f"
        return f" -c archive_mode=on -c archive_timeout=60 -c archive_command='{command}'"

    def stop(self) -> None:
        """Stop the server if it runs."""
        if self.port() is not None:
            self.run("pg_ctl", "-D", str(self.data), "-w", "-m", "fast", "stop")

    def address(self, database: str) -> str:
        """Return the address of a database on the running server; it names the file with the password, not that."""
        return f"postgresql://ulmatic@127.0.0.1:{self.port()}/{database}?passfile={self._pass_file()}"


def _is_free(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def free_port() -> int:
    """Return a port on loopback that nothing listens on."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])
