"""The command itself: what it is called with, which module makes it, and how errors are told."""

from __future__ import annotations

import importlib
import sys
import threading
from io import TextIOWrapper
from typing import NoReturn

import typer
from typer.exceptions import TyperException

from signpost.cli.stopping import StoppedError, listen
from signpost.core.text.errors import SignpostError

#: Which module has which commands, in the order of the help. Only what is called is loaded.
MODULES = {
    "signpost.cli.desk": ("desk", "demo"),
    "signpost.cli.reading": ("outline",),
    "signpost.cli.making": ("headings", "rename", "identify", "contents", "returns", "entries", "style"),
    "signpost.cli.parts": ("parts", "join"),
    "signpost.cli.moving": ("move",),
    "signpost.cli.links": ("links",),
    "signpost.cli.shared": ("shared",),
    "signpost.cli.navigation": ("navigation",),
    "signpost.cli.recipes": ("run",),
    "signpost.cli.forms": ("export",),
    "signpost.cli.findings": ("check", "fix", "explain"),
}


def command_app(name: str) -> typer.Typer:
    """Return the command with the one subcommand that is called, or with all where it is none of them."""
    app = typer.Typer(
        add_completion=False,
        pretty_exceptions_enable=False,
        help="Headed sections, identifiers, contents, back-to-top links and numbered parts for pages coded by hand.",
    )
    app.callback()(_one_of_several)
    known = any(name in names for names in MODULES.values())
    for module, names in MODULES.items():
        for one in names:
            if one == name or not known:
                app.command(one)(getattr(importlib.import_module(module), one))
    return app


def _one_of_several() -> None:
    """Keep a subcommand a subcommand where it is the only one loaded."""


def main() -> None:
    """Run the command; errors are one line on standard error and exit code 2, or tell by which signal it stopped."""
    if threading.current_thread() is threading.main_thread():
        listen()
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, TextIOWrapper):
            stream.reconfigure(errors="backslashreplace")  # a terminal may know fewer letters than a page has
    try:
        command_app(sys.argv[1] if len(sys.argv) > 1 else "")(standalone_mode=False, prog_name="signpost")
    except TyperException as error:
        _fail(error.format_message())
    except typer.Abort:
        _fail("Stopped; nothing was written.")
    except StoppedError as stopped:
        _fail(str(stopped), stopped.code)
    except SignpostError as error:
        _fail(str(error))
    except OSError as error:
        _fail(f"{error.filename or 'A file'}: {error.strerror or error}")


def _fail(message: str, code: int = 2) -> NoReturn:
    print("signpost: " + " ".join(message.split()), file=sys.stderr)
    sys.exit(code)
