"""Companies, people, jobs and the change log.

Revision ID: 0001
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0001"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "companies",
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("name", sa.Text, nullable=False),
    )
    op.create_table(
        "people",
        sa.Column("company_id", sa.String(64), sa.ForeignKey("companies.id"), primary_key=True),
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("name", sa.Text, nullable=False),
    )
    op.create_table(
        "jobs",
        sa.Column("company_id", sa.String(64), sa.ForeignKey("companies.id"), primary_key=True),
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("title", sa.Text, nullable=False),
        sa.Column("version", sa.BigInteger, nullable=False),
        sa.Column("schema_version", sa.Integer, nullable=False),
        sa.Column("document", postgresql.JSONB, nullable=False),
        sa.Column("summary", postgresql.JSONB),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("changed_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("archived_at", sa.DateTime(timezone=True)),
    )
    op.create_table(
        "changes",
        sa.Column("company_id", sa.String(64), primary_key=True),
        sa.Column("job_id", sa.String(64), primary_key=True),
        sa.Column("version", sa.BigInteger, primary_key=True),
        sa.Column("change_id", sa.String(64), nullable=False),
        sa.Column("person_id", sa.String(64), nullable=False),
        sa.Column("kind", sa.String(16), nullable=False),
        sa.Column("label", sa.Text, nullable=False),
        sa.Column("refers_to", sa.String(64)),
        sa.Column("base_version", sa.BigInteger, nullable=False),
        sa.Column("schema_version", sa.Integer, nullable=False),
        sa.Column("operations", postgresql.JSONB, nullable=False),
        sa.Column("inverse", postgresql.JSONB, nullable=False),
        sa.Column("touched", postgresql.JSONB, nullable=False),
        sa.Column("body_sha256", sa.String(64), nullable=False),
        sa.Column("snapshot", postgresql.JSONB),
        sa.Column("effect", postgresql.JSONB),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.ForeignKeyConstraint(["company_id", "job_id"], ["jobs.company_id", "jobs.id"]),
        sa.ForeignKeyConstraint(["company_id", "person_id"], ["people.company_id", "people.id"]),
    )
    op.create_index("changes_by_id", "changes", ["company_id", "job_id", "change_id"], unique=True)


def downgrade() -> None:
    for table in ("changes", "jobs", "people", "companies"):
        op.drop_table(table)
