"""The revision of its site's files that made a file as it is, by which what is at hand is brought up to date."""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("files", sa.Column("revision", sa.BigInteger(), server_default=sa.text("0"), nullable=False))
    op.create_index("files_by_revision", "files", ["site_id", "revision"])


def downgrade() -> None:
    op.drop_index("files_by_revision", "files")
    op.drop_column("files", "revision")
