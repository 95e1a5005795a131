"""Read-only links to a job, remarks of reviewers, a whole job deleted by its owner, and a role that may do no more than it needs."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"

APPEND_ONLY = ("revisions", "history", "judgements", "field_log", "local_rules", "remarks")

DELETE_JOB = """
create function delete_job(doomed uuid) returns void language plpgsql security definer set search_path from current as $$
begin
  perform set_config('nelvor.deleting', 'yes', true);
  delete from judgements where revision_id in (select id from revisions where job_id = doomed);
  delete from revisions where job_id = doomed;
  delete from field_log where job_id = doomed;
  delete from remarks where job_id = doomed;
  delete from shared_links where job_id = doomed;
  delete from jobs where id = doomed;
  perform set_config('nelvor.deleting', '', true);
end $$
"""
OF_A_DELETED_JOB = "('judgements', 'revisions', 'field_log', 'remarks')"
REFUSE = """
create or replace function refuse_change() returns trigger language plpgsql as $$
begin
  if tg_op = 'DELETE' and tg_table_name in {tables} and coalesce(current_setting('nelvor.deleting', true), '') = 'yes'
     and current_user = (select tableowner from pg_tables where schemaname = tg_table_schema and tablename = tg_table_name)
  then return null; end if;
  raise exception '% is append-only', tg_table_name;
end $$
"""
REFUSE_ALWAYS = """
create or replace function refuse_change() returns trigger language plpgsql as
$$ begin raise exception '% is append-only', tg_table_name; end $$
"""


def upgrade() -> None:
    op.create_table(
        "shared_links",
        sa.Column("id", sa.Uuid, primary_key=True),
        sa.Column("token_digest", sa.Text, nullable=False, unique=True),
        sa.Column("job_id", sa.Uuid, sa.ForeignKey("jobs.id"), nullable=False, index=True),
        sa.Column("shop_id", sa.Uuid, sa.ForeignKey("shops.id"), nullable=False),
        sa.Column("made_by", sa.Text, nullable=False),
        sa.Column("meant_for", sa.Text, nullable=False, server_default=""),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("revoked_at", sa.DateTime(timezone=True)),
    )
    op.create_table(
        "remarks",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("job_id", sa.Uuid, sa.ForeignKey("jobs.id"), nullable=False, index=True),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("about", sa.Text, nullable=False, server_default=""),
        sa.Column("words", sa.Text, nullable=False),
        sa.Column("author", sa.Text, nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.execute(REFUSE.format(tables=OF_A_DELETED_JOB))
    op.execute(
        "create trigger remarks_append_only before update or delete on remarks "
        "for each statement execute function refuse_change()"
    )
    op.execute(
        "create trigger remarks_never_emptied before truncate on remarks "
        "for each statement execute function refuse_change()"
    )
    op.execute(DELETE_JOB)
    op.execute("revoke all on function delete_job(uuid) from public")


def downgrade() -> None:
    op.execute("drop function delete_job(uuid)")
    op.drop_table("remarks")
    op.drop_table("shared_links")
    op.execute(REFUSE_ALWAYS)
