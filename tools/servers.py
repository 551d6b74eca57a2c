"""A real PostgreSQL server of the system's own packages, on a free port, for the tests: started once a worker, killed and restarted as they please."""

from __future__ import annotations

import contextlib
import os
import pwd
import shutil
import signal
import socket
import subprocess
import tempfile
import time
from pathlib import Path

PACKAGED = Path("/usr/lib/postgresql")
ADMIN, BENCH, OTHER_BENCH = "keeper", "bench_one", "bench_two"


def binaries() -> Path | None:
    """Where the server's programs are; None where there are none."""
    found = sorted(PACKAGED.glob("*/bin/initdb"), key=lambda p: int(p.parts[-3]))
    if found:
        return found[-1].parent
    on_path = shutil.which("initdb")
    return Path(on_path).resolve().parent if on_path else None


def _somebody() -> pwd.struct_passwd:
    """Whom root runs the server as: its own user, where its package made one."""
    try:
        return pwd.getpwnam("postgres")
    except KeyError:
        return pwd.getpwnam("nobody")


def _free_port() -> int:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


class Server:
    """One server in a folder of its own; no root may run it, so root runs it as somebody else."""

    def __init__(self, programs: Path, durable: bool = False) -> None:
        self.programs, self.folder = programs, Path(tempfile.mkdtemp(prefix="redline-server-"))
        self.port, self._databases = _free_port(), 0
        self.who = None
        if os.getuid() == 0:
            self.who = _somebody()
            os.chown(self.folder, self.who.pw_uid, self.who.pw_gid)
        self._run("initdb", "-D", str(self.data), "-U", ADMIN, "-A", "trust", "-E", "UTF8", "--locale=C", "-N")
        with (self.data / "postgresql.conf").open("a") as conf:
            conf.write(
                f"listen_addresses = '127.0.0.1'\nport = {self.port}\nunix_socket_directories = ''\nmax_connections = 60\nlog_min_messages = fatal\n"
            )
            if not durable:
                conf.write("fsync = off\n")  # its processes are killed here, never the machine under them
        self.start()

    @property
    def data(self) -> Path:
        return self.folder / "data"

    def _run(self, program: str, *given: str) -> None:
        who = {} if self.who is None else {"user": self.who.pw_uid, "group": self.who.pw_gid, "extra_groups": []}
        subprocess.run(
            [self.programs / program, *given], check=True, capture_output=True, cwd=self.folder, timeout=60, **who
        )

    def start(self) -> None:
        self._run("pg_ctl", "-D", str(self.data), "-l", str(self.folder / "log"), "-w", "-t", "30", "start")

    def stop(self, how: str = "immediate") -> None:
        self._run("pg_ctl", "-D", str(self.data), "-m", how, "-w", "stop")

    def kill(self) -> None:
        """As a power cut does it: everything of it dies at once."""
        head = int((self.data / "postmaster.pid").read_text().split()[0])
        os.kill(head, signal.SIGKILL)
        for _ in range(200):
            if not Path(f"/proc/{head}").exists():
                break
            time.sleep(0.01)
        time.sleep(0.05)  # its children see it and end
        (self.data / "postmaster.pid").unlink(missing_ok=True)

    def url(self, database: str, who: str = ADMIN, port: int | None = None) -> str:
        return f"postgresql://{who}@127.0.0.1:{port or self.port}/{database}"

    def sql(self, line: str, database: str = "postgres", who: str = ADMIN) -> list[tuple]:
        import psycopg

        with psycopg.connect(self.url(database, who), autocommit=True) as connection:
            cursor = connection.execute(line)
            return cursor.fetchall() if cursor.description else []

    def database(self, like: str = "template1") -> str:
        """A new database, empty or as another one is."""
        self._databases += 1
        name = f"shop{os.getpid()}_{self._databases}"
        self.sql(f"CREATE DATABASE {name} TEMPLATE {like}")
        return name

    def end(self) -> None:
        with contextlib.suppress(subprocess.CalledProcessError):
            self.stop()
        shutil.rmtree(self.folder, ignore_errors=True)
