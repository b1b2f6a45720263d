"""The tables. Every one leads with `site_id`, so that a distributed PostgreSQL can keep a site in one place."""

from __future__ import annotations

from collections.abc import Collection
from datetime import datetime
from typing import Any, cast
from uuid import UUID

from sqlalchemy import (
    ARRAY,
    BigInteger,
    Boolean,
    ColumnElement,
    Computed,
    DateTime,
    ForeignKeyConstraint,
    Index,
    Integer,
    LargeBinary,
    String,
    Table,
    Uuid,
    any_,
    bindparam,
    func,
    literal,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """What all tables share."""


def _of_site() -> ForeignKeyConstraint:
    return ForeignKeyConstraint(["site_id"], ["sites.site_id"], ondelete="CASCADE")


def _kept(table: str, column: str) -> tuple[ForeignKeyConstraint, Index]:
    """Return what holds a column to bytes that are kept: they are there as long as it is.

    It is looked at when a transaction ends, so that a site can go with all that it has.
    """
    key = ForeignKeyConstraint(
        ["site_id", column],
        ["blobs.site_id", "blobs.sha256"],
        name=f"{table}_{column}_kept",
        deferrable=True,
        initially="DEFERRED",
    )
    return key, Index(f"{table}_by_{column}", "site_id", column)


class SiteRow(Base):
    """A site."""

    __tablename__ = "sites"

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String)
    base: Mapped[str | None] = mapped_column(String)  # its own address
    settings: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default=text("'{}'::jsonb"))
    last_change: Mapped[int] = mapped_column(BigInteger, server_default=text("0"))  # number of the newest change
    revision: Mapped[int] = mapped_column(
        BigInteger, server_default=text("0")
    )  # goes up with everything that is done
    last_window: Mapped[str] = mapped_column(String, server_default=text("''"))  # in which it was done
    last_author: Mapped[str] = mapped_column(String, server_default=text("''"))
    last_deed: Mapped[str] = mapped_column(String, server_default=text("''"))
    files_revision: Mapped[int] = mapped_column(
        BigInteger, server_default=text("0")
    )  # goes up whenever files are others
    indexed_by: Mapped[str] = mapped_column(String, server_default=text("''"))  # digest of what its index depends on
    stored_bytes: Mapped[int] = mapped_column(BigInteger, server_default=text("0"))  # counted by the database itself
    resting: Mapped[bool] = mapped_column(Boolean, server_default=text("false"))  # read on when it is opened again
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class BlobRow(Base):
    """Bytes of a file, by what they are."""

    __tablename__ = "blobs"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    sha256: Mapped[str] = mapped_column(String(64), primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)
    size: Mapped[int] = mapped_column(Integer, Computed("octet_length(data)", persisted=True), nullable=True)
    kept_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())  # last asked for


#: The site that a query which is built but once is asked of.
SITE = bindparam("site_id", type_=Uuid())
#: The same where its rows are given other values: a name that no column has.
THAT_SITE = bindparam("site", type_=Uuid())
#: Paths of pages of which it is asked.
SOME_PAGES = bindparam("pages", type_=ARRAY(String))
#: Hashes of which it is asked.
SOME_HASHES = bindparam("hashes", type_=ARRAY(String))


def is_among(column: ColumnElement[str], values: Collection[str]) -> ColumnElement[bool]:
    """Return what holds where a column has one of some values; they are one parameter, however many they are."""
    return column == any_(literal(list(values), ARRAY(String)))


class FileRow(Base):
    """A file of a site, as it is and as it was brought in."""

    __tablename__ = "files"
    __table_args__ = (
        _of_site(),
        Index("files_unknown", "site_id", "path", postgresql_where=text("NOT is_known")),
        Index("files_by_revision", "site_id", "revision"),
        *_kept("files", "sha256"),
        *_kept("files", "brought_sha256"),
    )

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    path: Mapped[str] = mapped_column(String, primary_key=True)
    sha256: Mapped[str | None] = mapped_column(String(64))  # NULL: not there at present
    brought_sha256: Mapped[str | None] = mapped_column(String(64))  # NULL: made here
    # what the index knows, NULL: that it is not there; or a digest of the index where only what a page tells is kept
    indexed_sha256: Mapped[str | None] = mapped_column(String(64))
    is_known: Mapped[bool] = mapped_column(
        Boolean, Computed("sha256 IS NOT DISTINCT FROM indexed_sha256", persisted=True), nullable=True
    )  # of which the database knows that it is so nearly always
    revision: Mapped[int] = mapped_column(BigInteger, server_default=text("0"))  # of the site's files that made it so


