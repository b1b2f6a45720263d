"""The commands `desk` and `demo`: a folder opened at the desk, and the demo's files to try it on."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import time
import urllib.error
import urllib.request
import webbrowser
from pathlib import Path
from typing import Annotated, Any

import typer

import signpost
from signpost.cli.folder import tell
from signpost.cli.stopping import StoppedError
from signpost.core.text.errors import InputError, RequestError

#: How long a server that is being set up is waited for, in seconds: on a new machine it installs what it needs.
_PATIENCE = 1_800
_DEMO = Path(signpost.__file__).parent / "demo" / "site"
_START = Path(signpost.__file__).parents[2] / "start"


def demo(
    folder: Annotated[Path, typer.Argument(metavar="DIR", help="A new folder, or one that is empty.")],
) -> None:
    """Copy the demo's files to a folder: a made-up railway's handbook with its mistakes, to try everything on."""
    if folder.exists() and (not folder.is_dir() or any(folder.iterdir())):
        raise RequestError(f"{folder} is there already, with something in it. Name a new folder.")
    files = sorted(file for file in _DEMO.rglob("*") if file.is_file())
    try:
        for file in files:
            copy = folder / file.relative_to(_DEMO)
            copy.parent.mkdir(parents=True, exist_ok=True)
            copy.write_bytes(file.read_bytes())
    except OSError as error:
        raise RequestError(f"{folder} cannot be written: {error.strerror or error}.") from error
    tell(f"{len(files)} files are in {folder}. Open them with: signpost desk {folder}")


def desk(
    folder: Annotated[Path, typer.Argument(metavar="DIR", help="The site's folder.")],
    port: Annotated[
        int, typer.Option("--port", min=1, max=65535, help="Where the application is, or will be.")
    ] = 8017,
    browse: Annotated[bool, typer.Option("--browser/--no-browser", help="Open the desk in a browser.")] = True,
) -> None:
    """Open a folder at the desk, where it stays the folder it is: what either side saves, the other has at once.

    The application is started where it is not running, and stops with this command then.
    """
    if not folder.is_dir():
        raise RequestError(f"{folder} is not a folder.")
    root, server = folder.resolve(), f"http://127.0.0.1:{port}"
    started = None if _answers(server) else _start(server, port, root)
    try:
        site = _ask(server, "/api/folders", {"path": str(root)})
        address = f"{server}/sites/{site['site_id']}"
        typer.echo(address)
        if browse:
            webbrowser.open(address)
        if started is not None:
            tell("Ctrl-C stops the desk; the folder stays as it is.")
            started.wait()
    except StoppedError:
        pass
    finally:
        if started is not None and started.poll() is None:
            started.terminate()
            started.wait()


def _answers(server: str) -> bool:
    try:
        with urllib.request.urlopen(f"{server}/api/health", timeout=5) as answer:  # noqa: S310 - our own, on loopback
            return bool(json.load(answer).get("state") == "ready")
    except (OSError, ValueError, AttributeError):
        return False


def _start(server: str, port: int, root: Path) -> subprocess.Popen[bytes]:
    """Return the application, started and answering. Raises InputError where that cannot be done."""
    if not _START.is_file():
        raise InputError(f"The application does not answer at {server}. Start it with ./start, then try again.")
    folders = os.environ.get("SIGNPOST_FOLDERS") or os.pathsep.join(dict.fromkeys([str(Path.home()), str(root)]))
    tell("Starting the application…")
    process = subprocess.Popen(  # noqa: S603 - the script that is beside this package
        [str(_START)], env={**os.environ, "PORT": str(port), "SIGNPOST_FOLDERS": folders}, stdout=sys.stderr
    )
    until = time.monotonic() + _PATIENCE
    while time.monotonic() < until:
        if process.poll() is not None:
            raise InputError("The application could not be started; the reason stands above.")
        if _answers(server):
            return process
        time.sleep(0.3)
    process.terminate()
    raise InputError("The application does not answer. Start it with ./start to see why.")


def _ask(server: str, path: str, body: dict[str, Any]) -> dict[str, Any]:
    """Return what the application answers. Raises RequestError with its own words where it refuses."""
    headers = {"content-type": "application/json", "origin": server}
    request = urllib.request.Request(server + path, json.dumps(body).encode(), headers)  # noqa: S310
    try:
        with urllib.request.urlopen(request, timeout=600) as answer:  # noqa: S310
            found: dict[str, Any] = json.load(answer)
            return found
    except urllib.error.HTTPError as error:
        try:
            said = json.load(error).get("detail", "")
        except ValueError:
            said = ""
        raise RequestError(said or f"The application refused it ({error.code}).") from error
    except OSError as error:
        raise InputError(f"The application does not answer at {server}: {error}.") from error
