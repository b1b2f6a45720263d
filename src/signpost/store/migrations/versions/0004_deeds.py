"""Who did what last to a site, and changes found again by the key of their request."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("sites", sa.Column("revision", sa.BigInteger(), nullable=False, server_default=sa.text("0")))
    for name in ("last_window", "last_author", "last_deed"):
        op.add_column("sites", sa.Column(name, sa.String(), nullable=False, server_default=sa.text("''")))
    op.add_column("changes", sa.Column("author", sa.String(), nullable=False, server_default=sa.text("''")))
    op.add_column("changes", sa.Column("key", sa.Uuid(), nullable=True))
    op.create_index("changes_by_key", "changes", ["site_id", "key"], unique=True)
