"""Plates of the sources that a shop uses: each change appends the whole list."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    op.create_table(
        "shop_sources",
        sa.Column("id", sa.Uuid, primary_key=True),
        sa.Column("shop_id", sa.Uuid, sa.ForeignKey("shops.id"), nullable=False, index=True),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("plates", sa.JSON, nullable=False),
        sa.Column("author", sa.Text, nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.UniqueConstraint("shop_id", "number"),
    )
    for name, when in (("append_only", "update or delete"), ("never_emptied", "truncate")):
        op.execute(
            f"create trigger shop_sources_{name} before {when} on shop_sources "
            "for each statement execute function refuse_change()"
        )


def downgrade() -> None:
    op.drop_table("shop_sources")
