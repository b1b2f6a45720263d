"""The law of two hands: what anybody saved is in the file, in the site's history, or in a conflict that the desk shows.

Two windows, an editor beside the desk that saves in several ways, at any moment, files that become what no file can be,
and whoever works is stopped anywhere. Every text that is saved carries a mark; in the end each mark is looked for.
"""

import contextlib
import os
import shutil

import hypothesis.core
import pytest
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import (
    RuleBasedStateMachine,
    initialize,
    invariant,
    precondition,
    rule,
    run_state_machine_as_test,
)

from signpost.core.operations.identifiers import Identify
from signpost.core.operations.pages import Type
from signpost.core.text.errors import SignpostError
from signpost.desk import drafts, folder_writing, linked_folders, pages, syncing
from signpost.desk.changes import apply_change, list_changes, plan_change, redo_change, undo_change
from signpost.desk.errors import ConflictError, DeskError
from signpost.desk.intake import FILE_BYTES
from signpost.desk.syncing import change_with_folder
from signpost.folders import writing
from signpost.store import folders as kept
from signpost.store import repositories as store

PATHS = ["a.html", "deep/b.html"]
TEXT = "<!DOCTYPE html>\n<title>T</title>\n" + "".join(
    f"<h2>Part {number}</h2>\n<p>line {number}</p>\n" for number in range(7)
)
#: Where whoever brings folder and site together is stopped, after the call.
STOPS = [
    (writing, "stage"),
    (writing, "put"),
    (writing, "finish"),
    (folder_writing, "_agree"),
    (syncing, "take_changes"),
    (syncing, "look_at"),
]


class KilledError(BaseException):
    """Whoever is at work is gone."""


