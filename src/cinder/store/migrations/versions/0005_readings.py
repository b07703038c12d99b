"""Readings of plants and files beside their jobs, which plants are being watched, attempts at practice.

Revision ID: 0005
Revises: 0004
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    op.create_table(
        "reading_sources",
        sa.Column("company_id", sa.String(64), primary_key=True),
        sa.Column("job_id", sa.String(64), primary_key=True),
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("person_id", sa.String(64), nullable=False),
        sa.Column("kind", sa.String(16), nullable=False),
        sa.Column("label", sa.Text, nullable=False),
        sa.Column("channels", ARRAY(sa.Text), nullable=False),
        sa.Column("told", JSONB, nullable=False, server_default="[]"),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()),
        sa.ForeignKeyConstraint(["company_id", "job_id"], ["jobs.company_id", "jobs.id"]),
    )
    op.create_table(
        "readings",
        sa.Column("company_id", sa.String(64), primary_key=True),
        sa.Column("job_id", sa.String(64), primary_key=True),
        sa.Column("source_id", sa.String(64), primary_key=True),
        sa.Column("at", sa.DateTime(timezone=True), primary_key=True),
        sa.Column("figures", ARRAY(sa.Float), nullable=False),
        sa.ForeignKeyConstraint(
            ["company_id", "job_id", "source_id"],
            ["reading_sources.company_id", "reading_sources.job_id", "reading_sources.id"],
            ondelete="CASCADE",
        ),
    )
    op.create_table(
        "watched_plants",
        sa.Column("company_id", sa.String(64), primary_key=True),
        sa.Column("job_id", sa.String(64), primary_key=True),
        sa.Column("source_id", sa.String(64), nullable=False),
        sa.Column("address", sa.Text, nullable=False),
        sa.Column("stand_in", JSONB),
        sa.Column("every_s", sa.Float, nullable=False),
        sa.Column("wanted", sa.Boolean, nullable=False),
        sa.Column("lease_by", sa.String(64)),
        sa.Column("lease_until", sa.DateTime(timezone=True)),
        sa.Column("state", sa.String(16), nullable=False),
        sa.Column("said", sa.Text, nullable=False),
        sa.Column("problems", JSONB, nullable=False, server_default="[]"),
        sa.Column("orders", JSONB, nullable=False, server_default="[]"),
        sa.Column("last_at", sa.DateTime(timezone=True)),
        sa.Column("heard_at", sa.DateTime(timezone=True)),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()),
        sa.ForeignKeyConstraint(["company_id", "job_id"], ["jobs.company_id", "jobs.id"]),
    )
    op.create_table(
        "attempts",
        sa.Column("company_id", sa.String(64), primary_key=True),
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("job_id", sa.String(64), nullable=False),
        sa.Column("version", sa.BigInteger, nullable=False),
        sa.Column("person_id", sa.String(64), nullable=False),
        sa.Column("level", sa.String(16), nullable=False),
        sa.Column("seed", sa.BigInteger, nullable=False),
        sa.Column("deeds", JSONB, nullable=False, server_default="[]"),
        sa.Column("score", JSONB),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()),
        sa.ForeignKeyConstraint(["company_id", "job_id"], ["jobs.company_id", "jobs.id"]),
    )
