"""The index of a site: what pages tell, what is wrong on them, and what that depends on."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("sites", sa.Column("indexed_by", sa.String(), server_default=sa.text("''"), nullable=False))
    op.add_column("sites", sa.Column("files_revision", sa.BigInteger(), server_default=sa.text("0"), nullable=False))
    op.add_column("files", sa.Column("indexed_sha256", sa.String(64), nullable=True))
    op.create_index(
        "files_unindexed",
        "files",
        ["site_id"],
        postgresql_where=sa.text("sha256 IS DISTINCT FROM indexed_sha256"),
    )
    _create(
        "pages",
        sa.Column("path", sa.String(), primary_key=True),
        sa.Column("sha256", sa.String(64), nullable=False),
        sa.Column("repeated", postgresql.JSONB(), nullable=False),
        sa.Column("unreadable", sa.String(), nullable=True),
        sa.Column("summary", postgresql.JSONB(), nullable=False),
        sa.Column("checked_by", sa.String(), nullable=True),
    )
    op.create_index("pages_unchecked", "pages", ["site_id"], postgresql_where=sa.text("checked_by IS NULL"))
    op.create_index("pages_unreadable", "pages", ["site_id"], postgresql_where=sa.text("unreadable IS NOT NULL"))
    _create(
        "told",
        sa.Column("page", sa.String(), primary_key=True),
        sa.Column("kind", sa.String(), primary_key=True),
        sa.Column("digest", sa.BigInteger(), primary_key=True),
        sa.Column("key_digest", sa.BigInteger(), nullable=False),
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("value", sa.String(), nullable=False),
    )
    op.create_index("told_by_key", "told", ["site_id", "kind", "key_digest"])
    _create(
        "findings",
        sa.Column("page", sa.String(), primary_key=True),
        sa.Column("number", sa.Integer(), primary_key=True),
        sa.Column("rule", sa.String(), nullable=False),
        sa.Column("words", sa.String(), nullable=False),
        sa.Column("view", postgresql.JSONB(), nullable=False),
    )
    op.create_index("findings_by_rule", "findings", ["site_id", "rule"])
    _create(
        "needs",
        sa.Column("holder", sa.String(), primary_key=True),
        sa.Column("need", sa.BigInteger(), primary_key=True),
    )
    op.create_index("needs_by_need", "needs", ["site_id", "need"])
    op.execute("CREATE EXTENSION IF NOT EXISTS pg_trgm")
    op.execute("CREATE EXTENSION IF NOT EXISTS btree_gin")
    _create(
        "destinations",
        sa.Column("page", sa.String(), primary_key=True),
        sa.Column("number", sa.Integer(), primary_key=True),
        sa.Column("section", sa.Integer(), nullable=True),
        sa.Column("level", sa.Integer(), nullable=False),
        sa.Column("identifier", sa.String(), nullable=True),
        sa.Column("text", sa.String(), nullable=False),
        sa.Column("words", sa.String(), nullable=False),
    )
    op.create_index(
        "destinations_by_words",
        "destinations",
        ["site_id", "words"],
        postgresql_using="gin",
        postgresql_ops={"words": "gin_trgm_ops"},
    )
    _create(
        "answers",
        sa.Column("name", sa.String(), primary_key=True),
        sa.Column("value", sa.String(), nullable=False),
    )


def _create(name: str, *columns: "sa.Column[Any]") -> None:
    """Make a table of what belongs to a site."""
    op.create_table(
        name,
        sa.Column("site_id", sa.Uuid(), primary_key=True),
        *columns,
        sa.ForeignKeyConstraint(["site_id"], ["sites.site_id"], ondelete="CASCADE"),
    )
