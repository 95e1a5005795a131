"""Shops, members, jobs, revisions, history, sign-in failures."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None

APPEND_ONLY = ("revisions", "history")


def upgrade() -> None:
    op.create_table(
        "shops",
        sa.Column("id", sa.Uuid, primary_key=True),
        sa.Column("name", sa.Text, nullable=False, unique=True),
    )
    op.create_table(
        "members",
        sa.Column("id", sa.Uuid, primary_key=True),
        sa.Column("shop_id", sa.Uuid, sa.ForeignKey("shops.id"), nullable=False, index=True),
        sa.Column("email", sa.Text, nullable=False, unique=True),
        sa.Column("name", sa.Text, nullable=False),
        sa.Column("role", sa.Text, nullable=False),
        sa.Column("password_hash", sa.Text, nullable=False),
        sa.CheckConstraint("role in ('owner', 'designer', 'field', 'reviewer')"),
    )
    op.create_table(
        "jobs",
        sa.Column("id", sa.Uuid, primary_key=True),
        sa.Column("shop_id", sa.Uuid, sa.ForeignKey("shops.id"), nullable=False, index=True),
        sa.Column("name", sa.Text, nullable=False),
        sa.Column("head", sa.Integer, nullable=False),
        sa.Column("last_number", sa.Integer, nullable=False),
        sa.Column("updated_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_table(
        "revisions",
        sa.Column("id", sa.Uuid, primary_key=True),
        sa.Column("job_id", sa.Uuid, sa.ForeignKey("jobs.id"), nullable=False, index=True),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("base", sa.Integer),
        sa.Column("kind", sa.Text, nullable=False),
        sa.Column("save_id", sa.Text, nullable=False),
        sa.Column("summary", sa.Text, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
        sa.Column("answers", sa.JSON, nullable=False),
        sa.Column("author", sa.Text, nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.UniqueConstraint("job_id", "number"),
        sa.UniqueConstraint("job_id", "save_id"),
    )
    op.create_table(
        "history",
        sa.Column("id", sa.BigInteger, sa.Identity(), primary_key=True),
        sa.Column("shop_id", sa.Uuid, sa.ForeignKey("shops.id"), nullable=False, index=True),
        sa.Column("member", sa.Text, nullable=False),
        sa.Column("job_id", sa.Uuid),
        sa.Column("action", sa.Text, nullable=False),
        sa.Column("detail", sa.Text, nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_table(
        "sign_in_failures",
        sa.Column("id", sa.BigInteger, sa.Identity(), primary_key=True),
        sa.Column("key", sa.Text, nullable=False, index=True),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.execute(
        "create function refuse_change() returns trigger language plpgsql as "
        "$$ begin raise exception '% is append-only', tg_table_name; end $$"
    )
    for table in APPEND_ONLY:
        op.execute(
            f"create trigger {table}_append_only before update or delete on {table} "
            "for each statement execute function refuse_change()"
        )


def downgrade() -> None:
    for table in ("sign_in_failures", "history", "revisions", "jobs", "members", "shops"):
        op.drop_table(table)
    op.execute("drop function refuse_change")