class ChangeRow(Base):
    """A named set of edits, applied, undone and redone as one."""

    __tablename__ = "changes"
    __table_args__ = (
        _of_site(),
        Index("changes_undone", "site_id", "number", postgresql_where=text("undone")),
        Index("changes_outside", "site_id", "number", postgresql_where=text("parameters ? 'moves'")),
    )

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    number: Mapped[int] = mapped_column(BigInteger, primary_key=True)  # 1-based within the site
    operation: Mapped[str] = mapped_column(String)
    title: Mapped[str] = mapped_column(String)
    page: Mapped[str] = mapped_column(String)  # that it was asked for
    parameters: Mapped[dict[str, Any]] = mapped_column(JSONB)
    edits: Mapped[int] = mapped_column(Integer)
    undone: Mapped[bool] = mapped_column(server_default=text("false"))
    author: Mapped[str] = mapped_column(String, server_default=text("''"))  # as they call themselves; "" for nobody
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class RequestRow(Base):
    """A request that made a change, undid it or made it again, so that it does nothing where it comes once more."""

    __tablename__ = "requests"
    __table_args__ = (
        ForeignKeyConstraint(
            ["site_id", "number"],
            ["changes.site_id", "changes.number"],
            ondelete="CASCADE",
            name="requests_of_change",
        ),
        Index("requests_by_change", "site_id", "number"),
    )

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    key: Mapped[UUID] = mapped_column(primary_key=True)
    number: Mapped[int] = mapped_column(BigInteger)  # of the change
    digest: Mapped[str] = mapped_column(String(64))  # of what was asked; "" where an earlier version did not keep it


class ChangeFileRow(Base):
    """What a change did to one file."""

    __tablename__ = "change_files"
    __table_args__ = (
        ForeignKeyConstraint(["site_id", "number"], ["changes.site_id", "changes.number"], ondelete="CASCADE"),
        Index("change_files_by_path", "site_id", "path"),
        *_kept("change_files", "before_sha256"),
        *_kept("change_files", "after_sha256"),
    )

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    number: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    path: Mapped[str] = mapped_column(String, primary_key=True)
    before_sha256: Mapped[str | None] = mapped_column(String(64))  # NULL: the file was not there
    after_sha256: Mapped[str | None] = mapped_column(String(64))


class AnalysisRow(Base):
    """The facts of a page, by its bytes and the version of the rules."""

    __tablename__ = "analyses"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    sha256: Mapped[str] = mapped_column(String(64), primary_key=True)
    core_version: Mapped[int] = mapped_column(Integer, primary_key=True)
    marks: Mapped[str] = mapped_column(String(64), primary_key=True)  # digest of what else is known; "" for nothing
    facts: Mapped[str] = mapped_column(JSONB)


class GeometryRow(Base):
    """A page as it was measured in one window, the last time."""

    __tablename__ = "geometries"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    path: Mapped[str] = mapped_column(String, primary_key=True)
    width: Mapped[int] = mapped_column(Integer, primary_key=True)
    height: Mapped[int] = mapped_column(Integer, primary_key=True)
    text_size: Mapped[int] = mapped_column(Integer, primary_key=True)
    sha256: Mapped[str] = mapped_column(String(64))  # of the page's bytes
    digest: Mapped[str] = mapped_column(String(64))  # digest of the page and of all that it may load
    facts: Mapped[dict[str, Any]] = mapped_column(JSONB)


#: How long a page is, in windows, as an index has it.
WINDOWS = "((summary ->> 'windows')::double precision)"


