"""Folders on disk that sites are linked to, and what is being written there."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "folders",
        sa.Column("site_id", sa.Uuid, primary_key=True),
        sa.Column("folder", sa.String, nullable=False),
        sa.Column("host", sa.String, nullable=False),
        sa.Column("away", sa.String, nullable=False, server_default=sa.text("''")),
        sa.ForeignKeyConstraint(["site_id"], ["sites.site_id"], ondelete="CASCADE"),
    )
    op.create_table(
        "folder_files",
        sa.Column("site_id", sa.Uuid, primary_key=True),
        sa.Column("path", sa.String, primary_key=True),
        sa.Column("sha256", sa.String(64), nullable=False),
        sa.Column("size", sa.BigInteger, nullable=False),
        sa.Column("mtime", sa.BigInteger, nullable=False),
        sa.ForeignKeyConstraint(["site_id"], ["sites.site_id"], ondelete="CASCADE"),
    )
    op.create_table(
        "folder_writes",
        sa.Column("site_id", sa.Uuid, primary_key=True),
        sa.Column("path", sa.String, primary_key=True),
        sa.Column("before_sha256", sa.String(64)),
        sa.Column("after_sha256", sa.String(64)),
        sa.ForeignKeyConstraint(["site_id"], ["sites.site_id"], ondelete="CASCADE"),
    )
    op.create_table(
        "folder_conflicts",
        sa.Column("site_id", sa.Uuid, primary_key=True),
        sa.Column("path", sa.String, primary_key=True),
        sa.Column("base_sha256", sa.String(64)),
        sa.Column("folder_sha256", sa.String(64)),
        sa.ForeignKeyConstraint(["site_id"], ["sites.site_id"], ondelete="CASCADE"),
    )
