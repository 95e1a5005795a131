"""What the list of jobs shows of the newest document, and whether a job is put away."""

import json

import sqlalchemy as sa
from alembic import op

from nelvor.store.packing import unpacked

revision = "0004"
down_revision = "0003"

SHOWN = ("address", "customer", "edition", "status", "author")


def upgrade() -> None:
    for name in SHOWN:
        op.add_column("jobs", sa.Column(name, sa.Text, nullable=False, server_default=""))
    op.add_column("jobs", sa.Column("archived", sa.Boolean, nullable=False, server_default=sa.false()))
    _fill_in()


def _fill_in() -> None:
    connection = op.get_bind()
    heads = connection.execute(
        sa.text("select j.id, r.packed, r.author from jobs j join revisions r on r.job_id = j.id and r.number = j.head")
    ).all()
    for job_id, stored, author in heads:
        settings = json.loads(unpacked(bytes(stored)))["settings"]
        connection.execute(
            sa.text(
                "update jobs set address = :address, customer = :customer, edition = :edition, status = :status, "
                "author = :author where id = :id"
            ),
            {
                "address": settings.get("address", ""),
                "customer": settings.get("owner", ""),
                "edition": settings["edition"],
                "status": settings.get("status", "design"),
                "author": author,
                "id": job_id,
            },
        )


def downgrade() -> None:
    for name in (*SHOWN, "archived"):
        op.drop_column("jobs", name)
