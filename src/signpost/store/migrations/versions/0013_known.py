"""Whether the index knows a file as it is, and by what a page was checked: found by indexes."""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None

_KNOWN = "sha256 IS NOT DISTINCT FROM indexed_sha256"


def upgrade() -> None:
    op.add_column("files", sa.Column("is_known", sa.Boolean(), sa.Computed(_KNOWN, persisted=True)))
    op.drop_index("files_unindexed", "files")
    op.create_index("files_unknown", "files", ["site_id", "path"], postgresql_where=sa.text("NOT is_known"))
    op.create_index("pages_by_check", "pages", ["site_id", "checked_by"])
    op.create_index("pages_by_length", "pages", ["site_id", sa.text("((summary ->> 'windows')::double precision)")])


def downgrade() -> None:
    op.drop_index("pages_by_length", "pages")
    op.drop_index("pages_by_check", "pages")
    op.drop_index("files_unknown", "files")
    op.drop_column("files", "is_known")
    op.create_index(
        "files_unindexed", "files", ["site_id"], postgresql_where=sa.text("sha256 IS DISTINCT FROM indexed_sha256")
    )
