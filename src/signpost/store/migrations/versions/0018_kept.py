"""How much a site keeps is counted as it grows; what files and changes point to is there as long as they are."""

import sqlalchemy as sa
from alembic import op

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None

#: Which columns hold hashes of bytes that are kept.
_HELD = [
    ("files", "sha256"),
    ("files", "brought_sha256"),
    ("change_files", "before_sha256"),
    ("change_files", "after_sha256"),
    ("publication_files", "before_sha256"),
]
_COUNT = """
CREATE FUNCTION count_stored_bytes() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE sites SET stored_bytes = stored_bytes + counted.size
    FROM (SELECT site_id, sum(size) * {sign} AS size FROM counted GROUP BY site_id) counted
    WHERE sites.site_id = counted.site_id;
    RETURN NULL;
END $$
"""


def upgrade() -> None:
    op.add_column("blobs", sa.Column("size", sa.Integer, sa.Computed("octet_length(data)", persisted=True)))
    op.add_column(
        "blobs", sa.Column("kept_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now())
    )
    op.add_column("sites", sa.Column("stored_bytes", sa.BigInteger, nullable=False, server_default=sa.text("0")))
    op.execute(
        "UPDATE sites SET stored_bytes = "
        "coalesce((SELECT sum(size) FROM blobs WHERE blobs.site_id = sites.site_id), 0)"
    )
    for name, event, table, sign in (
        ("count_bytes_kept", "INSERT", "NEW", 1),
        ("count_bytes_freed", "DELETE", "OLD", -1),
    ):
        op.execute(_COUNT.replace("count_stored_bytes", name).format(sign=sign))
        op.execute(
            f"CREATE TRIGGER {name} AFTER {event} ON blobs REFERENCING {table} TABLE AS counted "
            f"FOR EACH STATEMENT EXECUTE FUNCTION {name}()"
        )
    for table, column in _HELD:
        op.create_index(f"{table}_by_{column}", table, ["site_id", column])
        op.create_foreign_key(
            f"{table}_{column}_kept",
            table,
            "blobs",
            ["site_id", column],
            ["site_id", "sha256"],
            deferrable=True,
            initially="DEFERRED",
        )


def downgrade() -> None:
    for table, column in _HELD:
        op.drop_constraint(f"{table}_{column}_kept", table, type_="foreignkey")
        op.drop_index(f"{table}_by_{column}", table)
    for name in ("count_bytes_kept", "count_bytes_freed"):
        op.execute(f"DROP TRIGGER {name} ON blobs")
        op.execute(f"DROP FUNCTION {name}()")
    op.drop_column("sites", "stored_bytes")
    op.drop_column("blobs", "kept_at")
    op.drop_column("blobs", "size")
