"""Destinations are found by how their words begin."""

from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_index(
        "destinations_by_start", "destinations", ["site_id", "words"], postgresql_ops={"words": "text_pattern_ops"}
    )


def downgrade() -> None:
    op.drop_index("destinations_by_start", "destinations")
