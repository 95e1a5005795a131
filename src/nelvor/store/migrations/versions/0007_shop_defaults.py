"""What the new jobs of a shop begin with: each change appends the whole of it."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    op.create_table(
        "shop_defaults",
        sa.Column("id", sa.Uuid, primary_key=True),
        sa.Column("shop_id", sa.Uuid, sa.ForeignKey("shops.id"), nullable=False, index=True),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("settings", sa.JSON, nullable=False),
        sa.Column("author", sa.Text, nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.UniqueConstraint("shop_id", "number"),
    )
    for name, when in (("append_only", "update or delete"), ("never_emptied", "truncate")):
        op.execute(
            f"create trigger shop_defaults_{name} before {when} on shop_defaults "
            "for each statement execute function refuse_change()"
        )


def downgrade() -> None:
    op.drop_table("shop_defaults")
