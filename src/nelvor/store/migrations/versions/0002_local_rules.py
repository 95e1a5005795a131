"""Local rules of a shop: each change appends the whole list."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.create_table(
        "local_rules",
        sa.Column("id", sa.Uuid, primary_key=True),
        sa.Column("shop_id", sa.Uuid, sa.ForeignKey("shops.id"), nullable=False, index=True),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("rules", sa.JSON, nullable=False),
        sa.Column("author", sa.Text, nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.UniqueConstraint("shop_id", "number"),
    )
    op.execute(
        "create trigger local_rules_append_only before update or delete on local_rules "
        "for each statement execute function refuse_change()"
    )


def downgrade() -> None:
    op.drop_table("local_rules")
