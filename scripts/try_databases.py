"""What several databases answer: see scripts/try_databases, which starts them."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from typing import Any

import httpx2
import psycopg
from psycopg import sql
from sqlalchemy.engine import URL, make_url

PAGE = (
    b'<!DOCTYPE html>\n<html lang="en">\n<title>Page</title>\n<h1>Page</h1>\n<h2 id="a">Boilers</h2>\n<p>Words.</p>\n'
)
MIDDLE = "80000000-0000-0000-0000-000000000000"  # of all identifiers of sites
PATIENCE = 20.0


@contextmanager
def served(url: str) -> Iterator[httpx2.Client]:
    """Serve the application from a database; give a client of it."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    server = subprocess.Popen(
        [sys.executable, "-m", "signpost.web.serve"],
        env={**os.environ, "PORT": str(port), "DATABASE_URL": url},
        stderr=subprocess.DEVNULL,
    )
    try:
        with httpx2.Client(base_url=f"http://127.0.0.1:{port}", timeout=PATIENCE) as client:
            for _ in range(200):
                try:
                    client.get("/api/health").raise_for_status()
                    break
                except httpx2.HTTPError:
                    time.sleep(0.1)
            yield client
    finally:
        server.send_signal(signal.SIGTERM)
        server.wait(30)


def new_site(client: httpx2.Client, name: str) -> str:
    """Make a site of one page, and read it; return its address."""
    made = client.post("/api/sites", json={"name": name}).raise_for_status().json()
    site = f"/api/sites/{made['site_id']}"
    client.post(f"{site}/files", files=[("files", ("p.html", PAGE))], data={"paths": "p.html"}).raise_for_status()
    client.get(f"{site}/reading").raise_for_status()
    return site


def change(client: httpx2.Client, site: str, words: str) -> httpx2.Response:
    """Give the second heading other words."""
    body = {"operation": "words", "page": "p.html", "section": 1, "words": words}
    plan = client.post(f"{site}/plans", json=body)
    if plan.is_error:
        return plan
    return client.post(f"{site}/changes", json=body, headers={"if-match": f'"{plan.json()["tag"]}"'})


def connect(url: URL) -> psycopg.Connection[Any]:
    """Return a connection of its own to a database."""
    return psycopg.connect(url.set(drivername="postgresql").render_as_string(hide_password=False), autocommit=True)


def try_replica(primary: str, replica: str) -> None:
    """Read from a database that follows another one."""
    with served(primary) as author, served(replica) as reader:
        site = new_site(author, "Followed")
        change(author, site, "Kettles").raise_for_status()
        asked = (f"{site}/page?path=p.html", f"{site}/findings", f"{site}/changes", f"{site}/takeout/site.zip")
        said = [author.get(one) for one in asked]
        start = time.perf_counter()
        while reader.get(asked[0]).text != said[0].text and time.perf_counter() - start < PATIENCE:
            time.sleep(0.01)
        print(f"replica: the change is there after {1000 * (time.perf_counter() - start):.0f} ms")
        for one, theirs in zip(asked, said, strict=True):
            mine = reader.get(one)
            same = mine.content == theirs.content or "takeout" in one
            print(f"  GET {one.rpartition('/')[2]:18} {mine.status_code} {'the same' if same else 'OTHER'}")
        refused = change(reader, site, "Pots")
        print(f"  a change there: {refused.status_code} {refused.text[:200]}")


def try_two(first: str, second: str) -> None:
    """Divide sites between two databases, and ask both at once through partitions of a third."""
    with ExitStack() as stack:
        clients = [stack.enter_context(served(url)) for url in (first, second)]
        sites = {}
        for half, client in enumerate(clients):
            while half not in sites:  # an id is drawn by chance; here, until one falls into the half
                site = new_site(client, f"In half {half}")
                if (site.rpartition("/")[2] >= MIDDLE) == bool(half):
                    sites[half] = site
                else:
                    client.delete(site).raise_for_status()
        for half, site in sites.items():
            change(clients[half], site, f"Words of half {half}").raise_for_status()
            other = clients[1 - half].get(f"{site}/page", params={"path": "p.html"})
            print(f"two databases: a site of half {half}: changed; asked of the other one: {other.status_code}")
        home = make_url(first)
        with connect(home) as one:
            one.execute("CREATE DATABASE seen")
        with connect(home.set(database="seen")) as seen:
            divide(seen, make_url(first), make_url(second))
            names = seen.execute("SELECT name FROM sites WHERE name LIKE 'In half%' ORDER BY name").fetchall()
            print(f"  all sites through partitions: {[name for (name,) in names]}")
            for half, site in sites.items():
                site_id = site.rpartition("/")[2]
                plan = seen.execute("EXPLAIN SELECT name FROM sites WHERE site_id = %s::uuid", [site_id]).fetchall()
                asked = [line.split(" on ")[1].split()[0] for (line,) in plan if "Foreign Scan on" in line]
                print(f"  one site of half {half} asks {asked}")
            seen.execute("UPDATE sites SET name = 'Through a partition' WHERE site_id = %s", [sites[1][-36:]])
            print(f"  renamed through a partition: {clients[1].get(sites[1]).json()['name']!r}")


def divide(seen: psycopg.Connection[Any], *halves: URL) -> None:
    """Make a table of sites whose partitions are those of other databases."""
    seen.execute("CREATE EXTENSION postgres_fdw")
    seen.execute("CREATE TABLE sites (site_id uuid, name text, files_revision bigint) PARTITION BY RANGE (site_id)")
    bounds = [sql.SQL("FROM (MINVALUE) TO ({})"), sql.SQL("FROM ({}) TO (MAXVALUE)")]
    for half, there in enumerate(halves):
        server, table = sql.Identifier(f"half_{half}"), sql.Identifier(f"sites_{half}")
        seen.execute(
            sql.SQL(
                "CREATE SERVER {} FOREIGN DATA WRAPPER postgres_fdw OPTIONS (host {}, port {}, dbname {})"
            ).format(server, str(there.host), str(there.port), str(there.database))
        )
        seen.execute(
            sql.SQL("CREATE USER MAPPING FOR CURRENT_USER SERVER {} OPTIONS (user {}, password {})").format(
                server, str(there.username), str(there.password)
            )
        )
        seen.execute(
            sql.SQL("CREATE FOREIGN TABLE {} PARTITION OF sites FOR VALUES {} SERVER {}").format(
                table, bounds[half].format(MIDDLE), server
            )
            + sql.SQL(" OPTIONS (table_name 'sites')")
        )


def main() -> None:
    """Try what docs/scaling.md says."""
    first, second, replica = sys.argv[1:]
    try_replica(first, replica)
    try_two(first, second)


if __name__ == "__main__":
    main()
