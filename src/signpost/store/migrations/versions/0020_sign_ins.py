"""Who has signed in, and who tried in vain: kept for all processes, so that signing out ends it everywhere."""

import sqlalchemy as sa
from alembic import op

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "passes",
        sa.Column("pass_id", sa.Uuid, primary_key=True),
        sa.Column("token_sha256", sa.String(64), nullable=False, unique=True),
        sa.Column("key_mark", sa.String(32), nullable=False),
        sa.Column("until", sa.DateTime(timezone=True), nullable=False),
    )
    op.create_table(
        "failures",
        sa.Column("caller", sa.String, primary_key=True),
        sa.Column("count", sa.Integer, nullable=False),
        sa.Column("until", sa.DateTime(timezone=True), nullable=False),
        sa.Column("last", sa.DateTime(timezone=True), nullable=False),
    )


def downgrade() -> None:
    op.drop_table("failures")
    op.drop_table("passes")
