"""Analyses also by what is known of a page's content beside its own bytes."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.execute("DELETE FROM analyses")  # a cache; it fills again
    op.add_column("analyses", sa.Column("marks", sa.String(64), nullable=False, server_default=""))
    op.alter_column("analyses", "marks", server_default=None)
    op.drop_constraint("analyses_pkey", "analyses")
    op.create_primary_key("analyses_pkey", "analyses", ["site_id", "sha256", "core_version", "marks"])
