"""How often a paper was begun: what dies on it every time is not tried for ever.

Revision ID: 0004
Revises: 0003
"""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    op.add_column("papers", sa.Column("tries", sa.Integer, nullable=False, server_default="0"))