class TwoHands(RuleBasedStateMachine):
    """Hands at one site, whose texts are followed by their marks."""

    database = None
    folder = None
    count = 0
    checked = 0

    @initialize()
    def begin(self):
        type(self).count += 1
        self.root = type(self).folder / f"site-{type(self).count}"
        (self.root / "deep").mkdir(parents=True)
        (self.root / "kept.txt").write_text("so that the folder is never empty")
        for path in PATHS:
            (self.root / path).write_text(TEXT)
        self.site_id = linked_folders.link_folder(self.database, str(self.root), [str(self.root.parent)]).site_id
        self.windows = {}  # which page each has open, on which revision, with which text
        self.editor = {}  # the texts that the editor has open
        self.marks = 0
        self.saved = set()  # marks of texts that were saved and taken in
        self.outside = {}  # marks of what the editor saved last into each file, which may be taken in yet

    # ---------------------------------------------------------------- hands

    def mark(self):
        self.marks += 1
        return f"m{type(self).count}x{self.marks}x"

    def edited(self, text, at, how):
        lines = text.split("\n")
        at = 2 + at % max(len(lines) - 2, 1)
        line = f"<p>{self.mark()}</p>"
        lines[at : at + (how == "replace")] = [line]
        return "\n".join(lines)

    def marks_in(self, text):
        return {
            word for word in text.replace("<", " ").replace(">", " ").split() if word[0] == "m" and word[-1] == "x"
        }

    @rule(window=st.sampled_from([1, 2]), path=st.sampled_from(PATHS))
    def open_page(self, window, path):
        with contextlib.suppress(DeskError, SignpostError):
            text, revision = pages.open_source(self.database, self.site_id, path)
            self.windows[window] = (path, revision, text)

    @rule(
        window=st.sampled_from([1, 2]),
        path=st.sampled_from(PATHS),
        at=st.integers(0, 20),
        how=st.sampled_from(["insert", "replace"]),
        saves=st.booleans(),
    )
    def type_in(self, window, path, at, how, saves):
        if window not in self.windows:
            self.open_page(window, path)
        if window in self.windows:
            path, base, text = self.windows[window]
            self.windows[window] = (path, base, self.edited(text, at, how))
            if saves:
                self.save(window)

    @precondition(lambda self: self.windows)
    @rule(window=st.sampled_from([1, 2]))
    def save(self, window):
        if window not in self.windows:
            return
        path, base, text = self.windows[window]
        try:
            for _ in range(3):
                said = {"text": text, "base": base}
                try:
                    tag = plan_change(self.database, self.site_id, path, Type(**said)).tag
                    self.in_force(apply_change, path, Type(**said), tag)
                    break
                except ConflictError:
                    merged = drafts.merge_draft(self.database, self.site_id, path, text, base)
                    text = merged.text or "".join(
                        one.ours + one.theirs if one.merged is None else one.merged for one in merged.pieces
                    )
                    base = merged.revision
            else:
                return
        except (DeskError, SignpostError, KilledError):
            return
        self.saved |= self.marks_in(text)
        del self.windows[window]

    @rule(path=st.sampled_from(PATHS))
    def apply_operation(self, path):
        with contextlib.suppress(DeskError, SignpostError, KilledError):
            tag = plan_change(self.database, self.site_id, path, Identify(levels=(2,))).tag
            self.in_force(apply_change, path, Identify(levels=(2,)), tag)

    @rule(undo=st.booleans())
    def turn(self, undo):
        for change, can in list_changes(self.database, self.site_id):
            if can and change.undone is not undo:
                with contextlib.suppress(DeskError, SignpostError, KilledError):
                    self.in_force(undo_change if undo else redo_change, change.number)
                return

    def in_force(self, use_case, *asked):
        change_with_folder(self.database, self.site_id, use_case, *asked)
        self.follow()

    # ---------------------------------------------------------------- the editor

    @rule(path=st.sampled_from(PATHS))
    def open_in_editor(self, path):
        with contextlib.suppress(OSError):
            if (self.root / path).is_file() and not (self.root / path).is_symlink():
                self.editor[path] = (self.root / path).read_text()

    @rule(
        path=st.sampled_from(PATHS),
        at=st.integers(0, 20),
        how=st.sampled_from(["in place", "replacing", "moving"]),
        fresh=st.booleans(),
    )
    def save_in_editor(self, path, at, how, fresh):
        if fresh:
            self.open_in_editor(path)
        self.editor_saves(path, at, how)

    def editor_saves(self, path, at, how):
        file = self.root / path
        if path not in self.editor or file.is_symlink() or (file.exists() and not file.is_file()):
            return
        text = self.edited(self.editor[path], at, "replace")
        file.parent.mkdir(exist_ok=True)
        if how == "in place":
            file.write_text(text)
        else:
            waiting = file.with_name(f"{file.name}~" if how == "replacing" else "4913")
            if how == "moving" and file.exists():
                file.rename(file.with_name(f"{file.name}~"))
            waiting.write_text(text)
            waiting.replace(file)
        self.editor[path] = text
        self.outside[path] = self.marks_in(text)

    @rule(path=st.sampled_from(PATHS), what=st.sampled_from(["gone", "link", "pipe", "folder", "large", "whole"]))
    def file_becomes(self, path, what):
        file = self.root / path
        if what == "whole":
            if path in self.editor and (file.is_symlink() or not file.is_file()):
                self.clear(file)
                self.editor_saves(path, 0, "replacing")
            return
        self.clear(file)
        self.outside.pop(path, None)
        file.parent.mkdir(exist_ok=True)
        match what:
            case "link":
                file.symlink_to("/etc/hostname")
            case "pipe":
                os.mkfifo(file)
            case "folder":
                file.mkdir()
            case "large":
                with file.open("wb") as opened:
                    opened.truncate(FILE_BYTES + 1)

    def clear(self, file):
        if file.is_dir() and not file.is_symlink():
            shutil.rmtree(file)
        else:
            file.unlink(missing_ok=True)

    # ---------------------------------------------------------------- bringing together

    @rule()
    def look(self):
        with contextlib.suppress(KilledError):
            syncing.sync_folder(self.database, self.site_id)
            self.follow()

    @rule(
        path=st.sampled_from(PATHS), call=st.integers(1, 3), how=st.sampled_from(["in place", "replacing", "moving"])
    )
    def look_while_the_editor_saves(self, path, call, how):
        """Somebody saves in the very moment in which a file gets its place."""
        left = [call]

        def raced(real):
            def swap(*asked):
                left[0] -= 1
                if left[0] == 0:
                    self.editor_saves(path, 3, how)
                return real(*asked)

            return swap

        real = writing.swap, writing.give
        writing.swap, writing.give = (raced(one) for one in real)
        try:
            syncing.sync_folder(self.database, self.site_id)
        finally:
            writing.swap, writing.give = real
        if left[0] > 0:
            self.follow()

    @rule(where=st.sampled_from(STOPS), call=st.integers(1, 3))
    def look_and_be_killed(self, where, call):
        module, name = where
        real, left = getattr(module, name), [call]

        def stopping(*asked):
            found = real(*asked)
            left[0] -= 1
            if left[0] == 0:
                raise KilledError
            return found

        setattr(module, name, stopping)
        try:
            with contextlib.suppress(KilledError):
                syncing.sync_folder(self.database, self.site_id)
        finally:
            setattr(module, name, real)

    @rule(side=st.sampled_from(["desk", "folder", "text"]))
    def decide(self, side):
        for one in linked_folders.view_folder(self.database, self.site_id).conflicts:
            text = "".join(
                piece.ours + piece.theirs if piece.merged is None else piece.merged for piece in one.pieces
            )
            if side == "text" and not one.pieces:
                side = "desk"
            linked_folders.decide(self.database, self.site_id, one.path, side, text)
            return

    def follow(self):
        """What the editor saved is known now, but for what waits."""
        with self.database.transaction() as session:
            waits = {one.path for one in kept.load_waits(session, self.site_id)}
        for path in [*self.outside]:
            if path not in waits:
                self.saved |= self.outside.pop(path)

    # ---------------------------------------------------------------- the law

    def states(self):
        with self.database.transaction() as session:
            files = {file.sha256 for file in store.load_files(session, self.site_id) if file.sha256}
            conflicts = {one.folder_sha256 for one in kept.load_conflicts(session, self.site_id).values()}
            changes = store.load_changes(session, self.site_id)
            hashes = {
                one for change in changes for file in change.files for one in (file.before_sha256, file.after_sha256)
            }
            blobs = store.load_blobs(session, self.site_id, {one for one in files | conflicts | hashes if one})
        return b"\n".join(blobs.values()).decode()

    def on_disk(self):
        found = {}
        for path in PATHS:
            with contextlib.suppress(OSError):
                if (self.root / path).is_file() and not (self.root / path).is_symlink():
                    found[path] = (self.root / path).read_bytes()
        return found

    @invariant()
    def nothing_of_the_editors_is_gone(self):
        if not hasattr(self, "root"):
            return
        for path, marks in self.outside.items():
            text = self.on_disk().get(path, b"").decode("utf-8", "replace")
            missing = {mark for mark in marks if mark not in text}
            if missing:
                states = self.states()
                assert not {mark for mark in missing if mark not in states}, (path, missing)

    def teardown(self):
        if not hasattr(self, "root"):
            return
        for _ in range(4):
            syncing.sync_folder(self.database, self.site_id)
        self.follow()
        found = self.states() + "\n".join(data.decode("utf-8", "replace") for data in self.on_disk().values())
        lost = {
            mark for mark in self.saved | {one for some in self.outside.values() for one in some} if mark not in found
        }
        assert not lost, lost
        view = linked_folders.view_folder(self.database, self.site_id)
        told = {one.path for one in view.waits} | {one.path for one in view.conflicts}
        with self.database.transaction() as session:
            files = {file.path: file.sha256 for file in store.load_files(session, self.site_id) if file.sha256}
            blobs = store.load_blobs(session, self.site_id, set(files.values()))
        here = {path: blobs[sha256] for path, sha256 in files.items() if path in PATHS and path not in told}
        there = {path: data for path, data in self.on_disk().items() if path not in told}
        assert here == there, "neither the same nor told"
        assert not list(self.root.rglob(".signpost-*")), "something of ours is left"
        type(self).checked += len(self.saved)
        with self.database.transaction() as session:
            store.delete_site(session, self.site_id)
        shutil.rmtree(self.root)


def hands(database, folder, examples: int, steps: int, *, derandomize: bool) -> None:
    TwoHands.database, TwoHands.folder, TwoHands.checked = database, folder, 0
    run_state_machine_as_test(
        TwoHands,
        settings=settings(
            max_examples=examples,
            stateful_step_count=steps,
            deadline=None,
            derandomize=derandomize,
            database=None,
            suppress_health_check=[*HealthCheck],
        ),
    )
    assert TwoHands.checked > examples, "hardly anything was saved"


def test_nothing_is_lost_between_two_hands(database, tmp_path):
    hands(database, tmp_path, 12, 30, derandomize=True)


@pytest.mark.long
@pytest.mark.parametrize("seed", range(5))
def test_nothing_is_lost_in_ten_thousand_steps(database, tmp_path, seed, monkeypatch):
    monkeypatch.setattr(hypothesis.core, "global_force_seed", seed)  # so that it is the same everywhere
    hands(database, tmp_path, 50, 40, derandomize=False)
