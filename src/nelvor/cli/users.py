"""``./nelvor user add`` and ``user password``: the first member of a shop, and the owner who lost the password."""

from __future__ import annotations

import argparse
import getpass
import os
import sys

from sqlalchemy import select

from nelvor.store.database import connect
from nelvor.store.members import SHORTEST_PASSWORD, add_member, set_password
from nelvor.store.tables import Member


def add_user(options: argparse.Namespace) -> int:
    """Ask for a password and add the member; return 0, or 2 with the reason told."""
    url, password = _database(), _password()
    if url is None or password is None:
        return 2
    with connect(url).begin() as session:
        add_member(session, options.shop, options.email, options.name or options.email, password, options.role)
    print(f"Added {options.email} to {options.shop} as {options.role}.")
    return 0


def give_password(options: argparse.Namespace) -> int:
    """Ask for a new password of a member and set it; all sign-ins end. Return 0, or 2 with the reason told."""
    url, password = _database(), _password()
    if url is None or password is None:
        return 2
    with connect(url).begin() as session:
        member = session.scalar(select(Member).where(Member.email == options.email.strip().lower()))
        if member is None:
            print(f"No member has the email {options.email}.", file=sys.stderr)
            return 2
        set_password(session, member, password)
    print(f"{options.email} has a new password, and is signed out everywhere.")
    return 0


def _database() -> str | None:
    url = os.environ.get("NELVOR_DATABASE_URL")
    if not url:
        print("Set NELVOR_DATABASE_URL to the database that ./start prints with --show-database.", file=sys.stderr)
    return url or None


def _password() -> str | None:
    password = getpass.getpass("Password: ") if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
    if len(password) < SHORTEST_PASSWORD:
        print(f"A password needs at least {SHORTEST_PASSWORD} characters.", file=sys.stderr)
        return None
    return password
