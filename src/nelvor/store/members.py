"""Members of shops: passwords, sign-ins kept here, a limit on failures, and one-time links that an owner hands over."""

from __future__ import annotations

import hashlib
import secrets
from datetime import UTC, datetime, timedelta
from typing import Literal
from uuid import UUID

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import delete, func, not_, select, text, update
from sqlalchemy.orm import Session

from nelvor.errors import BadInput, Issue, NotFound, NotSignedIn, Refused, TooManyTries
from nelvor.store.access import Role, require
from nelvor.store.tables import HistoryEntry, Member, OneTimeLink, Shop, SignIn, SignInFailure

SHORTEST_PASSWORD = 12
FAILURE_WINDOW = timedelta(minutes=5)
SIGNED_IN_FOR = timedelta(days=14)
LINK_LASTS = timedelta(days=7)
DEMO_SHOP = "Demo shop"
DEMO_EMAIL = "demo@example.invalid"

FAILURES_ALLOWED = {"pair": 5, "email": 20, "peer": 100}
"""By member and peer together, few; by each alone, so many that others behind the same proxy are not locked out."""

LinkKind = Literal["invitation", "reset"]
hasher = PasswordHasher()


def add_member(session: Session, shop_name: str, email: str, name: str, password: str, role: str) -> Member:
    """Add a member to a shop, making the shop when it is not there."""
    shop = session.scalar(select(Shop).where(Shop.name == shop_name)) or Shop(name=shop_name)
    session.add(shop)
    session.flush()
    member = Member(shop_id=shop.id, email=_email(email), name=name, role=role, password_hash=hasher.hash(password))
    session.add(member)
    session.flush()
    return member


def demo_member(session: Session) -> Member | None:
    """Return the demo member, when the demo data is there."""
    return session.scalar(select(Member).where(Member.email == DEMO_EMAIL))


def _email(given: str) -> str:
    return given.strip().lower()


def digest_of_token(token: str) -> str:
    """Return what is kept of a token that only its holder knows."""
    return hashlib.sha256(token.encode()).hexdigest()


def _now() -> datetime:
    return datetime.now(UTC)


# -- signing in ----------------------------------------------------------------------------------


def sign_in(session: Session, email: str, password: str, peer: str) -> Member:
    """Return the member whose email and password these are. The caller commits, also after a failure.

    A try counts as failed until it succeeds, and those for one member wait for each other, so that the limit holds for
    tries at once. A member who is not known takes as long as one who is.

    Raises:
        TooManyTries: too many failures for this member from this peer, or for either.
        NotSignedIn: no such pair.
    """
    email = _email(email)
    keys = {"pair": f"pair:{email} {peer}", "email": f"email:{email}", "peer": f"peer:{peer}"}
    session.execute(text("select pg_advisory_xact_lock(hashtext(:key))"), {"key": keys["email"]})
    window = SignInFailure.at.between(_now() - FAILURE_WINDOW, _now() + FAILURE_WINDOW)
    session.execute(
        delete(SignInFailure).where(not_(window))
    )  # those ahead of the time are of a clock that was set back
    for kind, key in keys.items():
        tried = session.scalar(select(func.count()).where(SignInFailure.key == key)) or 0
        if tried >= FAILURES_ALLOWED[kind]:
            raise TooManyTries(int(FAILURE_WINDOW.total_seconds()))
    member = session.scalar(select(Member).where(Member.email == email, Member.removed_at.is_(None)))
    known = member.password_hash if member is not None else _nobody()
    if not _matches(known, password) or member is None:
        session.add_all(SignInFailure(key=key) for key in keys.values())
        raise NotSignedIn("Email and password do not match.")
    session.execute(delete(SignInFailure).where(SignInFailure.key == keys["pair"]))
    return member


def _matches(password_hash: str, password: str) -> bool:
    try:
        return hasher.verify(password_hash, password)
    except (VerificationError, InvalidHashError):
        return False


def _nobody() -> str:
    """A hash that no password matches, made as all are, so that looking at it takes as long."""
    return hasher.hash(secrets.token_urlsafe(16))


