"""What a walk of a published site has found so far, so that it goes on from there."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "walked",
        sa.Column("site_id", sa.Uuid, primary_key=True),
        sa.Column("target", sa.String, primary_key=True),
        sa.Column("kind", sa.String, primary_key=True),
        sa.Column("path", sa.String, primary_key=True),
        sa.Column("said", postgresql.JSONB, nullable=False),
        sa.Column("sha256", sa.String(64)),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()),
        sa.ForeignKeyConstraint(["site_id"], ["sites.site_id"], ondelete="CASCADE"),
    )


def downgrade() -> None:
    op.drop_table("walked")