class PageRow(Base):
    """What the index knows of a page."""

    __tablename__ = "pages"
    __table_args__ = (
        _of_site(),
        Index("pages_unchecked", "site_id", postgresql_where=text("checked_by IS NULL")),
        Index("pages_by_check", "site_id", "checked_by"),
        Index("pages_by_length", "site_id", text(WINDOWS)),
        Index("pages_unreadable", "site_id", postgresql_where=text("unreadable IS NOT NULL")),
    )

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    path: Mapped[str] = mapped_column(String, primary_key=True)
    sha256: Mapped[str] = mapped_column(String(64))  # of its bytes
    repeated: Mapped[list[str]] = mapped_column(JSONB)  # digests of its blocks that other pages repeat
    unreadable: Mapped[str | None] = mapped_column(String)  # why it cannot be read; NULL where it can
    summary: Mapped[dict[str, Any]] = mapped_column(JSONB)  # as the site's desk shows it
    checked_by: Mapped[str | None] = mapped_column(String)  # digest of how its findings were found; NULL: out of date


class ToldRow(Base):
    """What a page tells of itself that others ask for."""

    __tablename__ = "told"
    __table_args__ = (_of_site(), Index("told_by_key", "site_id", "kind", "key_digest"))

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    page: Mapped[str] = mapped_column(String, primary_key=True)
    kind: Mapped[str] = mapped_column(String, primary_key=True)
    digest: Mapped[int] = mapped_column(BigInteger, primary_key=True)  # of key and value
    key_digest: Mapped[int] = mapped_column(BigInteger)  # keys may be longer than an index takes
    key: Mapped[str] = mapped_column(String)
    value: Mapped[str] = mapped_column(String)


class FindingRow(Base):
    """What is wrong on a page."""

    __tablename__ = "findings"
    __table_args__ = (_of_site(), Index("findings_by_rule", "site_id", "rule", "pressed", "chosen"))

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    page: Mapped[str] = mapped_column(String, primary_key=True)
    number: Mapped[int] = mapped_column(Integer, primary_key=True)  # in the order of the places
    rule: Mapped[str] = mapped_column(String)
    pressed: Mapped[bool] = mapped_column(Boolean, server_default=text("false"))  # whether one press fixes it
    chosen: Mapped[bool] = mapped_column(Boolean, server_default=text("false"))  # whether a choice does
    words: Mapped[str] = mapped_column(String)  # of the source, by which the place is known again
    view: Mapped[dict[str, Any]] = mapped_column(JSONB)  # as screens show it


class FindingCountRow(Base):
    """How many findings there are of a rule: what all shares of it come to."""

    __tablename__ = "finding_counts"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    rule: Mapped[str] = mapped_column(String, primary_key=True)
    share: Mapped[int] = mapped_column(Integer, primary_key=True)  # of those who count, so that they need not wait
    number: Mapped[int] = mapped_column(Integer)  # may be below 0, where others count what is gone
    pressed: Mapped[int] = mapped_column(Integer)  # that one press fixes
    chosen: Mapped[int] = mapped_column(Integer)  # that a choice fixes


class NeedRow(Base):
    """What the findings of a page, or an answer about the site, depend on."""

    __tablename__ = "needs"
    __table_args__ = (_of_site(), Index("needs_by_need", "site_id", "need"))

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    holder: Mapped[str] = mapped_column(
        String, primary_key=True
    )  # a page's path, or an answer's name behind a line feed
    need: Mapped[int] = mapped_column(BigInteger, primary_key=True)  # digest of a kind and a key


class AnswerRow(Base):
    """What was found out about a site as a whole."""

    __tablename__ = "answers"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String, primary_key=True)
    value: Mapped[str] = mapped_column(String)


