"""Brings the database up to date, seeds the demo where there is nothing, and serves."""

from __future__ import annotations

import os
import sys

import uvicorn
from sqlalchemy.exc import OperationalError, ProgrammingError

from signpost.desk.demo import seed_demo
from signpost.store.database import Database
from signpost.web.app import create_app


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
    sys.stderr.write(f"Humble Signpost is at http://127.0.0.1:{port}/ (Ctrl-C stops it)\n")
    uvicorn.run(
        create_app(database),
        host="127.0.0.1",
        port=port,
        log_level="warning",
        timeout_graceful_shutdown=3,
        server_header=False,
    )
    return 0


def _fail(message: str) -> int:
    sys.stderr.write(f"signpost: {message}\n")
    return 1


if __name__ == "__main__":
    sys.exit(main())
