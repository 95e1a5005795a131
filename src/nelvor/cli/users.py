"""``./nelvor user add``: the only way to become a member outside demo mode."""

from __future__ import annotations

import argparse
import getpass
import os
import sys

from nelvor.store.database import connect
from nelvor.store.members import SHORTEST_PASSWORD, add_member


def add_user(options: argparse.Namespace) -> int:
    """Ask for a password and add the member; return 0, or 2 with the reason told."""
    url = os.environ.get("NELVOR_DATABASE_URL")
    if not url:
        print("Set NELVOR_DATABASE_URL to the database that ./start prints with --show-database.", file=sys.stderr)
        return 2
    password = getpass.getpass("Password: ") if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
    if len(password) < SHORTEST_PASSWORD:
        print(f"A password needs at least {SHORTEST_PASSWORD} characters.", file=sys.stderr)
        return 2
    with connect(url).begin() as session:
        add_member(session, options.shop, options.email, options.name or options.email, password, options.role)
    print(f"Added {options.email} to {options.shop} as {options.role}.")
    return 0
