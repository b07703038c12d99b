"""Photos by company and fingerprint.

Revision ID: 0002
Revises: 0001
"""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.create_table(
        "photos",
        sa.Column("company_id", sa.String(64), sa.ForeignKey("companies.id"), primary_key=True),
        sa.Column("sha256", sa.String(64), primary_key=True),
        sa.Column("person_id", sa.String(64), nullable=False),
        sa.Column("width_px", sa.Integer, nullable=False),
        sa.Column("height_px", sa.Integer, nullable=False),
        sa.Column("full", sa.LargeBinary, nullable=False),
        sa.Column("view", sa.LargeBinary, nullable=False),
        sa.Column("thumb", sa.LargeBinary, nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.ForeignKeyConstraint(["company_id", "person_id"], ["people.company_id", "people.id"]),
    )


def downgrade() -> None:
    op.drop_table("photos")
