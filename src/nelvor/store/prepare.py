"""Make the database ready: create it and the application's role where they are ours, migrate, add the demo in demo mode.

Done by the owner of the database: ``NELVOR_OWNER_DATABASE_URL``, or ``NELVOR_DATABASE_URL`` where there is only one role.
"""

from __future__ import annotations

import argparse
import os

from sqlalchemy import create_engine, text
from sqlalchemy.engine import make_url

from nelvor.store.database import connect, migrate_and_grant
from nelvor.store.demo import add_demo
from nelvor.store.roles import make_role


def create_database(url: str, name: str) -> None:
    """Create a database on the server of ``url`` unless it is there."""
    server = create_engine(make_url(url).set(database="postgres"), isolation_level="AUTOCOMMIT")
    with server.connect() as connection:
        if not connection.scalar(text("select 1 from pg_database where datname = :name"), {"name": name}):
            connection.execute(text(f'create database "{name}"'))
    server.dispose()


def create_role(url: str, password: str) -> None:
    """Make the role of the application on the server of ``url``, or give it this password."""
    server = create_engine(url)
    with server.begin() as connection:
        make_role(connection, password)
    server.dispose()


def owner_url() -> str:
    """Return the address by which the owner of the database works, as the environment names it."""
    return os.environ.get("NELVOR_OWNER_DATABASE_URL") or os.environ["NELVOR_DATABASE_URL"]


def main() -> None:
    """Prepare the database that the environment names."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--create", help="create the database of this name, and the role of NELVOR_APP_PASSWORD, first")
    options = parser.parse_args()
    url = owner_url()
    if options.create:
        create_database(url, options.create)
        create_role(url, os.environ["NELVOR_APP_PASSWORD"])
    migrate_and_grant(url)
    if os.environ.get("NELVOR_DEMO") == "1":
        with connect(url).begin() as session:
            add_demo(session)


if __name__ == "__main__":
    main()
