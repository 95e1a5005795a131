"""``./nelvor backup`` and ``restore``: everything in the database as one file, and back."""

from __future__ import annotations

import argparse
import os
import sys
from collections import Counter
from pathlib import Path

from sqlalchemy.exc import DBAPIError

from nelvor.store.backup import BackupRefused, restore_backup, write_backup
from nelvor.store.prepare import owner_url

DONE, REFUSED = 0, 2


def add_keeping_commands(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Declare the commands."""
    backup = commands.add_parser("backup", help="write everything in the database into one file")
    backup.add_argument("file", type=Path)
    backup.add_argument("--shop", help="all that one shop owns, to move it to another machine")
    restore = commands.add_parser("restore", help="put a backup into the database")
    restore.add_argument("file", type=Path)
    restore.add_argument("--replace", action="store_true", help="in the place of what is there, which is kept beside")


def keeping_command(options: argparse.Namespace) -> int:
    """Carry out a command; return 0, or 2 with the reason told."""
    url = os.environ.get("NELVOR_DATABASE_URL")
    if not url:
        print("Set NELVOR_DATABASE_URL to the database that ./start prints with --show-database.", file=sys.stderr)
        return REFUSED
    try:
        if options.command == "backup":
            print(
                f"Written to {options.file} and read back: {_counted(write_backup(url, options.file, options.shop))}."
            )
        else:
            rows, kept = restore_backup(owner_url(), options.file, options.replace)
            print(f"Restored: {_counted(rows)}." + (f" What stood is kept as the database {kept}." if kept else ""))
    except (BackupRefused, OSError, DBAPIError) as reason:
        print(reason.orig if isinstance(reason, DBAPIError) else reason, file=sys.stderr)
        return REFUSED
    return DONE


def _counted(rows: Counter[str]) -> str:
    return ", ".join(f"{number} {name.replace('_', ' ')}" for name, number in rows.items()) or "nothing"
