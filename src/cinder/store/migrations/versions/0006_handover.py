"""What was issued and is kept as issued; files brought in; how columns of a file were said; what was done with a winter's proposals.

Revision ID: 0006
Revises: 0005
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    op.create_table(
        "issued",
        sa.Column("company_id", sa.String(64), primary_key=True),
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("job_id", sa.String(64), nullable=False),
        sa.Column("person_id", sa.String(64), nullable=False),
        sa.Column("kind", sa.String(16), nullable=False),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("version", sa.BigInteger, nullable=False),
        sa.Column("engine", sa.Text, nullable=False),
        sa.Column("fingerprint", sa.String(64), nullable=False),
        sa.Column("content", JSONB, nullable=False),
        sa.Column("accepted", JSONB),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()),
        sa.ForeignKeyConstraint(["company_id", "job_id"], ["jobs.company_id", "jobs.id"]),
        sa.UniqueConstraint("company_id", "job_id", "kind", "number", name="issued_numbers"),
    )
    op.create_table(
        "files",
        sa.Column("company_id", sa.String(64), sa.ForeignKey("companies.id"), primary_key=True),
        sa.Column("sha256", sa.String(64), primary_key=True),
        sa.Column("person_id", sa.String(64), nullable=False),
        sa.Column("media", sa.Text, nullable=False),
        sa.Column("data", sa.LargeBinary, nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()),
    )
    op.create_table(
        "column_maps",
        sa.Column("company_id", sa.String(64), sa.ForeignKey("companies.id"), primary_key=True),
        sa.Column("heads_sha256", sa.String(64), primary_key=True),
        sa.Column("mapped", JSONB, nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now()),
    )
    op.create_table(
        "reading_hours",
        sa.Column("company_id", sa.String(64), primary_key=True),
        sa.Column("job_id", sa.String(64), primary_key=True),
        sa.Column("source_id", sa.String(64), primary_key=True),
        sa.Column("hour", sa.DateTime(timezone=True), primary_key=True),
        sa.Column("mean", ARRAY(sa.Float), nullable=False),
        sa.Column("least", ARRAY(sa.Float), nullable=False),
        sa.Column("greatest", ARRAY(sa.Float), nullable=False),
        sa.ForeignKeyConstraint(
            ["company_id", "job_id", "source_id"],
            ["reading_sources.company_id", "reading_sources.job_id", "reading_sources.id"],
            ondelete="CASCADE",
        ),
    )


def downgrade() -> None:
    for name in ("reading_hours", "column_maps", "files", "issued"):
        op.drop_table(name)
