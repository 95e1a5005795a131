"""Pictures taken on site. They can be taken away one by one, and go with their job."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"

DELETE_JOB = """
create or replace function delete_job(doomed uuid) returns void
language plpgsql security definer set search_path from current as $$
begin
  perform set_config('nelvor.deleting', 'yes', true);
  delete from judgements where revision_id in (select id from revisions where job_id = doomed);
  delete from revisions where job_id = doomed;
  delete from field_log where job_id = doomed;
  delete from remarks where job_id = doomed;
  delete from shared_links where job_id = doomed;
  {more}
  delete from jobs where id = doomed;
  perform set_config('nelvor.deleting', '', true);
end $$
"""


def upgrade() -> None:
    op.create_table(
        "pictures",
        sa.Column("id", sa.Uuid, primary_key=True),
        sa.Column("job_id", sa.Uuid, sa.ForeignKey("jobs.id"), nullable=False, index=True),
        sa.Column("thing_id", sa.Text, nullable=False),
        sa.Column("caption", sa.Text, nullable=False, server_default=""),
        sa.Column("content", sa.LargeBinary, nullable=False),
        sa.Column("size", sa.Integer, nullable=False),
        sa.Column("digest", sa.Text, nullable=False),
        sa.Column("author", sa.Text, nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.UniqueConstraint("job_id", "thing_id", "digest"),
    )
    op.execute(DELETE_JOB.format(more="delete from pictures where job_id = doomed;"))


def downgrade() -> None:
    op.execute(DELETE_JOB.format(more=""))
    op.drop_table("pictures")
