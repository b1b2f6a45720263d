"""What is needed so that nothing is lost between two hands: requests known again, leases, files that wait."""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def _of_site() -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint(["site_id"], ["sites.site_id"], ondelete="CASCADE")


def upgrade() -> None:
    op.create_table(
        "requests",
        sa.Column("site_id", sa.Uuid, primary_key=True),
        sa.Column("key", sa.Uuid, primary_key=True),
        sa.Column("number", sa.BigInteger, nullable=False),
        sa.Column("digest", sa.String(64), nullable=False),
        sa.ForeignKeyConstraint(
            ["site_id", "number"],
            ["changes.site_id", "changes.number"],
            ondelete="CASCADE",
            name="requests_of_change",
        ),
    )
    op.create_index("requests_by_change", "requests", ["site_id", "number"])
    op.execute("INSERT INTO requests SELECT site_id, key, number, '' FROM changes WHERE key IS NOT NULL")
    op.drop_index("changes_by_key", "changes")
    op.drop_column("changes", "key")
    op.create_index("changes_undone", "changes", ["site_id", "number"], postgresql_where=sa.text("undone"))
    op.create_index(
        "changes_outside", "changes", ["site_id", "number"], postgresql_where=sa.text("parameters ? 'moves'")
    )
    op.create_table(
        "leases",
        sa.Column("site_id", sa.Uuid, primary_key=True),
        sa.Column("name", sa.String, primary_key=True),
        sa.Column("holder", sa.String, nullable=False),
        sa.Column("until", sa.DateTime(timezone=True), nullable=False),
        _of_site(),
    )
    op.create_table(
        "folder_waits",
        sa.Column("site_id", sa.Uuid, primary_key=True),
        sa.Column("path", sa.String, primary_key=True),
        sa.Column("side", sa.String, nullable=False),
        sa.Column("why", sa.String, nullable=False),
        sa.Column("remedy", sa.String, nullable=False),
        _of_site(),
    )
    op.add_column("folder_writes", sa.Column("beside", sa.String, nullable=False, server_default=""))
    op.drop_constraint("folder_writes_pkey", "folder_writes")
    op.create_primary_key("folder_writes_pkey", "folder_writes", ["site_id", "path", "beside"])
    op.alter_column("folder_files", "mtime", new_column_name="changed")
    op.execute("UPDATE folder_files SET changed = 0")


def downgrade() -> None:
    op.alter_column("folder_files", "changed", new_column_name="mtime")
    op.execute("DELETE FROM folder_writes")
    op.drop_constraint("folder_writes_pkey", "folder_writes")
    op.drop_column("folder_writes", "beside")
    op.create_primary_key("folder_writes_pkey", "folder_writes", ["site_id", "path"])
    op.drop_table("folder_waits")
    op.drop_table("leases")
    op.drop_index("changes_outside", "changes")
    op.drop_index("changes_undone", "changes")
    op.add_column("changes", sa.Column("key", sa.Uuid(), nullable=True))
    op.execute(
        "UPDATE changes SET key = r.key FROM requests r "
        "WHERE r.site_id = changes.site_id AND r.number = changes.number"
    )
    op.create_index("changes_by_key", "changes", ["site_id", "key"], unique=True)
    op.drop_table("requests")
