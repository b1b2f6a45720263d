"""What was put to a target is known by its address too, as it was read back there; what it replaced is kept."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None

#: What each earlier publication did, told from what the target had after it and after the one before.
_DID = """
INSERT INTO publication_files (site_id, target, number, path, before_sha256, after_sha256)
SELECT p.site_id, p.target, p.number, f.path, f.before, f.after
FROM publications p
LEFT JOIN LATERAL (
    SELECT files FROM publications o
    WHERE o.site_id = p.site_id AND o.target = p.target AND o.number < p.number ORDER BY o.number DESC LIMIT 1
) last ON TRUE
CROSS JOIN LATERAL (
    SELECT coalesce(a.key, b.key) AS path, b.value AS before, a.value AS after
    FROM jsonb_each_text(p.files) a
    FULL JOIN jsonb_each_text(coalesce(last.files, '{}'::jsonb)) b ON a.key = b.key
    WHERE a.value IS DISTINCT FROM b.value
) f
"""


def upgrade() -> None:
    op.add_column("published", sa.Column("address", sa.String, nullable=False, server_default=""))
    op.add_column("published", sa.Column("sending", sa.String(64)))
    op.add_column("published", sa.Column("size", sa.BigInteger))
    op.add_column("published", sa.Column("tag", sa.String, nullable=False, server_default=""))
    op.alter_column("published", "sha256", nullable=True)
    op.drop_constraint("published_pkey", "published")
    op.create_primary_key("published_pkey", "published", ["site_id", "target", "address", "path"])
    op.add_column("publications", sa.Column("address", sa.String, nullable=False, server_default=""))
    op.create_table(
        "publication_files",
        sa.Column("site_id", sa.Uuid, primary_key=True),
        sa.Column("target", sa.String, primary_key=True),
        sa.Column("number", sa.Integer, primary_key=True),
        sa.Column("path", sa.String, primary_key=True),
        sa.Column("before_sha256", sa.String(64)),
        sa.Column("after_sha256", sa.String(64)),
        sa.Column("was_foreign", sa.Boolean, nullable=False, server_default=sa.text("false")),
        sa.ForeignKeyConstraint(
            ["site_id", "target", "number"],
            ["publications.site_id", "publications.target", "publications.number"],
            ondelete="CASCADE",
            name="files_of_publication",
        ),
    )
    op.execute(_DID)
    op.drop_column("publications", "files")
    for table in ("published", "publications"):
        op.execute(
            f"UPDATE {table} SET address = t.address FROM targets t "  # noqa: S608 - a name of ours
            f"WHERE t.site_id = {table}.site_id AND t.name = {table}.target"
        )


def downgrade() -> None:
    op.add_column("publications", sa.Column("files", postgresql.JSONB, nullable=False, server_default="{}"))
    op.drop_table("publication_files")
    op.drop_column("publications", "address")
    op.execute("DELETE FROM published WHERE sha256 IS NULL")
    op.drop_constraint("published_pkey", "published")
    op.create_primary_key("published_pkey", "published", ["site_id", "target", "path"])
    op.alter_column("published", "sha256", nullable=False)
    for column in ("address", "sending", "size", "tag"):
        op.drop_column("published", column)
