"""An addition weighed before it is taken: all that it changes downstream, carried out, and the steps in their safe order.

What the new place of the bond, the fourth wire or the electrodes ask for is not left to the user to find: each finding
that the addition brings and that has a mend is mended, and the mend is told.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from nelvor.additions.kinds import ADDITIONS, AdditionKind, build
from nelvor.additions.receiver import Receiver
from nelvor.judges.verdict import Verdict
from nelvor.model.changes.operations import Insert, Operation, apply
from nelvor.model.source_plates import SourcePlate, plate_facts
from nelvor.report.check import Checked, Report
from nelvor.report.order_of_work import OrderOfWork, order_of_work
from nelvor.report.report_changes import FindingChangeOut, finding_changes
from nelvor.report.sent import Wire
from nelvor.topology.names import name_of, thing_name

MOST_MENDS = 40
CHOSEN_BY_THE_OWNER = frozenset({"bus_source"})


class DecisionChangeOut(Wire):
    """What is decided for neutral and ground in one box, before and after; "" where the box is not there before."""

    name: str
    before: str
    after: str


class WeighedAdditionOut(Wire):
    """``follows`` are the mends that go along, in words; ``operations`` carry out the addition and all of them."""

    label: str
    operations: list[Operation]
    follows: list[str]
    decisions: list[DecisionChangeOut]
    findings: list[FindingChangeOut]
    work: OrderOfWork


def weigh_addition(
    document: dict[str, Any],
    checked: Checked,
    kind: AdditionKind,
    enclosure_id: str,
    options: Mapping[str, Any],
    plate: SourcePlate | None = None,
) -> WeighedAdditionOut:
    """Return what an addition does to a document in its proposed state; ``plate`` is that of the source it brings.

    Raises:
        BadInput: an option cannot be read.
        CannotCompute: it cannot be added there.
    """
    before = checked(document)
    receiver = Receiver(before.site, before.rules, enclosure_id)
    tried = tried_out(document, checked, before, _with_plate(build(kind, receiver, options).operations, plate))
    return WeighedAdditionOut(
        label=ADDITIONS[kind].title,
        operations=tried.operations,
        follows=tried.follows,
        decisions=_decision_changes(before, tried.after),
        findings=finding_changes(before, tried.after),
        work=order_of_work(before, tried.after),
    )


def _with_plate(operations: Sequence[Operation], plate: SourcePlate | None) -> list[Operation]:
    """The operations with what a plate says of the source that comes, where the addition itself says nothing."""
    facts = {} if plate is None else plate_facts(plate)

    def filled(operation: Operation) -> Operation:
        if not isinstance(operation, Insert) or operation.list != "sources":
            return operation
        told = {name: value for name, value in operation.thing.items() if value is not None}
        return operation.model_copy(update={"thing": {**operation.thing, **facts, **told}})

    return [filled(item) for item in operations]


@dataclass(frozen=True)
class TriedOut:
    """What became of operations: they and the mends that follow from them, the report then, and the mends in words."""

    operations: list[Operation]
    after: Report
    follows: list[str]


def tried_out(document: dict[str, Any], checked: Checked, before: Report, operations: list[Operation]) -> TriedOut:
    """Carry out operations, and the mend of each must-fix that they bring; where there is a choice of ways, none is made."""
    operations = list(operations)
    follows: list[str] = []
    after = checked(apply(document, operations))
    known = {_what(item) for item in before.findings if item.outcome == "must_fix"}
    tried: set[tuple[str, str, str]] = set()
    while (new := _first_to_mend(after, known | tried)) is not None and len(tried) < MOST_MENDS:
        tried.add(_what(new))
        assert new.mend is not None  # only those with a mend are looked for
        operations += new.mend.operations
        after = checked(apply(document, operations))
        follows.append(f"{thing_name(after.site, new.id)}: {new.mend.label[0].lower()}{new.mend.label[1:]}")
    return TriedOut(operations, after, follows)


def _what(finding: Verdict) -> tuple[str, str, str]:
    return finding.code, finding.id, finding.field


def _first_to_mend(report: Report, passed_over: set[tuple[str, str, str]]) -> Verdict | None:
    return next(
        (
            item
            for item in report.findings
            if item.outcome == "must_fix"
            and item.mend is not None
            and item.code not in CHOSEN_BY_THE_OWNER
            and _what(item) not in passed_over
        ),
        None,
    )


def _decision_changes(before: Report, after: Report) -> list[DecisionChangeOut]:
    found = []
    for enclosure_id, bond in after.bonds.items():
        old = before.bonds.get(enclosure_id)
        was = old.decision if old is not None else ""
        if was != bond.decision:
            found.append(DecisionChangeOut(name=name_of(after.site, enclosure_id), before=was, after=bond.decision))
    return found