def begin_sign_in(session: Session, member: Member) -> str:
    """Take down that a member signed in, and return the token that the browser keeps."""
    token = secrets.token_urlsafe(32)
    session.add(SignIn(token_digest=digest_of_token(token), member_id=member.id))
    return token


def member_signed_in(session: Session, token: str) -> Member | None:
    """Return the member to whom a token belongs; None where it was ended, is too old, or the member was removed."""
    query = (
        select(Member)
        .join(SignIn, SignIn.member_id == Member.id)
        .where(
            SignIn.token_digest == digest_of_token(token),
            SignIn.ended_at.is_(None),
            SignIn.at > _now() - SIGNED_IN_FOR,
            Member.removed_at.is_(None),
        )
    )
    return session.scalar(query)


def end_sign_in(session: Session, token: str) -> None:
    """End one sign-in: a copy of its cookie opens nothing any more."""
    session.execute(update(SignIn).where(SignIn.token_digest == digest_of_token(token)).values(ended_at=func.now()))


def end_all_sign_ins(session: Session, member: Member) -> None:
    """End all sign-ins of a member."""
    open_ones = update(SignIn).where(SignIn.member_id == member.id, SignIn.ended_at.is_(None))
    session.execute(open_ones.values(ended_at=func.now()))


# -- passwords -----------------------------------------------------------------------------------


def change_password(session: Session, member: Member, current: str, new: str, peer: str) -> None:
    """Change one's own password; every sign-in ends, that of this browser too.

    Raises:
        NotSignedIn, TooManyTries: the current password does not match.
        BadInput: the new one is too short.
    """
    _long_enough(new)
    sign_in(session, member.email, current, peer)
    set_password(session, member, new)
    _note(session, member.shop_id, member.name, "password changed", member.email)


def set_password(session: Session, member: Member, password: str) -> None:
    """Give a member a password; every sign-in ends.

    Raises:
        BadInput: it is too short.
    """
    _long_enough(password)
    member.password_hash = hasher.hash(password)
    end_all_sign_ins(session, member)


def _long_enough(password: str) -> None:
    if len(password) < SHORTEST_PASSWORD:
        remedy = f"Take {SHORTEST_PASSWORD} characters or more."
        raise BadInput([Issue("too_short", "password", "the password is too short.", remedy)])


# -- members of a shop ---------------------------------------------------------------------------


def members_of(session: Session, member: Member) -> list[Member]:
    """Return the members of one's own shop, by name; those removed are not among them."""
    query = select(Member).where(Member.shop_id == member.shop_id, Member.removed_at.is_(None))
    return list(session.scalars(query.order_by(Member.name, Member.email)))


def find_member(session: Session, owner: Member, member_id: str) -> Member:
    """Return a member of one's own shop.

    Raises:
        NotFound: there is none.
    """
    try:
        identity = UUID(member_id)
    except ValueError:
        raise NotFound("There is no such member.") from None
    query = select(Member).where(Member.id == identity, Member.shop_id == owner.shop_id, Member.removed_at.is_(None))
    found = session.scalar(query.with_for_update())
    if found is None:
        raise NotFound("There is no such member.")
    return found


def change_role(session: Session, owner: Member, member_id: str, role: Role) -> Member:
    """Give a member another role.

    Raises:
        Refused: not by an owner, or it is the last owner.
        NotFound: there is no such member.
    """
    require(owner, "manage_members")
    member = find_member(session, owner, member_id)
    if member.role == "owner" and role != "owner":
        _not_the_last_owner(session, member)
    member.role = role
    _note(session, owner.shop_id, owner.name, "role changed", f"{member.email}: {role}")
    return member


def remove_member(session: Session, owner: Member, member_id: str) -> None:
    """Take a member out of the shop: all sign-ins end, what the member did stays.

    Raises:
        Refused: not by an owner, or it is the last owner.
        NotFound: there is no such member.
    """
    require(owner, "manage_members")
    member = find_member(session, owner, member_id)
    if member.role == "owner":
        _not_the_last_owner(session, member)
    member.removed_at = _now()
    end_all_sign_ins(session, member)
    _note(session, owner.shop_id, owner.name, "member removed", member.email)


