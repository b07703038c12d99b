"""A company's own entries, bulky things by fingerprint, papers that are written in the background, and their queue.

Revision ID: 0003
Revises: 0002
"""

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager
from sqlalchemy.dialects.postgresql import JSONB

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    op.create_table(
        "company_entries",
        sa.Column("company_id", sa.String(64), sa.ForeignKey("companies.id"), primary_key=True),
        sa.Column("kind", sa.String(32), primary_key=True),
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("person_id", sa.String(64), nullable=False),
        sa.Column("edition", sa.Integer, nullable=False),
        sa.Column("data", JSONB, nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.ForeignKeyConstraint(["company_id", "person_id"], ["people.company_id", "people.id"]),
    )
    op.create_table(
        "blobs",
        sa.Column("company_id", sa.String(64), sa.ForeignKey("companies.id"), primary_key=True),
        sa.Column("sha256", sa.String(64), primary_key=True),
        sa.Column("media", sa.Text, nullable=False),
        sa.Column("data", sa.LargeBinary, nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_table(
        "papers",
        sa.Column("company_id", sa.String(64), primary_key=True),
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("job_id", sa.String(64), nullable=False),
        sa.Column("person_id", sa.String(64), nullable=False),
        sa.Column("kind", sa.String(32), nullable=False),
        sa.Column("version", sa.BigInteger, nullable=False),
        sa.Column("state", sa.String(16), nullable=False),
        sa.Column("progress", sa.Integer, nullable=False),
        sa.Column("step", sa.Text, nullable=False),
        sa.Column("engine", sa.Text, nullable=False),
        sa.Column("data", sa.LargeBinary, nullable=True),
        sa.Column("sha256", sa.String(64), nullable=True),
        sa.Column("seconds", sa.Float, nullable=True),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.ForeignKeyConstraint(["company_id", "job_id"], ["jobs.company_id", "jobs.id"]),
        sa.ForeignKeyConstraint(["company_id", "person_id"], ["people.company_id", "people.id"]),
    )
    op.create_index("papers_of_job", "papers", ["company_id", "job_id", "at"])
    # the queue's own tables and functions, as its package ships them
    _as_it_stands(SchemaManager.get_schema())


def _as_it_stands(statements: str) -> None:
    """Run SQL through the driver without parameters: its percent signs are its own."""
    cursor = op.get_bind().connection.cursor()
    cursor.execute(statements)
    cursor.close()


def downgrade() -> None:
    op.drop_table("papers")
    op.drop_table("blobs")
    op.drop_table("company_entries")
    _as_it_stands(
        "DO $$ DECLARE name text; BEGIN "
        "FOR name IN SELECT tablename FROM pg_tables WHERE schemaname = 'public' AND tablename LIKE 'procrastinate%' "
        "LOOP EXECUTE 'DROP TABLE ' || quote_ident(name) || ' CASCADE'; END LOOP; "
        "FOR name IN SELECT p.oid::regprocedure::text FROM pg_proc p JOIN pg_namespace n ON n.oid = p.pronamespace "
        "WHERE n.nspname = 'public' AND p.proname LIKE 'procrastinate%' "
        "LOOP EXECUTE 'DROP FUNCTION ' || name || ' CASCADE'; END LOOP; "
        "FOR name IN SELECT typname FROM pg_type t JOIN pg_namespace n ON n.oid = t.typnamespace "
        "WHERE n.nspname = 'public' AND typname LIKE 'procrastinate%' AND typtype IN ('e', 'c') "
        "LOOP EXECUTE 'DROP TYPE IF EXISTS ' || quote_ident(name) || ' CASCADE'; END LOOP; END $$"
    )
