"""Routes of the shop: the local rules that it keeps for all its jobs, and its members."""

from __future__ import annotations

from nelvor.exchange.source_list import example_sources, read_sources, write_sources
from nelvor.model.local_rules import bringing_in, missing_from
from nelvor.model.parse import parse_value
from nelvor.store import local_rules, members, shop_defaults, shop_sources
from nelvor.store.access import allowed, require
from nelvor.store.history import ENTRIES_AT_ONCE, history
from nelvor.store.kept_by_shop import NOTHING_YET
from nelvor.store.tables import Member
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.session import current_member, database

LARGEST_NUMBER = 2**31 - 1


@api.route("GET", "/shop/rules", answer=wire.LocalRulesOut)
def read_local_rules() -> wire.LocalRulesOut:
    """Return the local rules of the shop."""
    return _newest()


def _newest() -> wire.LocalRulesOut:
    member = current_member()
    number, rules = local_rules.newest(database(), member)
    return wire.LocalRulesOut(number=number, rules=rules, may_write=allowed(member, "change"))


@api.route("PUT", "/shop/rules", body=wire.LocalRulesBody, answer=wire.LocalRulesOut)
def replace_local_rules(body: wire.LocalRulesBody) -> wire.LocalRulesOut:
    """Replace the local rules of the shop; the older list is kept in its history."""
    store = database()
    local_rules.replace(store, current_member(), body.rules, body.base)
    store.commit()
    return _newest()


@api.route("GET", "/shop/defaults", answer=wire.ShopDefaultsOut)
def read_shop_defaults() -> wire.ShopDefaultsOut:
    """Return what new jobs of the shop begin with."""
    return _newest_defaults()


def _newest_defaults() -> wire.ShopDefaultsOut:
    member = current_member()
    number, defaults = shop_defaults.newest(database(), member)
    return wire.ShopDefaultsOut(number=number, defaults=defaults, may_write=allowed(member, "change"))


@api.route("PUT", "/shop/defaults", body=wire.ShopDefaultsBody, answer=wire.ShopDefaultsOut)
def replace_shop_defaults(body: wire.ShopDefaultsBody) -> wire.ShopDefaultsOut:
    """Replace what new jobs of the shop begin with; what was kept before stays in its history."""
    store = database()
    shop_defaults.replace(store, current_member(), body.defaults, body.base)
    store.commit()
    return _newest_defaults()


@api.route("GET", "/shop/sources", answer=wire.ShopSourcesOut)
def read_shop_sources() -> wire.ShopSourcesOut:
    """Return the plates of sources that the shop keeps; made-up examples where it keeps none."""
    return _newest_sources()


def _newest_sources() -> wire.ShopSourcesOut:
    member = current_member()
    number, plates = shop_sources.newest(database(), member)
    examples = number == NOTHING_YET
    shown = example_sources() if examples else plates
    return wire.ShopSourcesOut(
        number=number,
        may_write=allowed(member, "change"),
        examples=examples,
        plates=shown,
        text=write_sources(shown),
    )


@api.route("PUT", "/shop/sources", body=wire.ShopSourcesBody, answer=wire.ShopSourcesOut)
def replace_shop_sources(body: wire.ShopSourcesBody) -> wire.ShopSourcesOut:
    """Replace the plates of sources that the shop keeps by a list in CSV; the older list stays in its history."""
    store, member = database(), current_member()
    require(member, "change")
    shop_sources.replace(store, member, read_sources(body.text), body.base)
    store.commit()
    return _newest_sources()


@api.route("POST", "/shop/rules/missing", body=wire.AmendmentsBody, answer=wire.MissingRulesOut)
def rules_missing(body: wire.AmendmentsBody) -> wire.MissingRulesOut:
    """Tell which local rules of the shop a job with these amendments lacks."""
    _, rules = local_rules.newest(database(), current_member())
    return wire.MissingRulesOut(rules=missing_from(body.amendments, rules))


@api.route("POST", "/shop/rules/bring-in", body=wire.DocumentBody, answer=wire.BringingInOut)
def bring_rules_in(body: wire.DocumentBody) -> wire.BringingInOut:
    """Return the operations that bring into a job the local rules of the shop that it lacks."""
    document = parse_value(body.document)
    _, rules = local_rules.newest(database(), current_member())
    return wire.BringingInOut(operations=list(bringing_in(document, rules)))


@api.route("GET", "/shop/history", answer=wire.HistoryOut)
def read_history() -> wire.HistoryOut:
    """Return what was done in the shop lately, the newest first."""
    return _history(None)


@api.route("GET", "/shop/history/before/<int:number>", answer=wire.HistoryOut)
def read_older_history(number: int) -> wire.HistoryOut:
    """Return what was done in the shop before an entry, the newest first."""
    return _history(min(number, LARGEST_NUMBER))


def _history(before: int | None) -> wire.HistoryOut:
    found = history(database(), current_member(), before)
    entries = [
        wire.HistoryLine(
            number=entry.id,
            at=entry.at.isoformat(),
            member=entry.member,
            action=entry.action,
            detail=entry.detail,
            job_id=str(entry.job_id) if name is not None else None,
            job=name,
        )
        for entry, name in found
    ]
    return wire.HistoryOut(entries=entries, older=len(entries) == ENTRIES_AT_ONCE)


# -- members -----------------------------------------------------------------------------------------


@api.route("GET", "/shop/members", answer=wire.MemberList)
def list_members() -> wire.MemberList:
    """List the members of the shop."""
    return _member_list()


def _member_list() -> wire.MemberList:
    member = current_member()
    return wire.MemberList(
        members=[_line(item, member) for item in members.members_of(database(), member)],
        may_manage=allowed(member, "manage_members"),
    )


def _line(member: Member, reader: Member) -> wire.MemberLine:
    return wire.MemberLine(
        id=str(member.id), name=member.name, email=member.email, role=member.role, self=member.id == reader.id
    )


@api.route("POST", "/shop/members", body=wire.InvitationBody, answer=wire.LinkOut, status=201)
def invite_member(body: wire.InvitationBody) -> wire.LinkOut:
    """Make a link by which someone becomes a member; it works once, and the owner hands it over."""
    store = database()
    token = members.invite(store, current_member(), body.email, body.role)
    store.commit()
    return wire.LinkOut(token=token)


@api.route("PUT", "/shop/members/<member_id>", body=wire.RoleBody, answer=wire.MemberList)
def change_role(member_id: str, body: wire.RoleBody) -> wire.MemberList:
    """Give a member of the shop another role."""
    store = database()
    members.change_role(store, current_member(), member_id, body.role)
    store.commit()
    return _member_list()


@api.route("DELETE", "/shop/members/<member_id>", answer=wire.MemberList)
def remove_member(member_id: str) -> wire.MemberList:
    """Take a member out of the shop; what the member did stays."""
    store = database()
    members.remove_member(store, current_member(), member_id)
    store.commit()
    return _member_list()


@api.route("POST", "/shop/members/<member_id>/reset", answer=wire.LinkOut, status=201)
def reset_password(member_id: str) -> wire.LinkOut:
    """Make a link by which a member chooses a new password; it works once, and the owner hands it over."""
    store = database()
    token = members.reset_link(store, current_member(), member_id)
    store.commit()
    return wire.LinkOut(token=token)