def _not_the_last_owner(session: Session, member: Member) -> None:
    session.scalar(select(Shop).where(Shop.id == member.shop_id).with_for_update())
    query = select(func.count()).where(
        Member.shop_id == member.shop_id, Member.role == "owner", Member.removed_at.is_(None)
    )
    if (session.scalar(query) or 0) < 2:
        raise Refused("This is the last owner of the shop. Make another member an owner first.")


# -- one-time links ------------------------------------------------------------------------------


def invite(session: Session, owner: Member, email: str, role: Role) -> str:
    """Return the token of a link by which someone becomes a member; the owner hands it over.

    Raises:
        Refused: not by an owner.
        BadInput: the email belongs to a member already, here or elsewhere.
    """
    require(owner, "manage_members")
    email = _email(email)
    taken = session.scalar(select(Member).where(Member.email == email))
    if taken is not None and (taken.removed_at is None or taken.shop_id != owner.shop_id):
        remedy = "Take another one, or make a link to reset the password."
        raise BadInput([Issue("taken", "email", "a member with this email is there already.", remedy)])
    _note(session, owner.shop_id, owner.name, "invited", f"{email} as {role}")
    return _link(session, owner, "invitation", email, role)


def reset_link(session: Session, owner: Member, member_id: str) -> str:
    """Return the token of a link by which a member chooses a new password.

    Raises:
        Refused, NotFound.
    """
    require(owner, "manage_members")
    member = find_member(session, owner, member_id)
    _note(session, owner.shop_id, owner.name, "reset handed out", member.email)
    return _link(session, owner, "reset", member.email, member.role)


def _link(session: Session, owner: Member, kind: LinkKind, email: str, role: str) -> str:
    token = secrets.token_urlsafe(24)
    session.add(
        OneTimeLink(
            token_digest=digest_of_token(token),
            shop_id=owner.shop_id,
            kind=kind,
            email=email,
            role=role,
            made_by=owner.name,
            expires_at=_now() + LINK_LASTS,
        )
    )
    return token


def link_of(session: Session, token: str, lock: bool = False) -> tuple[OneTimeLink, Shop]:
    """Return an open link and its shop.

    Raises:
        NotFound: it was used, has expired, or never was one.
    """
    query = (
        select(OneTimeLink, Shop)
        .join(Shop, Shop.id == OneTimeLink.shop_id)
        .where(
            OneTimeLink.token_digest == digest_of_token(token),
            OneTimeLink.used_at.is_(None),
            OneTimeLink.expires_at > _now(),
        )
    )
    found = session.execute(query.with_for_update(of=OneTimeLink) if lock else query).one_or_none()
    if found is None:
        raise NotFound("This link was used already, or has expired. Ask the owner of the shop for another one.")
    return found[0], found[1]


def use_link(session: Session, token: str, name: str, password: str) -> Member:
    """Become a member, or choose a new password; the link is used up.

    Raises:
        NotFound: the link is not open.
        BadInput: the password is too short, or the email was taken meanwhile.
    """
    _long_enough(password)
    link, shop = link_of(session, token, lock=True)
    member = session.scalar(select(Member).where(Member.email == link.email))
    if link.kind == "reset" and (member is None or member.removed_at is not None):
        raise NotFound("This member is no longer part of the shop.")
    if member is None:
        member = add_member(session, shop.name, link.email, name or link.email, password, link.role)
    elif link.kind == "invitation":
        if member.removed_at is None or member.shop_id != shop.id:
            raise BadInput([Issue("taken", "email", "a member with this email is there already.", "Sign in.")])
        member.removed_at, member.role, member.name = None, link.role, name or member.name
        set_password(session, member, password)
    else:
        set_password(session, member, password)
    link.used_at = _now()
    _note(session, shop.id, member.name, f"{link.kind} used", link.email)
    return member


def _note(session: Session, shop_id: UUID, by: str, action: str, detail: str) -> None:
    session.add(HistoryEntry(shop_id=shop_id, member=by, job_id=None, action=action, detail=detail))
