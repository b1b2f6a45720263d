"""The practice host, served beside the desk on a port of its own."""

from __future__ import annotations

import threading
from pathlib import Path

import uvicorn

from signpost.hosting.practice import create_host


def serve_host(folder: str, port: int) -> uvicorn.Server:
    """Return the practice host of a folder, serving on loopback in a thread of its own until it is told to exit."""
    config = uvicorn.Config(
        create_host(Path(folder)), host="127.0.0.1", port=port, log_level="warning", server_header=False
    )
    server = uvicorn.Server(config)
    threading.Thread(target=_serve, args=(server,), daemon=True).start()
    return server


def _serve(server: uvicorn.Server) -> None:
    try:
        server.run()
    except SystemExit:  # the port is taken: the desk works without
        server.should_exit = True
