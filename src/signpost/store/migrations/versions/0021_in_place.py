"""Which writes to a folder are in place and noted: what was put there before somebody was stopped is told apart."""

import sqlalchemy as sa
from alembic import op

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None


def upgrade() -> None:
    # what is beside a file now was noted when it was put in place, or was not put there
    op.add_column("folder_writes", sa.Column("agreed", sa.Boolean, nullable=False, server_default=sa.true()))
    op.alter_column("folder_writes", "agreed", server_default=sa.false())


def downgrade() -> None:
    op.drop_column("folder_writes", "agreed")
