"""Who may do what: one table of roles and actions, and the one function that asks it."""

from __future__ import annotations

from typing import Literal, Protocol
from uuid import UUID

from nelvor.errors import Refused
from nelvor.store.tables import Member

Role = Literal["owner", "designer", "field", "reviewer"]
Action = Literal["read", "change", "write_on_site", "remark", "share", "delete_job", "read_history", "manage_members"]
ROLES: tuple[Role, ...] = ("owner", "designer", "field", "reviewer")
GUEST = "guest"
"""Who came by a read-only link: no role of a member, and never of a shop's list."""

TABLE: dict[Action, frozenset[str]] = {
    "read": frozenset({*ROLES, GUEST}),
    "change": frozenset({"owner", "designer"}),
    "write_on_site": frozenset({"owner", "designer", "field"}),
    "remark": frozenset(ROLES),
    "share": frozenset({"owner", "designer"}),
    "delete_job": frozenset({"owner"}),
    "read_history": frozenset({"owner", "designer"}),
    "manage_members": frozenset({"owner"}),
}
"""Roles by what they may do within their own shop; nobody may do anything in another one."""


REFUSALS: dict[Action, str] = {
    "remark": "may not leave remarks",
    "share": "may not share jobs",
    "delete_job": "may not delete jobs",
    "read_history": "may not read the history of the shop",
    "manage_members": "may not manage the members of the shop",
}


class OfAShop(Protocol):
    """A thing that belongs to a shop."""

    @property
    def shop_id(self) -> UUID: ...


def allowed(member: Member, action: Action, thing: OfAShop | None = None) -> bool:
    """Tell whether a member may do something, to a thing where one is named."""
    own = thing is None or thing.shop_id == member.shop_id
    return own and member.removed_at is None and member.role in TABLE[action]


def require(member: Member, action: Action, thing: OfAShop | None = None) -> None:
    """Refuse what a member may not do.

    Raises:
        Refused: the role does not allow it.
    """
    if not allowed(member, action, thing):
        raise Refused(f"A {member.role} {REFUSALS.get(action, 'may read but not change anything')}.")
