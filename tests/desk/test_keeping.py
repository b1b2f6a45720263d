"""What a site keeps of what it was: counted as it grows, shortened by its author, let go where nothing needs it."""

import pytest
from sqlalchemy import text
from sqlalchemy.exc import IntegrityError

from signpost.core.operations import OPERATIONS
from signpost.core.operations.pages import Type
from signpost.desk import history, intake, pages
from signpost.desk.changes import apply_change, list_changes, plan_change, redo_change, show_changes, undo_change
from signpost.desk.errors import ConflictError
from signpost.store import limits
from signpost.store import repositories as store
from signpost.store.limits import SiteFullError

PAGE = "<h1>T</h1>\n<p>%s</p>\n"


@pytest.fixture
def site_id(database):
    site_id = intake.create_site(database, "Kept").site_id
    intake.bring_in_files(database, site_id, [("a.html", (PAGE % "first").encode()), ("b.html", b"<p>b")])
    yield site_id
    with database.transaction() as session:
        store.delete_site(session, site_id)


def type_in(database, site_id, words, page="a.html"):
    said = {"text": PAGE % words}
    tag = plan_change(database, site_id, page, Type(**said)).tag
    return apply_change(database, site_id, page, Type(**said), tag)


def apply(database, site_id, page, operation, **said):
    tag = plan_change(database, site_id, page, OPERATIONS[operation](**said)).tag
    return apply_change(database, site_id, page, OPERATIONS[operation](**said), tag)


def kept_bytes(database, site_id) -> int:
    with database.transaction() as session:
        found = session.scalar(text("SELECT sum(length(data)) FROM blobs WHERE site_id = :s"), {"s": site_id})
    return found or 0


def let_an_hour_pass(database, site_id):
    with database.transaction() as session:
        session.execute(
            text("UPDATE blobs SET kept_at = kept_at - interval '2 hours' WHERE site_id = :s"), {"s": site_id}
        )


def test_what_is_kept_is_counted_in_every_way_in_which_a_site_grows(database, site_id):
    for work in (
        lambda: None,
        lambda: type_in(database, site_id, "second"),
        lambda: undo_change(database, site_id, 1),
        lambda: intake.bring_in_files(database, site_id, [("c.png", b"\0" * 5000)]),
        lambda: intake.bring_in_files(database, site_id, [("d.png", b"\0" * 5000)]),  # the same bytes
        lambda: intake.remove_file(database, site_id, "c.png"),
    ):
        work()
        assert history.view_kept(database, site_id).stored_bytes == kept_bytes(database, site_id) > 0


def test_a_full_site_takes_nothing_in_and_says_what_to_do(database, site_id, monkeypatch):
    monkeypatch.setattr(limits, "SITE_BYTES", kept_bytes(database, site_id) + 100)
    monkeypatch.setattr(history, "SITE_BYTES", limits.SITE_BYTES)
    said = {"text": PAGE % ("word " * 100)}
    tag = plan_change(database, site_id, "a.html", Type(**said)).tag
    with pytest.raises(SiteFullError, match="Shorten its history"):
        apply_change(database, site_id, "a.html", Type(**said), tag)
    assert list_changes(database, site_id) == []
    type_in(database, site_id, "less")
    plan = history.plan_shortening(database, site_id, 0, None, first_states=False)
    history.shorten(database, site_id, plan.first, plan.changes, first_states=False)
    assert kept_bytes(database, site_id) < limits.SITE_BYTES - 100


def test_the_last_changes_stay_and_can_be_undone(database, site_id):
    for words in ("second", "third", "fourth"):
        type_in(database, site_id, words)
    plan = history.plan_shortening(database, site_id, 1, None, first_states=True)
    assert (plan.first, plan.changes) == (3, 2)
    assert plan.freed_bytes == len(
        PAGE % "second"
    )  # “first” is as it was brought in, “third” what the last began from
    before = kept_bytes(database, site_id)
    kept = history.shorten(database, site_id, plan.first, plan.changes, first_states=True)
    assert (kept.changes, kept.stored_bytes) == (1, before - plan.freed_bytes)
    assert kept_bytes(database, site_id) == kept.stored_bytes
    undo_change(database, site_id, 3)
    assert pages.open_source(database, site_id, "a.html")[0] == PAGE % "third"
    redo_change(database, site_id, 3)
    assert type_in(database, site_id, "fifth").number == 4


def test_without_the_first_states_files_count_as_they_were_when_the_history_begins(database, site_id):
    for words in ("second", "third"):
        type_in(database, site_id, words)
    plan = history.plan_shortening(database, site_id, 1, None, first_states=False)
    assert plan.freed_bytes == len(PAGE % "first")
    history.shorten(database, site_id, plan.first, plan.changes, first_states=False)
    with database.transaction() as session:
        file = store.load_file(session, site_id, "a.html")
        assert store.load_blobs(session, site_id, [file.brought_sha256]) == {
            file.brought_sha256: (PAGE % "second").encode()
        }


