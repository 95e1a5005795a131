"""Routes of the session: who is signed in."""

from __future__ import annotations

from flask import request, session
from flask_wtf.csrf import generate_csrf

from nelvor.errors import NotFound, NotSignedIn
from nelvor.store import members
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.session import current_member, database, demo_allowed, member_out, remember


@api.route("GET", "/session", answer=wire.SessionOut, public=True)
def read_session() -> wire.SessionOut:
    """Tell who is signed in, and hand out the token that every change must carry."""
    return _session_out()


def _session_out() -> wire.SessionOut:
    try:
        member = member_out(current_member())
    except NotSignedIn:
        member = None
    return wire.SessionOut(member=member, demo=demo_allowed(), csrf=generate_csrf())


@api.route("POST", "/session", body=wire.SignInBody, answer=wire.SessionOut, public=True)
def sign_in(body: wire.SignInBody) -> wire.SessionOut:
    """Sign in with email and password."""
    store = database()
    try:
        member = members.sign_in(store, body.email, body.password, request.remote_addr or "")
    finally:
        store.commit()
    remember(member)
    return _session_out()


@api.route("POST", "/session/demo", answer=wire.SessionOut, public=True)
def sign_in_demo() -> wire.SessionOut:
    """Sign in to the demo shop, on loopback in demo mode alone."""
    member = members.demo_member(database()) if demo_allowed() else None
    if member is None:
        raise NotFound("The demo is not open here.")
    remember(member)
    return _session_out()


@api.route("DELETE", "/session", answer=wire.SessionOut, public=True)
def sign_out() -> wire.SessionOut:
    """Sign out."""
    session.clear()
    return _session_out()
