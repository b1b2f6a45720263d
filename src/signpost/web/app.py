"""The application."""

from __future__ import annotations

import os
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse, Response
from starlette.staticfiles import StaticFiles

from signpost.store.database import Database
from signpost.web.errors import REFUSALS, install_errors
from signpost.web.routers import jumps, measures, pages, places, preview, sites, terms
from signpost.web.security import Guard

STATIC = Path(__file__).parent / "static"
#: Hosts that are answered for, beside those that SIGNPOST_HOSTS names.
LOCAL_HOSTS = ("localhost", "127.0.0.1", "::1")


def create_app(database: Database | None = None, hosts: tuple[str, ...] = ()) -> FastAPI:
    """Return the application over a database; without one, over the one that DATABASE_URL names."""

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        app.state.database = database or Database(os.environ["DATABASE_URL"])
        yield
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
    named = tuple(name.strip().lower() for name in os.environ.get("SIGNPOST_HOSTS", "").split(",") if name.strip())
    app.add_middleware(Guard, hosts=(*LOCAL_HOSTS, *named, *hosts))
    install_errors(app)
    for router in (
        sites.router,
        pages.router,
        places.router,
        jumps.router,
        jumps.rules,
        measures.router,
        terms.router,
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
