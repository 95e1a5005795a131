"""A backup of everything in the database as one file, consistent while the application runs, and its restore.

Compressed lines of JSON: a heading with the migration, a row of a table on each, and last the counts with a digest over
all lines before. What is written is read back; what is restored is counted again before it is called done.
"""

from __future__ import annotations

import argparse
import base64
import gzip
import hashlib
import json
import os
import sys
import uuid
from collections import Counter
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import IO, Any

from sqlalchemy import (
    Column,
    ColumnElement,
    LargeBinary,
    Select,
    Table,
    create_engine,
    false,
    func,
    insert,
    inspect,
    select,
    text,
    true,
)
from sqlalchemy.engine import Connection, make_url
from sqlalchemy.exc import DBAPIError

from nelvor.store.database import migrate_and_grant, migrate_to
from nelvor.store.tables import Base

FORMAT, VERSION = "nelvor-backup", 1
ROWS_AT_ONCE = 200
KEPT_NIGHTLY = 14
PREFIX, ENDING = "nelvor-", ".backup.gz"


class BackupRefused(Exception):
    """A backup or a restore that is not carried out, with the reason; nothing was changed."""


def tables() -> list[Table]:
    """The tables in an order in which their rows can be put in."""
    return list(Base.metadata.sorted_tables)


# -- writing -------------------------------------------------------------------------------------


def write_backup(url: str, file: Path, shop: str | None = None) -> Counter[str]:
    """Write everything into a file, or all that one shop owns, and read it back; return how many rows of each table.

    The file appears under its name only when it is whole.

    Raises:
        BackupRefused: the file is there already, there is no such shop, or what was written cannot be read back.
    """
    if file.exists():
        raise BackupRefused(f"{file} is there already. Choose another name.")
    beside = file.with_name(f"{file.name}.{uuid.uuid4().hex[:8]}.part")
    engine = create_engine(url, isolation_level="REPEATABLE READ")
    try:
        with engine.begin() as connection, gzip.open(beside, "wt", encoding="utf-8") as out:
            _write(connection, out, _owned(connection, shop) if shop is not None else {})
        counts = read_backup(beside)
        beside.replace(file)
    finally:
        beside.unlink(missing_ok=True)
        engine.dispose()
    return counts


def _owned(connection: Connection, shop: str) -> dict[str, ColumnElement[bool]]:
    """Return which rows of each table belong to a shop. Failed sign-ins belong to none."""
    by_name = {table.name: table for table in tables()}
    shop_id = connection.scalar(select(by_name["shops"].c.id).where(by_name["shops"].c.name == shop))
    if shop_id is None:
        raise BackupRefused(f"There is no shop {shop}. Nothing was written.")

    def ids(name: str) -> Select[Any]:
        return select(by_name[name].c.id).where(rows[name])

    rows: dict[str, ColumnElement[bool]] = {"shops": by_name["shops"].c.id == shop_id}
    for table in tables():
        if "shop_id" in table.c:
            rows[table.name] = table.c.shop_id == shop_id
    for table in tables():
        for column, owner in (("job_id", "jobs"), ("member_id", "members"), ("revision_id", "revisions")):
            if table.name not in rows and column in table.c:
                rows[table.name] = table.c[column].in_(ids(owner))
    return {table.name: rows.get(table.name, false()) for table in tables()}


def _write(connection: Connection, out: IO[str], only: dict[str, ColumnElement[bool]]) -> None:
    digest, counts = hashlib.sha256(), Counter[str]()

    def put(value: dict[str, Any]) -> None:
        line = json.dumps(value, ensure_ascii=False) + "\n"
        digest.update(line.encode())
        out.write(line)

    put(
        {
            "format": FORMAT,
            "version": VERSION,
            "migration": connection.scalar(text("select version_num from alembic_version")),
            "taken_at": datetime.now(UTC).isoformat(timespec="seconds"),
        }
    )
    for table in tables():
        rows = connection.execution_options(yield_per=ROWS_AT_ONCE).execute(
            select(table).where(only.get(table.name, true()))
        )
        for row in rows.mappings():
            put({"table": table.name, "row": {name: _told(value) for name, value in row.items()}})
            counts[table.name] += 1
    out.write(json.dumps({"counts": counts, "digest": digest.hexdigest()}) + "\n")


def _told(value: Any) -> Any:
    if isinstance(value, bytes):
        return base64.b64encode(value).decode()
    if isinstance(value, uuid.UUID):
        return str(value)
    return value.isoformat() if isinstance(value, datetime) else value


# -- reading -------------------------------------------------------------------------------------


def read_backup(file: Path) -> Counter[str]:
    """Read a backup to its end and return how many rows of each table it holds.

    Raises:
        BackupRefused: it is no backup, or it is damaged.
    """
    found: Counter[str] = Counter()
    for line in _lines(file):
        found[line["table"]] += 1
    return found


def _lines(file: Path) -> Iterator[dict[str, Any]]:
    """The rows of a backup, whose end proves that it is whole."""
    digest, counts = hashlib.sha256(), Counter[str]()
    try:
        with gzip.open(file, "rt", encoding="utf-8") as lines:
            first = next(lines)
            _heading(first)
            digest.update(first.encode())
            for line in lines:
                value = json.loads(line)
                if "counts" in value:
                    if value != {"counts": counts, "digest": digest.hexdigest()}:
                        raise BackupRefused(f"{file} is damaged: its rows are not those that were written.")
                    return
                digest.update(line.encode())
                counts[value["table"]] += 1
                yield value
    except (OSError, EOFError, ValueError, KeyError, StopIteration) as failure:
        raise BackupRefused(f"{file} is no backup, or it is damaged: {failure or 'it ends too early'}.") from failure
    raise BackupRefused(f"{file} is damaged: it ends too early.")


