"""What in an author's folder is no part of the site: what version control, editors and systems leave behind."""

from __future__ import annotations

import re
from collections.abc import Sequence

from pathspec import GitIgnoreSpec

from signpost.folders.opened import OpenedFolder

#: Folders and files that tools keep for themselves.
_TOOLS = frozenset(
    """
    .git .hg .svn .bzr .idea .vscode node_modules __pycache__ __macosx .trash .ds_store thumbs.db desktop.ini 4913
    """.split()
)
#: What editors write while one types: backups, swap files, locks, files that become others in a moment.
_EDITORS = re.compile(
    r".*~|\..*\.sw[a-p]x?|\.#.*|#.*#|.*\.(?:tmp|bak|orig|rej|part|crdownload)|~\$.*|\.goutputstream-.*"
)
#: Hidden files that servers read.
_SHOWN = frozenset([".htaccess", ".well-known", ".nojekyll"])
#: What our own files that wait to be put in place begin with.
TEMPORARY = ".signpost-"
_GITIGNORE = ".gitignore"
#: How many bytes of it are read at most.
_LONGEST = 256 * 1024


def is_leftover(name: str) -> bool:
    """Return whether a file or a folder of this name is never a part of a site."""
    if name.lower() in _TOOLS or name.startswith(TEMPORARY) or _EDITORS.fullmatch(name):
        return True
    return name.startswith(".") and name not in _SHOWN


class Ignored:
    """What a folder's own files say is to be left out: `.gitignore` in any of its folders, and patterns beside."""

    def __init__(self, patterns: Sequence[str] = ()) -> None:
        self._specs = [("", GitIgnoreSpec.from_lines(patterns, backend="re2"))] if patterns else []

    def enter(self, folder: OpenedFolder, at: str) -> None:
        """Take up what the `.gitignore` in a folder says, if there is one; one that cannot be read says nothing."""
        try:
            said = folder.read(f"{at}/{_GITIGNORE}" if at else _GITIGNORE, _LONGEST)
        except OSError:
            return
        lines = (said or b"").decode("utf-8", "replace").splitlines()
        if lines:
            self._specs.append((f"{at}/" if at else "", GitIgnoreSpec.from_lines(lines, backend="re2")))

    def has(self, path: str, *, is_folder: bool) -> bool:
        """Return whether a path is left out; what is said further in counts."""
        shown = f"{path}/" if is_folder else path
        left_out = False
        for folder, spec in self._specs:
            if shown.startswith(folder):
                said = spec.check_file(shown[len(folder) :]).include
                left_out = left_out if said is None else said
        return left_out
