"""Make the database ready: create it where it is ours, migrate it, add the demo in demo mode."""

from __future__ import annotations

import argparse
import os

from sqlalchemy import create_engine, text
from sqlalchemy.engine import make_url

from nelvor.store.database import connect, migrate
from nelvor.store.demo import add_demo


def create_database(url: str, name: str) -> None:
    """Create a database on the server of ``url`` unless it is there."""
    server = create_engine(make_url(url).set(database="postgres"), isolation_level="AUTOCOMMIT")
    with server.connect() as connection:
        if not connection.scalar(text("select 1 from pg_database where datname = :name"), {"name": name}):
            connection.execute(text(f'create database "{name}"'))
    server.dispose()


def main() -> None:
    """Prepare the database that the environment names."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--create", help="create the database of this name first")
    options = parser.parse_args()
    url = os.environ["NELVOR_DATABASE_URL"]
    if options.create:
        create_database(url, options.create)
    migrate(url)
    if os.environ.get("NELVOR_DEMO") == "1":
        with connect(url).begin() as session:
            add_demo(session)


if __name__ == "__main__":
    main()