def _heading(line: str) -> dict[str, Any]:
    value: dict[str, Any] = json.loads(line)
    if value.get("format") != FORMAT or value.get("version") != VERSION:
        raise ValueError("its heading is that of no backup known here")
    return value


def _migration_of(file: Path) -> str:
    with gzip.open(file, "rt", encoding="utf-8") as lines:
        return str(_heading(next(lines))["migration"])


# -- restoring -----------------------------------------------------------------------------------


def restore_backup(url: str, file: Path, replace: bool = False) -> tuple[Counter[str], str]:
    """Put a backup into a database; return how many rows of each table, and the name under which what stood is kept.

    A database with nothing in it is filled. Another one is replaced only when told: the backup is put into a new database,
    counted, and the two change names; what stood is kept under another name.

    Raises:
        BackupRefused: the backup is damaged, or the database is not empty and is not to be replaced.
    """
    wanted = read_backup(file)
    if _is_empty(url):
        _fill(url, file, wanted)
        return wanted, ""
    if not replace:
        raise BackupRefused(
            "The database is not empty. Nothing was changed; tell --replace to put the backup in its place."
        )
    name, server = make_url(url).database, make_url(url).set(database="postgres")
    fresh, kept = f"{name}_restored_{uuid.uuid4().hex[:6]}", f"{name}_before_{datetime.now(UTC):%Y%m%d_%H%M%S}"
    engine = create_engine(server, isolation_level="AUTOCOMMIT")
    with engine.connect() as connection:
        connection.execute(text(f'create database "{fresh}"'))
        try:
            _fill(make_url(url).set(database=fresh).render_as_string(hide_password=False), file, wanted)
        except Exception:
            connection.execute(text(f'drop database "{fresh}" with (force)'))
            raise
        for database in (name, fresh):
            ending = "select pg_terminate_backend(pid) from pg_stat_activity where datname = :name"
            connection.execute(text(ending), {"name": database})
        connection.execute(text(f'alter database "{name}" rename to "{kept}"'))
        connection.execute(text(f'alter database "{fresh}" rename to "{name}"'))
    engine.dispose()
    return wanted, kept


def _is_empty(url: str) -> bool:
    engine = create_engine(url)
    with engine.connect() as connection:
        known = set(inspect(connection).get_table_names())
        empty = not any(
            connection.scalar(select(func.count()).select_from(table)) for table in tables() if table.name in known
        )
    engine.dispose()
    return empty


def _fill(url: str, file: Path, wanted: Counter[str]) -> None:
    """Put the rows into an empty database at the migration of the backup, then bring it to the newest."""
    migrate_to(url, _migration_of(file))
    engine = create_engine(url)
    by_name = {table.name: table for table in tables()}
    with engine.begin() as connection:
        known = {
            name: {column["name"] for column in inspect(connection).get_columns(name)}
            for name in by_name
            if inspect(connection).has_table(name)
        }
        for line in _lines(file):
            table = by_name[line["table"]]
            row = {
                name: _read(table.c[name], value) for name, value in line["row"].items() if name in known[table.name]
            }
            connection.execute(insert(table).values(row))
        for name in known:
            _continue_numbers(connection, by_name[name])
        found = {name: connection.scalar(select(func.count()).select_from(by_name[name])) or 0 for name in known}
        if {name: number for name, number in found.items() if number} != dict(wanted):
            raise BackupRefused("What was restored is not what the backup holds. Nothing was changed.")
    engine.dispose()
    migrate_and_grant(url)


def _read(column: Column[Any], value: Any) -> Any:
    if value is None:
        return None
    if isinstance(column.type, LargeBinary):
        return base64.b64decode(value)
    kind = column.type.python_type
    if kind is uuid.UUID:
        return uuid.UUID(value)
    return datetime.fromisoformat(value) if kind is datetime else value


def _continue_numbers(connection: Connection, table: Table) -> None:
    """Let numbers that the database gives go on after those that were put in."""
    for column in table.primary_key:
        if column.type.python_type is int:
            highest = connection.scalar(select(func.max(column)))
            if highest is not None:
                named = {"table": table.name, "column": column.name, "highest": highest}
                connection.execute(text("select setval(pg_get_serial_sequence(:table, :column), :highest)"), named)


# -- every night ---------------------------------------------------------------------------------


def nightly(url: str, folder: Path, kept: int = KEPT_NIGHTLY) -> Path:
    """Write the backup of this day unless it is there, and take away those older than the last few; return its file.

    Raises:
        BackupRefused: it cannot be written; none is taken away then.
    """
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / f"{PREFIX}{datetime.now(UTC):%Y-%m-%d}{ENDING}"
    if not file.exists():
        write_backup(url, file)
    for old in sorted(folder.glob(f"{PREFIX}*{ENDING}"))[:-kept]:
        old.unlink()
    return file


def main() -> int:
    """Write the nightly backup of the database that the environment names into a folder."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--nightly", type=Path, required=True, metavar="FOLDER")
    options = parser.parse_args()
    try:
        nightly(os.environ["NELVOR_DATABASE_URL"], options.nightly)
    except (BackupRefused, OSError) as reason:
        print(f"No backup was written: {reason}", file=sys.stderr)
        return 1
    except DBAPIError as failure:
        print(f"No backup was written: {failure.orig}", file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
