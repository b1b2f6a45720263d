"""Brings the database up to date, seeds the demo where there is nothing, and serves."""

from __future__ import annotations

import os
import sys
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

import uvicorn
from sqlalchemy.exc import OperationalError, ProgrammingError

from signpost.desk.demo import seed_demo
from signpost.store.database import Database
from signpost.web.access import KEY_CHARACTERS
from signpost.web.app import create_app

#: One process is left to people while another works on what nobody waits for.
FEWEST_WORKERS = 2
#: How many connections are open at once; a further one is told at once to come again.
MOST_CONNECTIONS = 400


def main() -> int:
    """Serve until interrupted; return the exit code."""
    port = int(os.environ.get("PORT", "8017"))
    try:
        database = Database(os.environ["DATABASE_URL"])
        database.migrate()
        seed_demo(database)
    except KeyError:
        return _fail("DATABASE_URL names no database; use ./start, which makes one.")
    except ValueError as error:
        return _fail(str(error))
    except (OperationalError, ProgrammingError) as error:
        reason = str(error.orig).strip().splitlines()
        return _fail(f"the database cannot be used: {reason[0] if reason else error}")
    try:
        reach = read_reach(os.environ)
    except ValueError as error:
        return _fail(str(error))
    host = (os.environ.get("SIGNPOST_HOST_FOLDER", "var/host"), port + 1) if reach.folders else None
    app = create_app(database, reach.hosts, reach.workers, reach.key, reach.folders, host)
    sys.stderr.write(f"Humble Signpost is at http://127.0.0.1:{port}/ (Ctrl-C stops it)\n")
    uvicorn.run(
        app,
        host="127.0.0.1",
        port=port,
        log_level="warning",
        timeout_graceful_shutdown=3,
        server_header=False,
        limit_concurrency=MOST_CONNECTIONS,
        proxy_headers=bool(reach.proxies),
        forwarded_allow_ips=list(reach.proxies),
    )
    return 0


@dataclass(frozen=True, slots=True)
class Reach:
    """From where the server is reached, and how."""

    hosts: tuple[str, ...]  # that it answers for, beside its own computer's names
    key: str | None
    proxies: tuple[str, ...]  # addresses whose forwarded headers are believed
    workers: int
    folders: tuple[str, ...]  # of this machine that can be opened as sites


def read_reach(environment: Mapping[str, str]) -> Reach:
    """Return what the environment says. Raises ValueError, with what to do, for what would leave the door open."""
    hosts, proxies = (_words(environment.get(name, "")) for name in ("SIGNPOST_HOSTS", "SIGNPOST_PROXIES"))
    key = environment.get("SIGNPOST_KEY", "").strip()
    file = environment.get("SIGNPOST_KEY_FILE", "").strip()
    if not key and file:
        try:
            key = Path(file).read_text(encoding="utf-8").strip()
        except (OSError, UnicodeDecodeError) as error:
            raise ValueError(f"SIGNPOST_KEY_FILE names {file}, which cannot be read: {error}") from error
    if hosts and not key:
        raise ValueError(
            "SIGNPOST_HOSTS lets others in, so a key is needed: set SIGNPOST_KEY, or SIGNPOST_KEY_FILE to a file "
            "that holds it."
        )
    if key and len(key) < KEY_CHARACTERS:
        raise ValueError(f"The key has {len(key)} characters; choose one of {KEY_CHARACTERS} or more.")
    workers = environment.get("SIGNPOST_WORKERS", "").strip() or str((os.cpu_count() or 1) + 1)
    if not workers.isdigit():
        raise ValueError("SIGNPOST_WORKERS is how many processes work on pages; 0 for none of their own.")
    named = environment.get("SIGNPOST_FOLDERS", "").strip()
    folders = () if hosts or proxies else tuple(named.split(os.pathsep) if named else [str(Path.home())])
    count = max(FEWEST_WORKERS, int(workers)) if int(workers) else 0
    return Reach(hosts, key or None, proxies, count, folders)


def _words(text: str) -> tuple[str, ...]:
    return tuple(word.strip().lower() for word in text.split(",") if word.strip())


def _fail(message: str) -> int:
    sys.stderr.write(f"signpost: {message}\n")
    return 1


if __name__ == "__main__":
    sys.exit(main())
