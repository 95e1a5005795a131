"""Who is signed in, and the one-click sign-in of the local demo."""

from __future__ import annotations

import ipaddress

from flask import current_app, g, request, session
from sqlalchemy.orm import Session

from nelvor.errors import NotSignedIn, Refused
from nelvor.store.access import GUEST, allowed
from nelvor.store.members import begin_sign_in, end_sign_in, member_signed_in
from nelvor.store.sharing import guest_of
from nelvor.store.tables import Member
from nelvor.store.watch import DatabaseWatch
from nelvor.web.judging import Judging
from nelvor.web.wire import MemberOut

FORWARDING_HEADERS = ("Forwarded", "X-Forwarded-For", "X-Forwarded-Host", "X-Real-Ip", "Via")
LOOPBACK_NAMES = frozenset({"localhost", "127.0.0.1", "[::1]"})
TOKEN_KEY = "sign_in"
SHARED_KEY = "shared"


def database() -> Session:
    """Return the database session of this request. Routes commit; what they do not commit is rolled back at its end."""
    if "database" not in g:
        watch: DatabaseWatch | None = current_app.extensions["nelvor_watch"]
        if watch is not None:
            watch.require()
        g.database = current_app.extensions["nelvor_sessions"]()
    found: Session = g.database
    return found


def release_database() -> None:
    """Give the connection of this request back; whoever needs the database later opens another session."""
    close_database(None)


def asker() -> str:
    """Return by which name the pool counts what this visitor asks."""
    return str(current_member().id)


def judging() -> Judging:
    """Return what judges revisions after their commit."""
    found: Judging = current_app.extensions["nelvor_judging"]
    return found


def close_database(failure: BaseException | None) -> None:
    found: Session | None = g.pop("database", None)
    if found is not None:
        found.close()


def current_member() -> Member:
    """Return the member who is signed in.

    Raises:
        NotSignedIn: nobody is.
    """
    if "member" not in g:
        token = session.get(TOKEN_KEY)
        _asks(member_signed_in(database(), token) if isinstance(token, str) else _guest())
    member: Member | None = g.member
    if member is None:
        raise NotSignedIn("Sign in first.")
    return member


def _asks(member: Member | None) -> None:
    g.member = member
    g.member_id = None if member is None else str(member.id)  # told in the log even where the database fails meanwhile


def _guest() -> Member | None:
    token = session.get(SHARED_KEY)
    return guest_of(database(), token) if isinstance(token, str) else None


def guard(guests: bool) -> None:
    """Let members pass, and guests where they may.

    Raises:
        NotSignedIn: nobody is signed in, and no link is open.
        Refused: a guest may not come here.
    """
    if current_member().role == GUEST and not guests:
        raise Refused("Who came by a link reads the one job that was shared, and nothing else.")


def open_shared(token: str) -> None:
    """Begin a fresh session for a guest."""
    forget()
    session[SHARED_KEY] = token


def remember(member: Member) -> None:
    """Begin a fresh session for a member: what ended before stays ended."""
    forget()
    session[TOKEN_KEY] = begin_sign_in(database(), member)
    session.permanent = True
    database().commit()
    _asks(member)


def forget() -> None:
    """End the session of this browser, on the server too: a copy of its cookie opens nothing any more."""
    token = session.get(TOKEN_KEY)
    if isinstance(token, str):
        end_sign_in(database(), token)
        database().commit()
    session.clear()
    g.pop("member", None)


def member_out(member: Member) -> MemberOut:
    return MemberOut(
        name=member.name,
        email=member.email,
        role=member.role,
        may_write=allowed(member, "change"),
        may_delete_jobs=allowed(member, "delete_job"),
        may_read_history=allowed(member, "read_history"),
        only_job=str(member.only_job) if member.only_job else None,
    )


def demo_allowed() -> bool:
    """One click is open in demo mode alone, to a loopback peer that asks a loopback host without a proxy between."""
    if not current_app.config["NELVOR_DEMO"] or any(name in request.headers for name in FORWARDING_HEADERS):
        return False
    try:
        peer_is_near = ipaddress.ip_address(request.remote_addr or "").is_loopback
    except ValueError:
        return False
    host = request.host.rsplit(":", 1)[0] if not request.host.endswith("]") else request.host
    return peer_is_near and host in LOOPBACK_NAMES
