"""The role of the running application: it reads and adds, changes what changes, deletes nothing that is appended.

The owner of the tables migrates and restores; what the application may do is granted here, table by table.
"""

from __future__ import annotations

from sqlalchemy import text
from sqlalchemy.engine import Connection

APP_ROLE = "nelvor_app"
CHANGED = ("jobs", "members", "shops", "sign_ins", "one_time_links", "shared_links", "pictures")
"""Tables whose rows change, or are held while something about them is decided."""

CLEARED = ("sign_in_failures", "pictures")
DELETES_A_JOB = "delete_job(uuid)"


def make_role(connection: Connection, password: str) -> None:
    """Make the role of the application, or give it this password. The connection is of one that may make roles."""
    there = connection.scalar(text("select 1 from pg_roles where rolname = :name"), {"name": APP_ROLE})
    quoted = connection.scalar(text("select quote_literal(:password)"), {"password": password})
    how = "alter" if there else "create"
    connection.execute(
        text(f"{how} role {APP_ROLE} login nosuperuser nocreatedb nocreaterole noreplication password {quoted}")
    )


def grant(connection: Connection) -> None:
    """Give the role of the application what it needs in this database, where there is such a role."""
    if not connection.scalar(text("select 1 from pg_roles where rolname = :name"), {"name": APP_ROLE}):
        return
    for statement in (
        f"revoke all on all tables in schema public from {APP_ROLE}",
        f"grant usage on schema public to {APP_ROLE}",
        f"grant select, insert on all tables in schema public to {APP_ROLE}",
        f"revoke insert on alembic_version from {APP_ROLE}",
        f"grant usage on all sequences in schema public to {APP_ROLE}",
        f"grant update on {', '.join(CHANGED)} to {APP_ROLE}",
        f"grant delete on {', '.join(CLEARED)} to {APP_ROLE}",
        f"grant execute on function {DELETES_A_JOB} to {APP_ROLE}",
    ):
        connection.execute(text(statement))