def test_by_days_and_with_both_what_either_keeps_stays(database, site_id):
    for words in ("second", "third", "fourth"):
        type_in(database, site_id, words)
    with database.transaction() as session:
        session.execute(
            text("UPDATE changes SET created_at = now() - interval '40 days' WHERE site_id = :s AND number <= 2"),
            {"s": site_id},
        )
    firsts = {
        (last, days): history.plan_shortening(database, site_id, last, days, first_states=True).first
        for last, days in [(None, 30), (None, 50), (1, 50), (2, 30), (0, 30), (10, 30), (0, None), (None, 0)]
    }
    assert firsts == {
        (None, 30): 3, (None, 50): 1, (1, 50): 1, (2, 30): 2, (0, 30): 3, (10, 30): 1, (0, None): 4, (None, 0): 4,
    }  # fmt: skip


def test_where_files_went_stays_known(database, site_id):
    apply(database, site_id, "a.html", "move-files", moves={"b.html": "c.html"}, forward=False)
    type_in(database, site_id, "second")
    plan = history.plan_shortening(database, site_id, 0, None, first_states=True)
    assert plan.changes == 1
    history.shorten(database, site_id, plan.first, plan.changes, first_states=True)
    assert [change.number for change, _ in list_changes(database, site_id)] == [1]


def test_what_was_shown_is_let_go_and_nothing_else(database, site_id):
    type_in(database, site_id, "second")
    plan = history.plan_shortening(database, site_id, 0, None, first_states=True)
    apply(database, site_id, "a.html", "identify", levels=[1])
    history.shorten(database, site_id, plan.first, plan.changes, first_states=True)  # what came after it stays
    assert [change.number for change, _ in list_changes(database, site_id)] == [2]
    with pytest.raises(ConflictError, match="Look once more"):
        history.shorten(database, site_id, 3, 7, first_states=True)


def test_bytes_cannot_go_while_a_file_or_a_change_has_them(database, site_id):
    type_in(database, site_id, "second")
    with database.transaction() as session:
        hashes = set(session.scalars(text("SELECT sha256 FROM blobs WHERE site_id = :s"), {"s": site_id}))
    for sha256 in hashes:
        with pytest.raises(IntegrityError), database.transaction() as session:
            session.execute(text("DELETE FROM blobs WHERE site_id = :s AND sha256 = :h"), {"s": site_id, "h": sha256})


def test_what_nothing_needs_goes_by_itself(database, site_id):
    pages.open_page(database, site_id, "a.html")
    with database.transaction() as session:
        store.save_blobs(session, site_id, [b"compared once"])
        session.execute(
            text(
                "INSERT INTO analyses (site_id, sha256, core_version, marks, facts) SELECT site_id, sha256, 0, marks, facts FROM analyses WHERE site_id = :s"
            ),
            {"s": site_id},
        )
        session.execute(
            text("INSERT INTO analyses (site_id, sha256, core_version, marks, facts) SELECT site_id, repeat('0', 64), core_version, marks, facts FROM analyses "
                 "WHERE site_id = :s AND core_version <> 0 LIMIT 1"),
            {"s": site_id},
        )  # fmt: skip
        before = session.scalar(text("SELECT count(*) FROM analyses WHERE site_id = :s"), {"s": site_id})
    held = kept_bytes(database, site_id)
    history.tidy(database, site_id)
    assert kept_bytes(database, site_id) == held, "it was asked for just now"
    let_an_hour_pass(database, site_id)
    while history.tidy(database, site_id):
        pass
    assert kept_bytes(database, site_id) == held - len(b"compared once")
    with database.transaction() as session:
        assert (
            session.scalar(text("SELECT count(*) FROM analyses WHERE site_id = :s"), {"s": site_id}) < before / 2 + 1
        )
    assert pages.open_source(database, site_id, "a.html")[0] == PAGE % "first"


def test_the_list_of_changes_is_given_a_stretch_at_a_time(database, site_id):
    for number in range(7):
        type_in(database, site_id, str(number))
    undo_change(database, site_id, 7)
    undo_change(database, site_id, 6)
    newest = show_changes(database, site_id, None, 3)
    assert ([one.number for one, _ in newest.changes], newest.more) == ([7, 6, 5], True)
    assert (newest.undoable.number, newest.redoable.number) == (5, 6)
    rest = show_changes(database, site_id, 5, 10)
    assert ([one.number for one, _ in rest.changes], rest.more) == ([4, 3, 2, 1], False)
    assert (rest.undoable.number, rest.redoable.number) == (5, 6)
