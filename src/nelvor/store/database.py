"""Connecting and migrating."""

from __future__ import annotations

from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import create_engine
from sqlalchemy.orm import Session, sessionmaker

from nelvor.store.roles import grant

CONNECT_TIMEOUT_S = 3
LIMITS = "-c statement_timeout=20s -c lock_timeout=5s -c idle_in_transaction_session_timeout=60s"
"""So long a statement, or the wait for a row that another one holds, may take; then it is told that the store is busy."""

MIGRATIONS = Path(__file__).parent / "migrations"


def connect(url: str) -> sessionmaker[Session]:
    """Return a maker of sessions; a connection that died is noticed before it is used."""
    engine = create_engine(
        url,
        pool_pre_ping=True,
        pool_size=10,
        max_overflow=10,
        hide_parameters=True,
        pool_timeout=CONNECT_TIMEOUT_S,
        connect_args={"connect_timeout": CONNECT_TIMEOUT_S, "options": LIMITS},
    )
    return sessionmaker(engine, expire_on_commit=False)


def migrations(url: str) -> Config:
    """Return what the migration tool needs to know of a database."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    config.attributes["url"] = url
    return config


def migrate(url: str) -> None:
    """Bring the database to the newest migration."""
    migrate_to(url, "head")


def migrate_to(url: str, revision: str) -> None:
    """Bring the database to a migration, from an older one."""
    command.upgrade(migrations(url), revision)


def migrate_and_grant(url: str) -> None:
    """Bring the database to the newest migration, and let the role of the application do what it needs there."""
    migrate(url)
    engine = create_engine(url)
    with engine.begin() as connection:
        grant(connection)
    engine.dispose()
