"""The digest that a geometry belongs to, under its own name."""

from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.alter_column("geometries", "look", new_column_name="digest")
