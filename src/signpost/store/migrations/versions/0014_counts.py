"""How many findings a site has of each rule, kept beside them."""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "finding_counts",
        sa.Column("site_id", sa.Uuid(), nullable=False),
        sa.Column("rule", sa.String(), nullable=False),
        sa.Column("share", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("pressed", sa.Integer(), nullable=False),
        sa.Column("chosen", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("site_id", "rule", "share"),
        sa.ForeignKeyConstraint(["site_id"], ["sites.site_id"], ondelete="CASCADE"),
    )
    op.execute(
        "INSERT INTO finding_counts SELECT site_id, rule, 0, count(*), count(*) FILTER (WHERE pressed), "
        "count(*) FILTER (WHERE chosen) FROM findings GROUP BY site_id, rule"
    )


def downgrade() -> None:
    op.drop_table("finding_counts")
