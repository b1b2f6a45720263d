"""What authors said about furniture, under its one name."""

from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

RENAME = """
UPDATE sites SET settings = jsonb_set(settings, '{{regions}}', (
  SELECT coalesce(
    jsonb_object_agg(page, (said - '{old}') || jsonb_build_object('{new}', coalesce(said->'{old}', '[]'))), '{{}}'
  )
  FROM jsonb_each(settings->'regions') AS regions(page, said)
)) WHERE settings ? 'regions'
"""


def upgrade() -> None:
    op.execute(RENAME.format(old="chrome", new="furniture"))
