"""A PostgreSQL server of the distribution, on a socket of its own, as long as a test needs it."""

import os
import pwd
import shutil
import subprocess
import tempfile
from pathlib import Path

import psycopg


def programs() -> Path | None:
    """Where the server's programs lie; None where it is not installed."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/pg_ctl"), reverse=True)
    return found[0].parent if found else None


class Server:
    """`start` and `stop` may be called again and again: what was committed stays."""

    def __init__(self) -> None:
        self._programs = programs()
        self._folder = Path(tempfile.mkdtemp(prefix="even-beam-server-"))
        self._data = self._folder / "data"
        self._user = "postgres" if os.getuid() == 0 else None
        if self._user is not None:  # the server refuses to run as root
            owner = pwd.getpwnam(self._user)
            os.chown(self._folder, owner.pw_uid, owner.pw_gid)
        self._run("initdb", "-D", str(self._data), "-U", "bench", "-A", "trust", "--no-sync")

    def _run(self, name: str, *said: str) -> None:
        command = [str(self._programs / name), *said]
        subprocess.run(
            command, check=True, user=self._user, cwd=self._folder, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )

    @property
    def folder(self) -> Path:
        """Where its socket is."""
        return self._folder

    def start(self) -> None:
        """Start it; it answers when this returns."""
        options = f"-c listen_addresses= -c unix_socket_directories={self._folder} -c fsync=off"
        self._run("pg_ctl", "-D", str(self._data), "-o", options, "-w", "-s", "-l", str(self._folder / "log"), "start")

    def stop(self, mode: str = "immediate") -> None:
        """Stop it, as a power cut would unless said otherwise."""
        self._run("pg_ctl", "-D", str(self._data), "-m", mode, "-w", "-s", "stop")

    def address(self, database: str = "postgres", user: str = "bench") -> str:
        """Where a database of it is reached."""
        return f"postgresql://{user}@/{database}?host={self._folder}"

    def database(self, name: str) -> str:
        """A new database; its address."""
        self._admin(f'CREATE DATABASE "{name}"')
        return self.address(name)

    def save(self, database: str, name: str) -> None:
        """Keep a copy of a database, as a backup would."""
        self._admin(f'DROP DATABASE IF EXISTS "{name}"', f'CREATE DATABASE "{name}" TEMPLATE "{database}"')

    def put_back(self, database: str, name: str) -> None:
        """Put a database back to what was kept of it."""
        self._admin(f'DROP DATABASE "{database}" WITH (FORCE)', f'CREATE DATABASE "{database}" TEMPLATE "{name}"')

    def _admin(self, *statements: str) -> None:
        with psycopg.connect(self.address(), autocommit=True) as connection:
            for statement in statements:
                connection.execute(statement)

    def close(self) -> None:
        """Stop it for good."""
        self.stop()
        shutil.rmtree(self._folder)
