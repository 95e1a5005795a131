"""Routes of the session: who is signed in."""

from __future__ import annotations

from flask import request
from flask_wtf.csrf import generate_csrf

from nelvor.errors import NotFound, NotSignedIn
from nelvor.store import members
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.session import current_member, database, demo_allowed, forget, member_out, remember


@api.route("GET", "/session", answer=wire.SessionOut, public=True)
def read_session() -> wire.SessionOut:
    """Tell who is signed in, and hand out the token that every change must carry."""
    return session_out()


def session_out() -> wire.SessionOut:
    """Tell who is signed in at this browser."""
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
    return session_out()


@api.route("POST", "/session/demo", answer=wire.SessionOut, public=True)
def sign_in_demo() -> wire.SessionOut:
    """Sign in to the demo shop, on loopback in demo mode alone."""
    member = members.demo_member(database()) if demo_allowed() else None
    if member is None:
        raise NotFound("The demo is not open here.")
    remember(member)
    return session_out()


@api.route("DELETE", "/session", answer=wire.SessionOut, public=True)
def sign_out() -> wire.SessionOut:
    """Sign out: a copy of the cookie opens nothing any more."""
    forget()
    return session_out()


@api.route("PUT", "/session/password", body=wire.PasswordBody, answer=wire.SessionOut)
def change_password(body: wire.PasswordBody) -> wire.SessionOut:
    """Change one's own password; all other sign-ins end."""
    store, member = database(), current_member()
    try:
        members.change_password(store, member, body.current, body.new, request.remote_addr or "")
    finally:
        store.commit()
    remember(member)
    return session_out()


@api.route("POST", "/links/read", body=wire.TokenBody, answer=wire.LinkOpened, public=True)
def read_link(body: wire.TokenBody) -> wire.LinkOpened:
    """Tell what a one-time link is for."""
    link, shop = members.link_of(database(), body.token)
    return wire.LinkOpened(kind=link.kind, shop=shop.name, email=link.email, role=link.role, made_by=link.made_by)


@api.route("POST", "/links/use", body=wire.UseLinkBody, answer=wire.SessionOut, public=True)
def use_link(body: wire.UseLinkBody) -> wire.SessionOut:
    """Become a member, or choose a new password, by a one-time link; then one is signed in."""
    store = database()
    member = members.use_link(store, body.token, body.name, body.password)
    store.commit()
    remember(member)
    return session_out()
