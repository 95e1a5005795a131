"""Routes of the shop: the local rules that it keeps for all its jobs."""

from __future__ import annotations

from nelvor.model.local_rules import bringing_in, missing_from
from nelvor.model.parse import parse_value
from nelvor.store import jobs, local_rules
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.session import current_member, database


@api.route("GET", "/shop/rules", answer=wire.LocalRulesOut)
def read_local_rules() -> wire.LocalRulesOut:
    """Return the local rules of the shop."""
    return _newest()


def _newest() -> wire.LocalRulesOut:
    member = current_member()
    number, rules = local_rules.newest(database(), member)
    return wire.LocalRulesOut(number=number, rules=rules, may_write=jobs.may_write(member))


@api.route("PUT", "/shop/rules", body=wire.LocalRulesBody, answer=wire.LocalRulesOut)
def replace_local_rules(body: wire.LocalRulesBody) -> wire.LocalRulesOut:
    """Replace the local rules of the shop; the older list is kept in its history."""
    store = database()
    local_rules.replace(store, current_member(), body.rules, body.base)
    store.commit()
    return _newest()


@api.route("POST", "/shop/rules/missing", body=wire.DocumentBody, answer=wire.MissingRulesOut)
def rules_missing(body: wire.DocumentBody) -> wire.MissingRulesOut:
    """Tell which local rules of the shop a job lacks, with the operations that bring them in."""
    document = parse_value(body.document)
    _, rules = local_rules.newest(database(), current_member())
    return wire.MissingRulesOut(rules=missing_from(document, rules), operations=list(bringing_in(document, rules)))
