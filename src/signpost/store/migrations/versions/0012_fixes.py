"""Whether a finding is fixed by one press, or by a choice: counted without a look into what it says."""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    for name in ("pressed", "chosen"):
        op.add_column("findings", sa.Column(name, sa.Boolean(), server_default=sa.text("false"), nullable=False))
    op.execute("UPDATE findings SET pressed = (view ->> 'fixable')::boolean")
    op.execute("UPDATE findings SET chosen = NOT pressed AND jsonb_array_length(view -> 'choices') > 0")
    op.drop_index("findings_by_rule", "findings")
    op.create_index("findings_by_rule", "findings", ["site_id", "rule", "pressed", "chosen"])


def downgrade() -> None:
    op.drop_index("findings_by_rule", "findings")
    for name in ("pressed", "chosen"):
        op.drop_column("findings", name)
    op.create_index("findings_by_rule", "findings", ["site_id", "rule"])
