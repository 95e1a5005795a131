"""Sign-ins kept on the server, one-time links of invitations and resets, members who are removed; no table is emptied."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"

APPEND_ONLY = ("revisions", "history", "judgements", "field_log", "local_rules")


def upgrade() -> None:
    op.add_column("members", sa.Column("removed_at", sa.DateTime(timezone=True)))
    op.create_table(
        "sign_ins",
        sa.Column("token_digest", sa.Text, primary_key=True),
        sa.Column("member_id", sa.Uuid, sa.ForeignKey("members.id"), nullable=False, index=True),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("ended_at", sa.DateTime(timezone=True)),
    )
    op.create_table(
        "one_time_links",
        sa.Column("token_digest", sa.Text, primary_key=True),
        sa.Column("shop_id", sa.Uuid, sa.ForeignKey("shops.id"), nullable=False, index=True),
        sa.Column("kind", sa.Text, nullable=False),
        sa.Column("email", sa.Text, nullable=False),
        sa.Column("role", sa.Text, nullable=False),
        sa.Column("made_by", sa.Text, nullable=False),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("used_at", sa.DateTime(timezone=True)),
    )
    for table in APPEND_ONLY:
        op.execute(
            f"create trigger {table}_never_emptied before truncate on {table} "
            "for each statement execute function refuse_change()"
        )


def downgrade() -> None:
    for table in APPEND_ONLY:
        op.execute(f"drop trigger {table}_never_emptied on {table}")
    op.drop_table("one_time_links")
    op.drop_table("sign_ins")
    op.drop_column("members", "removed_at")