class DestinationRow(Base):
    """Where a link may lead: a page, a section of it, or another place with an identifier."""

    __tablename__ = "destinations"
    __table_args__ = (
        _of_site(),
        Index(
            "destinations_by_words", "site_id", "words",
            postgresql_using="gin", postgresql_ops={"words": "gin_trgm_ops"},
        ),
        Index("destinations_by_start", "site_id", "words", postgresql_ops={"words": "text_pattern_ops"}),
    )  # fmt: skip

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    page: Mapped[str] = mapped_column(String, primary_key=True)
    number: Mapped[int] = mapped_column(Integer, primary_key=True)  # in the order in which they are listed
    section: Mapped[int | None] = mapped_column(Integer)  # by index; NULL for the page, or what is no section
    level: Mapped[int] = mapped_column(Integer)  # of the heading; 0 for others
    identifier: Mapped[str | None] = mapped_column(String)
    text: Mapped[str] = mapped_column(String)
    words: Mapped[str] = mapped_column(String)  # what it is found by: text, identifier and path, folded


class FolderRow(Base):
    """The folder on a disk that a site is linked to."""

    __tablename__ = "folders"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    folder: Mapped[str] = mapped_column(String)  # its full path
    host: Mapped[str] = mapped_column(String)  # the machine that has it
    away: Mapped[str] = mapped_column(String, server_default=text("''"))  # why it cannot be used now; "" where it can


class FolderFileRow(Base):
    """A file as folder and site had it when they last agreed."""

    __tablename__ = "folder_files"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    path: Mapped[str] = mapped_column(String, primary_key=True)
    sha256: Mapped[str] = mapped_column(String(64))
    size: Mapped[int] = mapped_column(BigInteger)
    changed: Mapped[int] = mapped_column(BigInteger)  # ctime, in nanoseconds; 0 where that tells nothing


class FolderWriteRow(Base):
    """A file that is being written to the folder, or was; what was begun is finished, whoever stops in between."""

    __tablename__ = "folder_writes"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    path: Mapped[str] = mapped_column(String, primary_key=True)
    before_sha256: Mapped[str | None] = mapped_column(String(64))  # NULL: nothing was there
    after_sha256: Mapped[str | None] = mapped_column(String(64))
    beside: Mapped[str] = mapped_column(String, primary_key=True)  # the name, in the same folder, that is ours
    agreed: Mapped[bool] = mapped_column(
        Boolean, server_default=text("false")
    )  # it is in place, and both agree on it


class FolderWaitRow(Base):
    """A file that folder and site cannot bring together for now."""

    __tablename__ = "folder_waits"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    path: Mapped[str] = mapped_column(String, primary_key=True)
    side: Mapped[str] = mapped_column(String)  # whose state waits to be taken over: "desk" or "folder"
    why: Mapped[str] = mapped_column(String)
    remedy: Mapped[str] = mapped_column(String)  # what its author can do


class LeaseRow(Base):
    """Something of a site that one process sees to at a time, outside any transaction."""

    __tablename__ = "leases"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String, primary_key=True)
    holder: Mapped[str] = mapped_column(String)
    until: Mapped[datetime] = mapped_column(DateTime(timezone=True))  # it is free then, whatever became of its holder


class FolderConflictRow(Base):
    """A file that was edited on both sides, in the same place."""

    __tablename__ = "folder_conflicts"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    path: Mapped[str] = mapped_column(String, primary_key=True)
    base_sha256: Mapped[str | None] = mapped_column(String(64))  # what both began from
    folder_sha256: Mapped[str | None] = mapped_column(String(64))  # what the folder has


class TargetRow(Base):
    """A place that a site is published to."""

    __tablename__ = "targets"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String, primary_key=True)
    kind: Mapped[str] = mapped_column(String)  # a word of the desk's `TargetKind`
    address: Mapped[str] = mapped_column(String)  # a folder, or an address; the secret is never here
    user_name: Mapped[str] = mapped_column(String, server_default=text("''"))
    live: Mapped[str] = mapped_column(String, server_default=text("''"))  # the address that readers use


