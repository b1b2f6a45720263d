"""Places that sites are published to, and what they have."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "targets",
        sa.Column("site_id", sa.Uuid, primary_key=True),
        sa.Column("name", sa.String, primary_key=True),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("address", sa.String, nullable=False),
        sa.Column("user_name", sa.String, nullable=False, server_default=sa.text("''")),
        sa.Column("live", sa.String, nullable=False, server_default=sa.text("''")),
        sa.ForeignKeyConstraint(["site_id"], ["sites.site_id"], ondelete="CASCADE"),
    )
    op.create_table(
        "published",
        sa.Column("site_id", sa.Uuid, primary_key=True),
        sa.Column("target", sa.String, primary_key=True),
        sa.Column("path", sa.String, primary_key=True),
        sa.Column("sha256", sa.String(64), nullable=False),
        sa.ForeignKeyConstraint(["site_id"], ["sites.site_id"], ondelete="CASCADE"),
    )
    op.create_table(
        "publications",
        sa.Column("site_id", sa.Uuid, primary_key=True),
        sa.Column("target", sa.String, primary_key=True),
        sa.Column("number", sa.Integer, primary_key=True),
        sa.Column("files", postgresql.JSONB, nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()),
        sa.ForeignKeyConstraint(["site_id"], ["sites.site_id"], ondelete="CASCADE"),
    )
