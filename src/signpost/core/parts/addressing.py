"""Addresses that lead to a page in parts, rewritten when its content goes to other files; there and back.

Cutting and joining have to be each other's inverse to the byte, from the files alone. So an address says by its
spelling how it was written before the cut:

- `#boiler` stays so within its part, and becomes `handbook-3.html#boiler` across parts;
- one that named its own page, `handbook.html#boiler`, names its own part too, `handbook-3.html#boiler`; across
  parts it begins with `./`, which means the same to a browser (RFC 3986, 5.2.4).
"""

from __future__ import annotations

import posixpath
from collections.abc import Callable, Collection, Iterable
from dataclasses import dataclass

from signpost.core.addresses.links import full_address, is_absolute, path_of, read_address, relative_address
from signpost.core.page import Page, Target
from signpost.core.references.written import WrittenAddress, read_written
from signpost.core.site.site import NoFile, NoTarget, Resolved, Site
from signpost.core.text.edits import Edit


@dataclass(frozen=True, slots=True)
class Goal:
    """Where an address that led to the page leads now."""

    path: str
    fragment: str | None = None  # to be added to an address that had none, percent-encoded; None for none
    where: str = ""  # in words, for the edit's reason


#: What an address leads to now: asked with the file that it led to, and the target there; None for all of the file.
FindGoal = Callable[[str, Target | str | None], Goal | None]


@dataclass(frozen=True)
class Rewriter:
    """Rewrites the addresses of one page of the site, or of a piece of one."""

    site: Site  # before
    home: str  # path of the whole page; parts are beside it or in folders below
    files: Collection[str]  # paths of the files that have its content before
    find_goal: FindGoal

    def edits(self, page: Page, new_path: str, addresses: Iterable[WrittenAddress] | None = None) -> list[Edit]:
        """Return the edits of a page's addresses where it, or a piece of it, goes to `new_path`."""
        found = read_written(page) if addresses is None else addresses
        edits = (self._edit(page, new_path, address) for address in found)
        return [edit for edit in edits if edit is not None]

    def _edit(self, page: Page, new_path: str, address: WrittenAddress) -> Edit | None:
        plain = address.value.startswith("#") and page.path not in self.files and page.base is None
        own = not path_of(address.value) and not read_address(address.value).fragment  # whichever that is
        if plain or own or address.node.tag == "base":
            return None
        outcome = self.site.follow(page.path, address.value)
        if not isinstance(outcome, Resolved | NoTarget | NoFile) or outcome.path not in self.files:
            return self._moved_away(page, new_path, address)
        target = _target_of(outcome, address.value)
        goal = self.find_goal(outcome.path, target) if target is not None or path_of(address.value) else None
        if goal is None:  # what each part has, or what is left as it is
            return self._moved_away(page, new_path, address)
        fragment = None if read_address(address.value).fragment else goal.fragment
        has_fragment = bool(read_address(address.value).fragment) or fragment is not None
        path = self._path(page, new_path, path_of(address.value), outcome.path, goal.path, has_fragment)
        if path == path_of(address.value) and fragment is None:
            return None
        return address.path_edit(page.text, path, fragment, goal.where)

    def _moved_away(self, page: Page, new_path: str, address: WrittenAddress) -> Edit | None:
        """Return the edit of an address that leads to where it did, from another folder."""
        path = self.rebased(page, new_path, address.value)
        return None if path is None else address.path_edit(page.text, path, None, "the page's folder is another")

    # ---------------------------------------------------------------- how a path is spelled

    def _path(self, page: Page, new: str, spelled: str, old_goal: str, goal: str, has_fragment: bool) -> str:
        """Return the path of an address that leads into the page; `spelled` is how it is written now."""
        if page.base is not None:
            return spelled if old_goal == goal else page.address_of(goal, site_base=self.site.base)
        own = page.path in self.files
        if not own:
            return spelled if old_goal == goal else self._swapped(page, new, spelled, old_goal, goal)
        crossing = old_goal != page.path and has_fragment
        prefixed = crossing and spelled.startswith("./")
        body = spelled.removeprefix("./") if prefixed else spelled
        if not spelled or (crossing and not prefixed and spelled == relative_address(page.path, old_goal)):
            return "" if goal == new else relative_address(new, goal)
        swapped = self._swapped(page, new, body, old_goal, goal)
        far = goal != new and has_fragment and not is_absolute(swapped)
        return f"./{swapped}" if far else swapped

    def _swapped(self, page: Page, new: str, spelled: str, old_goal: str, goal: str) -> str:
        """Return a path with the file that it ends in exchanged, spelled as its author did before that."""
        if "//" in spelled:
            base = self.site.base or ""
            if spelled == full_address(base, old_goal):
                return full_address(base, goal)
        if spelled == relative_address(page.path, old_goal):
            return relative_address(new, goal)
        body = spelled.removeprefix(self._up(page.path)) if not is_absolute(spelled) else spelled
        old_end = self._from_home(old_goal)
        if not body.endswith(old_end) or (len(body) > len(old_end) and body[-len(old_end) - 1] != "/"):
            return (
                full_address(self.site.base, goal)
                if "//" in spelled and self.site.base
                else relative_address(new, goal)
            )
        ahead = body[: len(body) - len(old_end)]
        up = "" if is_absolute(spelled) else self._up(new)
        return up + ahead + self._from_home(goal)

    def _from_home(self, path: str) -> str:
        """Return the path of a part from the whole page's folder, percent-encoded."""
        return relative_address(self.home, path)

    def _up(self, path: str) -> str:
        """Return the way from a part's folder to the whole page's; "" for any other page."""
        folder, home = posixpath.dirname(path), posixpath.dirname(self.home)
        if folder == home or not (folder + "/").startswith(home + "/" if home else ""):
            return ""
        below = folder[len(home) :].strip("/")
        return "../" * (below.count("/") + 1)

    def rebased(self, page: Page, new: str, spelled: str) -> str | None:
        """Return the path of an address that leads elsewhere, from another folder; None where nothing changes."""
        path = path_of(spelled)
        if page.base is not None or page.path not in self.files or is_absolute(spelled):
            return None
        if not path:
            return None  # a fragment, or a query
        old_up, new_up = self._up(page.path), self._up(new)
        if old_up == new_up:
            return None
        if path.startswith(old_up):
            return new_up + path[len(old_up) :]
        found = self.site.pages[page.path].resolve(spelled) if page.path in self.site.pages else None
        return None if found is None else relative_address(new, found[0]) + ("/" if path.endswith("/") else "")


def _target_of(outcome: Resolved | NoTarget | NoFile, spelled: str) -> Target | str | None:
    """Return what an address leads to: a target, a fragment that is not there, or None for the whole file."""
    if isinstance(outcome, Resolved):
        return outcome.target if isinstance(outcome.target, Target) else None
    if isinstance(outcome, NoTarget):
        return outcome.fragment
    return read_address(spelled).fragment or None
