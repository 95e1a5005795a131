"""Members of shops: passwords, sign-in with a limit on failures."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from nelvor.errors import NotSignedIn, TooManyTries
from nelvor.store.tables import Member, Shop, SignInFailure

SHORTEST_PASSWORD = 12
FAILURES_ALLOWED = 5
FAILURE_WINDOW = timedelta(minutes=5)
DEMO_SHOP = "Demo shop"
DEMO_EMAIL = "demo@example.invalid"

hasher = PasswordHasher()


def add_member(session: Session, shop_name: str, email: str, name: str, password: str, role: str) -> Member:
    """Add a member to a shop, making the shop when it is not there."""
    shop = session.scalar(select(Shop).where(Shop.name == shop_name)) or Shop(name=shop_name)
    session.add(shop)
    session.flush()
    member = Member(
        shop_id=shop.id, email=email.strip().lower(), name=name, role=role, password_hash=hasher.hash(password)
    )
    session.add(member)
    session.flush()
    return member


def member_by_id(session: Session, member_id: str) -> Member | None:
    """Return a member by the id kept in the session cookie."""
    try:
        return session.get(Member, uuid.UUID(member_id))
    except ValueError:
        return None


def demo_member(session: Session) -> Member | None:
    """Return the demo member, when the demo data is there."""
    return session.scalar(select(Member).where(Member.email == DEMO_EMAIL))


def sign_in(session: Session, email: str, password: str, peer: str) -> Member:
    """Return the member whose email and password these are. The caller commits, also after a failure.

    Raises:
        TooManyTries: too many failures for this email or from this peer.
        NotSignedIn: no such pair.
    """
    email = email.strip().lower()
    keys = (f"email:{email}", f"peer:{peer}")
    since = datetime.now(UTC) - FAILURE_WINDOW
    session.execute(delete(SignInFailure).where(SignInFailure.at < since))
    worst = max(session.scalar(select(func.count()).where(SignInFailure.key == key)) or 0 for key in keys)
    if worst >= FAILURES_ALLOWED:
        raise TooManyTries(int(FAILURE_WINDOW.total_seconds()))
    member = session.scalar(select(Member).where(Member.email == email))
    if member is None or not _matches(member.password_hash, password):
        session.add_all(SignInFailure(key=key) for key in keys)
        raise NotSignedIn("Email and password do not match.")
    session.execute(delete(SignInFailure).where(SignInFailure.key == keys[0]))
    return member


def _matches(password_hash: str, password: str) -> bool:
    try:
        return hasher.verify(password_hash, password)
    except (VerificationError, InvalidHashError):
        return False
