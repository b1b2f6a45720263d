"""The application."""

from __future__ import annotations

import asyncio
import os
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse, Response
from starlette.staticfiles import StaticFiles

from signpost.desk.targets import Surroundings
from signpost.store.database import Database
from signpost.web.access import Access
from signpost.web.background import work_in_background
from signpost.web.errors import REFUSALS, install_errors
from signpost.web.hosting import serve_host
from signpost.web.readings import Readings
from signpost.web.routers import checks, jumps, measures, pages, parts, places, preview, sites, terms
from signpost.web.routers.folders import router as folders_router
from signpost.web.routers.publishing import router as publishing_router
from signpost.web.security import Guard
from signpost.web.watching import watch_folders
from signpost.web.workers import Processes, Threads

STATIC = Path(__file__).parent / "static"
#: Hosts that are answered for, beside those that SIGNPOST_HOSTS names.
LOCAL_HOSTS = ("localhost", "127.0.0.1", "::1")


def create_app(
    database: Database | None = None,
    hosts: tuple[str, ...] = (),
    workers: int = 0,
    key: str | None = None,
    folders: tuple[str, ...] = (),
    host: tuple[str, int] | None = None,
) -> FastAPI:
    """Return the application over a database; without one, over the one that DATABASE_URL names.

    Use cases run in so many `workers`, processes that can be stopped; without any, in threads of this process.
    With a `key`, nothing is answered until somebody has signed in with it. `folders` of this machine, and those
    within them, can be opened as sites, and are watched then. `host` is the folder of the practice host and its port;
    without it, there is none.
    """

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        app.state.database = database or Database(os.environ["DATABASE_URL"])
        url = app.state.database.url.render_as_string(hide_password=False)
        app.state.runner = Processes(url, workers) if workers else Threads(app.state.database)
        app.state.readings = Readings(app.state.runner)
        tasks = [asyncio.create_task(work_in_background(app.state.runner))] if workers else []
        tasks += [asyncio.create_task(watch_folders(app.state.runner))] if folders else []
        practice = None if host is None else serve_host(*host)
        yield
        if practice is not None:
            practice.should_exit = True
        for task in tasks:
            task.cancel()
        app.state.runner.close()
        if database is None:
            app.state.database.close()

    app = FastAPI(
        title="Humble Signpost",
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi",
        responses=REFUSALS,
    )
    app.state.folders = folders
    app.state.reach = Surroundings(
        folders,
        str(Path(host[0]).resolve()) if host else "",
        f"http://127.0.0.1:{host[1]}" if host else "",
        os.environ.get("SIGNPOST_SECRETS") or str(Path.home() / ".config" / "humble-signpost" / "secrets.json"),
    )
    app.add_middleware(Access, key=key)
    app.add_middleware(Guard, hosts=(*LOCAL_HOSTS, *hosts))
    install_errors(app)
    for router in (
        sites.router,
        pages.router,
        places.router,
        jumps.router,
        jumps.rules,
        measures.router,
        parts.router,
        terms.router,
        checks.router,
        folders_router,
        publishing_router,
        preview.router,
    ):
        app.include_router(router)

    @app.get("/api/health", include_in_schema=False)
    def health() -> dict[str, str]:
        """Tell that the application and its database answer; 503 where the database does not."""
        app.state.database.check()
        return {"state": "ready"}

    if (STATIC / "assets").is_dir():
        app.mount("/assets", StaticFiles(directory=STATIC / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def shell(path: str) -> Response:
        """Give the front end, whatever view of it the address names."""
        file = STATIC / "index.html"
        if path.startswith("api/") or not file.is_file():
            return Response("Nothing is here.", 404, media_type="text/plain")
        return FileResponse(file, headers={"cache-control": "no-cache"})

    return app
