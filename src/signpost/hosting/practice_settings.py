"""What the practice host keeps of each site beside its files, out of the reach of readers and of WebDAV."""

from __future__ import annotations

import os
import re
import secrets
import shutil
from dataclasses import dataclass
from pathlib import Path
from typing import Annotated

from pydantic import Field, TypeAdapter, ValidationError

#: The folder that keeps it. No site's folder begins with a dot.
_SETTINGS = ".ways"
#: What a site's folder is called: a label of a host name (RFC 1123, 2.1).
_LABEL = re.compile(r"[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?")
_MOST_BYTES = 4096  # of a file of settings

Seconds = Annotated[float, Field(ge=0, le=30)]
BytesPerSecond = Annotated[int, Field(ge=0, le=10**9)]
Charset = Annotated[str, Field(max_length=40, pattern=r"^[A-Za-z0-9_-]*$")]


@dataclass(frozen=True, slots=True)
class Way:
    """The way to the readers of a site."""

    delay: Seconds = 0  # until an answer begins
    bandwidth: BytesPerSecond = 0  # 0 for as many as there are
    charset: Charset = ""  # that the host tells of pages; "" for none


_WAY = TypeAdapter(Way)


class SettingsError(Exception):
    """Settings that cannot be used: it says in which file, and what of them."""


def is_label(name: str) -> bool:
    """Return whether a folder of that name is a site of the practice host."""
    return _LABEL.fullmatch(name) is not None


def label_of(name: str, mark: str) -> str:
    """Return the folder of a site of that name; `mark`, a few letters or digits, tells it from others of its name."""
    plain = "".join(letter if letter.isascii() and letter.isalnum() else "-" for letter in name.lower())
    short = "-".join(part for part in plain.split("-") if part)[:50].strip("-")
    return f"{short or 'site'}-{mark}"


def read_way(root: Path, site: str) -> Way:
    """Return the way to the readers of a site, by its folder's name. Raises SettingsError for one that is none."""
    file = root / _SETTINGS / f"{site}.json"
    try:
        with file.open("rb") as opened:
            return _WAY.validate_json(opened.read(_MOST_BYTES + 1))
    except FileNotFoundError:
        return Way()
    except OSError as error:
        raise SettingsError(f"{file} cannot be read: {error.strerror}.") from error
    except ValidationError as error:
        said = error.errors()[0]
        named = f"“{said['loc'][0]}”: " if said["loc"] else ""
        raise SettingsError(f"{file} cannot be used: {named}{said['msg']}. Mend it or delete it.") from error


def write_way(root: Path, site: str, way: Way) -> None:
    """Keep the way to the readers of a site; answers from now on take it."""
    _write(root, f"{site}.json", _WAY.dump_json(way))


def dav_password(root: Path, site: str) -> str:
    """Return the password by which a site takes files by WebDAV, drawn where it has none yet."""
    file = root / _SETTINGS / f"{site}.key"
    if not file.is_file():
        _write(root, file.name, secrets.token_urlsafe(12).encode())
    return file.read_text(encoding="ascii")


def forget_folder(root: Path, site: str) -> None:
    """Take a site off the host, by its folder's name."""
    if is_label(site):
        shutil.rmtree(root / site, ignore_errors=True)
        for kind in ("json", "key"):
            (root / _SETTINGS / f"{site}.{kind}").unlink(missing_ok=True)


def _write(root: Path, name: str, data: bytes) -> None:
    folder = root / _SETTINGS
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    waiting = folder / f"{name}.{secrets.token_hex(4)}"
    with os.fdopen(os.open(waiting, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb") as opened:
        opened.write(data)
    waiting.replace(folder / name)
