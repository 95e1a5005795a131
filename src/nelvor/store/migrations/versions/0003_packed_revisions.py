"""Revisions packed and listed without their documents; answers and the field log in tables of their own."""

import json

import sqlalchemy as sa
from alembic import op

from nelvor.store.packing import packed, unpacked

revision = "0003"
down_revision = "0002"

APPEND_ONLY = ("judgements", "field_log")


def _refuse_changes(table: str) -> None:
    op.execute(
        f"create trigger {table}_append_only before update or delete on {table} "
        "for each statement execute function refuse_change()"
    )


def upgrade() -> None:
    op.add_column("revisions", sa.Column("met", sa.Integer))
    op.add_column("revisions", sa.Column("digest", sa.Text, nullable=False, server_default=""))
    op.add_column("revisions", sa.Column("edition", sa.Text, nullable=False, server_default=""))
    op.add_column("revisions", sa.Column("packed", sa.LargeBinary))
    op.create_table(
        "judgements",
        sa.Column("revision_id", sa.Uuid, sa.ForeignKey("revisions.id"), primary_key=True),
        sa.Column("answers", sa.JSON, nullable=False),
        sa.Column("failure", sa.Text, nullable=False, server_default=""),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_table(
        "field_log",
        sa.Column("id", sa.BigInteger, sa.Identity(), primary_key=True),
        sa.Column("job_id", sa.Uuid, sa.ForeignKey("jobs.id"), nullable=False, index=True),
        sa.Column("entry", sa.JSON, nullable=False),
        sa.Column("author", sa.Text, nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    _pack_what_is_there()
    op.alter_column("revisions", "packed", nullable=False)
    op.alter_column("revisions", "edition", server_default=None)
    op.drop_column("revisions", "document")
    op.drop_column("revisions", "answers")
    for table in APPEND_ONLY:
        _refuse_changes(table)


def _pack_what_is_there() -> None:
    """Pack each document, move its answers, and begin the field log with the records of the newest revisions."""
    connection = op.get_bind()
    op.execute("alter table revisions disable trigger revisions_append_only")
    numbered = connection.execute(sa.text("select id from revisions order by number")).scalars().all()
    for identity in numbered:
        row = connection.execute(
            sa.text(
                "select r.document, r.answers, r.number, r.author, j.id as job, j.head "
                "from revisions r join jobs j on j.id = r.job_id where r.id = :id"
            ),
            {"id": identity},
        ).one()
        document = json.loads(row.document)
        connection.execute(
            sa.text("update revisions set packed = :packed, edition = :edition where id = :id"),
            {"packed": packed(row.document), "edition": document["settings"]["edition"], "id": identity},
        )
        connection.execute(
            sa.text("insert into judgements (revision_id, answers) values (:id, :answers)"),
            {"id": identity, "answers": json.dumps(row.answers)},
        )
        for record in document.get("field_records", []) if row.number == row.head else []:
            entry = {name: value for name, value in record.items() if name not in ("id", "standing", "proposed")}
            connection.execute(
                sa.text("insert into field_log (job_id, entry, author) values (:job, :entry, :author)"),
                {"job": row.job, "entry": json.dumps(entry), "author": row.author},
            )
    op.execute("alter table revisions enable trigger revisions_append_only")


def downgrade() -> None:
    connection = op.get_bind()
    op.add_column("revisions", sa.Column("document", sa.Text))
    op.add_column("revisions", sa.Column("answers", sa.JSON))
    op.execute("alter table revisions disable trigger revisions_append_only")
    for identity, stored in connection.execute(sa.text("select id, packed from revisions")).all():
        connection.execute(
            sa.text(
                "update revisions set document = :document, answers = coalesce((select j.answers from judgements j "
                "where j.revision_id = :id), '{}') where id = :id"
            ),
            {"document": unpacked(bytes(stored)), "id": identity},
        )
    op.execute("alter table revisions enable trigger revisions_append_only")
    op.alter_column("revisions", "document", nullable=False)
    op.alter_column("revisions", "answers", nullable=False)
    for table in APPEND_ONLY:
        op.drop_table(table)
    for column in ("met", "digest", "edition", "packed"):
        op.drop_column("revisions", column)
