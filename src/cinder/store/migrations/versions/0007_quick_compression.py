"""Documents are kept in a compression that takes half the time of the database's own; what is written already stays as it is.

Revision ID: 0007
Revises: 0006
"""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
WRITTEN_BY_EVERY_EDIT = (("jobs", "document"), ("changes", "snapshot"))
KNOWN = "SELECT 'lz4' = ANY (enumvals) FROM pg_settings WHERE name = 'default_toast_compression'"
"""A database may be built without it, and one before 14 knows no choice."""


def upgrade() -> None:
    _kept_by("lz4")


def downgrade() -> None:
    _kept_by("pglz")


def _kept_by(compression: str) -> None:
    if op.get_bind().scalar(sa.text(KNOWN)):
        for table, column in WRITTEN_BY_EVERY_EDIT:
            op.execute(f"ALTER TABLE {table} ALTER COLUMN {column} SET COMPRESSION {compression}")
