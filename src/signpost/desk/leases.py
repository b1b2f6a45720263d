"""Work on disks and networks that one process does at a time for a site, while no transaction stays open."""

from __future__ import annotations

import logging
import os
import socket
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from uuid import UUID, uuid4

from sqlalchemy.exc import IntegrityError, SQLAlchemyError

from signpost.desk.errors import ConflictError, NotThereError
from signpost.folders.processes import began
from signpost.store.database import Database
from signpost.store.leases import end_lease, renew_lease, take_lease

#: How long something is held without a sign of its holder, in seconds.
LEASE = 20.0
#: How often its holder gives one.
_SIGN = 5.0
#: How long somebody waits for what another one holds, and how often it is looked, in seconds.
PATIENCE = 40.0
_GLANCE = 0.03

_log = logging.getLogger(__name__)
_held_here: set[str] = set()


def this_host() -> str:
    """Return the name of this machine, as folders and holders are told apart by it."""
    return socket.gethostname()


@contextmanager
def held(database: Database, site_id: UUID, name: str) -> Iterator[None]:
    """Hold something of a site while the block runs, waiting for whoever has it.

    Raises NotThereError for a site that is not there, ConflictError where another one has it for too long.
    """
    holder = f"{this_host()} {os.getpid()} {began(os.getpid())} {uuid4()}"
    _take(database, site_id, name, holder)
    _held_here.add(holder)
    done = threading.Event()
    signs = threading.Thread(target=_renew, args=(database, site_id, name, holder, done), daemon=True)
    signs.start()
    try:
        yield
    finally:
        done.set()
        signs.join()
        _held_here.discard(holder)
        try:
            with database.transaction(lasting=False) as session:
                end_lease(session, site_id, name, holder)
        except SQLAlchemyError as error:  # it is seen to be nobody's
            _log.warning("what was held could not be let go: %s", error)


def _take(database: Database, site_id: UUID, name: str, holder: str) -> None:
    patience = time.monotonic() + PATIENCE
    while True:
        try:
            with database.transaction(lasting=False) as session:
                other = take_lease(session, site_id, name, holder, LEASE)
                if other and not _is_alive(other):
                    end_lease(session, site_id, name, other)
                    continue
        except IntegrityError as error:
            raise NotThereError("This site is not there any more. Go back to the list of sites.") from error
        if other is None:
            return
        if time.monotonic() > patience:
            raise ConflictError("Another window is at this just now. Wait until it is done, and try again.")
        time.sleep(_GLANCE)


def _renew(database: Database, site_id: UUID, name: str, holder: str, done: threading.Event) -> None:
    while not done.wait(_SIGN):
        try:
            with database.transaction(lasting=False) as session:
                renew_lease(session, site_id, name, holder, LEASE)
        except SQLAlchemyError as error:  # the next sign may come through
            _log.warning("a sign could not be given: %s", error)


def _is_alive(holder: str) -> bool:
    """Return whether a holder may still be at work; one of another machine is not known to end."""
    try:
        host, process, beginning, _ = holder.split(" ")
    except ValueError:
        return True
    if host != this_host():
        return True
    if int(process) == os.getpid():
        return holder in _held_here
    return began(int(process)) == beginning
