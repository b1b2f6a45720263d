"""Sites, files, changes and analyses."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def _site() -> sa.Column:
    return sa.Column("site_id", sa.Uuid(), nullable=False)


def _of_site() -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint(["site_id"], ["sites.site_id"], ondelete="CASCADE")


def _now(name: str) -> sa.Column:
    return sa.Column(name, sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False)


def upgrade() -> None:
    op.create_table(
        "sites",
        _site(),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("base", sa.String()),
        sa.Column("settings", JSONB(), server_default=sa.text("'{}'::jsonb"), nullable=False),
        sa.Column("last_change", sa.BigInteger(), server_default=sa.text("0"), nullable=False),
        _now("created_at"),
        sa.PrimaryKeyConstraint("site_id"),
    )
    op.create_table(
        "blobs",
        _site(),
        sa.Column("sha256", sa.String(64), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        _of_site(),
        sa.PrimaryKeyConstraint("site_id", "sha256"),
    )
    op.create_table(
        "files",
        _site(),
        sa.Column("path", sa.String(), nullable=False),
        sa.Column("sha256", sa.String(64)),
        sa.Column("brought_sha256", sa.String(64)),
        _of_site(),
        sa.PrimaryKeyConstraint("site_id", "path"),
    )
    op.create_table(
        "changes",
        _site(),
        sa.Column("number", sa.BigInteger(), nullable=False, autoincrement=False),
        sa.Column("operation", sa.String(), nullable=False),
        sa.Column("title", sa.String(), nullable=False),
        sa.Column("page", sa.String(), nullable=False),
        sa.Column("parameters", JSONB(), nullable=False),
        sa.Column("edits", sa.Integer(), nullable=False),
        sa.Column("undone", sa.Boolean(), server_default=sa.text("false"), nullable=False),
        _now("created_at"),
        _of_site(),
        sa.PrimaryKeyConstraint("site_id", "number"),
    )
    op.create_table(
        "change_files",
        _site(),
        sa.Column("number", sa.BigInteger(), nullable=False, autoincrement=False),
        sa.Column("path", sa.String(), nullable=False),
        sa.Column("before_sha256", sa.String(64)),
        sa.Column("after_sha256", sa.String(64)),
        sa.ForeignKeyConstraint(["site_id", "number"], ["changes.site_id", "changes.number"], ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("site_id", "number", "path"),
    )
    op.create_index("change_files_by_path", "change_files", ["site_id", "path"])
    op.create_table(
        "analyses",
        _site(),
        sa.Column("sha256", sa.String(64), nullable=False),
        sa.Column("core_version", sa.Integer(), nullable=False, autoincrement=False),
        sa.Column("facts", JSONB(), nullable=False),
        _of_site(),
        sa.PrimaryKeyConstraint("site_id", "sha256", "core_version"),
    )


def downgrade() -> None:
    for table in ("analyses", "change_files", "changes", "files", "blobs", "sites"):
        op.drop_table(table)
