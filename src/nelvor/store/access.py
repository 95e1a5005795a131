"""Who may do what: one table of roles and actions, and the one function that asks it."""

from __future__ import annotations

from typing import Literal, Protocol
from uuid import UUID

from nelvor.errors import Refused
from nelvor.store.tables import Member

Role = Literal["owner", "designer", "field", "reviewer"]
Action = Literal["read", "change", "write_on_site", "manage_members"]
ROLES: tuple[Role, ...] = ("owner", "designer", "field", "reviewer")
TABLE: dict[Action, frozenset[str]] = {
    "read": frozenset(ROLES),
    "change": frozenset({"owner", "designer"}),
    "write_on_site": frozenset({"owner", "designer", "field"}),
    "manage_members": frozenset({"owner"}),
}
"""Roles by what they may do within their own shop; nobody may do anything in another one."""


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
        what = (
            "may not manage the members of the shop"
            if action == "manage_members"
            else "may read but not change anything"
        )
        raise Refused(f"A {member.role} {what}.")