class PublishedRow(Base):
    """A file as it was put to a target last."""

    __tablename__ = "published"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    target: Mapped[str] = mapped_column(String, primary_key=True)
    address: Mapped[str] = mapped_column(String, primary_key=True, server_default=text("''"))  # of the target then
    path: Mapped[str] = mapped_column(String, primary_key=True)
    sha256: Mapped[str | None] = mapped_column(String(64))  # that was read back there; NULL for nothing yet
    sending: Mapped[str | None] = mapped_column(String(64))  # that is being put there; NULL for nothing
    size: Mapped[int | None] = mapped_column(BigInteger)  # as the target tells it
    tag: Mapped[str] = mapped_column(String, server_default=text("''"))  # as the target tells it


class PublicationRow(Base):
    """A publication that can be taken back."""

    __tablename__ = "publications"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    target: Mapped[str] = mapped_column(String, primary_key=True)
    number: Mapped[int] = mapped_column(Integer, primary_key=True)  # 1-based
    address: Mapped[str] = mapped_column(String, server_default=text("''"))  # of the target then
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class PublicationFileRow(Base):
    """What a publication did to one file at its target."""

    __tablename__ = "publication_files"
    __table_args__ = (
        ForeignKeyConstraint(
            ["site_id", "target", "number"],
            ["publications.site_id", "publications.target", "publications.number"],
            ondelete="CASCADE",
            name="files_of_publication",
        ),
        *_kept("publication_files", "before_sha256"),
    )

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    target: Mapped[str] = mapped_column(String, primary_key=True)
    number: Mapped[int] = mapped_column(Integer, primary_key=True)
    path: Mapped[str] = mapped_column(String, primary_key=True)
    before_sha256: Mapped[str | None] = mapped_column(String(64))  # NULL: nothing was there
    after_sha256: Mapped[str | None] = mapped_column(String(64))  # NULL: it was deleted there
    was_foreign: Mapped[bool] = mapped_column(Boolean, server_default=text("false"))  # not put there from here


class WalkedRow(Base):
    """What a walk of a published site has found so far."""

    __tablename__ = "walked"
    __table_args__ = (_of_site(),)

    site_id: Mapped[UUID] = mapped_column(primary_key=True)
    target: Mapped[str] = mapped_column(String, primary_key=True)
    kind: Mapped[str] = mapped_column(String, primary_key=True)  # a word of the store's `WalkedKind`
    path: Mapped[str] = mapped_column(String, primary_key=True)
    said: Mapped[dict[str, Any]] = mapped_column(JSONB)
    sha256: Mapped[str | None] = mapped_column(String(64))  # of the bytes that came
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class PassRow(Base):
    """Somebody who has signed in."""

    __tablename__ = "passes"

    pass_id: Mapped[UUID] = mapped_column(primary_key=True)
    token_sha256: Mapped[str] = mapped_column(String(64), unique=True)
    key_mark: Mapped[str] = mapped_column(String(32))  # of the key that it was got for
    until: Mapped[datetime] = mapped_column(DateTime(timezone=True))


class FailureRow(Base):
    """Somebody who gave a wrong key."""

    __tablename__ = "failures"

    caller: Mapped[str] = mapped_column(String, primary_key=True)  # an address, a browser, or everybody
    count: Mapped[int] = mapped_column(Integer)
    until: Mapped[datetime] = mapped_column(DateTime(timezone=True))  # before that, no other key of theirs is judged
    last: Mapped[datetime] = mapped_column(DateTime(timezone=True))


def _table(row: type[Base]) -> Table:
    return cast("Table", row.__table__)


# What is asked often is asked of the tables: asked of their classes, it takes half as long again.
SITES = _table(SiteRow)
BLOBS = _table(BlobRow)
FILES = _table(FileRow)
CHANGES = _table(ChangeRow)
CHANGE_FILES = _table(ChangeFileRow)
REQUESTS = _table(RequestRow)
ANALYSES = _table(AnalysisRow)
GEOMETRIES = _table(GeometryRow)
PAGES = _table(PageRow)
TOLD = _table(ToldRow)
FINDINGS = _table(FindingRow)
FINDING_COUNTS = _table(FindingCountRow)
NEEDS = _table(NeedRow)
ANSWERS = _table(AnswerRow)
DESTINATIONS = _table(DestinationRow)
