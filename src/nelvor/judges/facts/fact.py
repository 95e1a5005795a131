"""One fact that no figure tells: entered as it is found or planned, judged where it is, asked for where it decides."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Literal

from nelvor.judges.verdict import Judge, Mend, Mends, Verdict, proposing
from nelvor.model.base import Thing
from nelvor.rulebook.rules import Rules
from nelvor.topology.names import thing_name
from nelvor.topology.site import Site

Ending = Literal["holds", "must_fix", "advice", "asked"]


@dataclass(frozen=True)
class Fact:
    """One fact of a thing: its field, how it ends, the clause, what is said where it is entered, and what is asked.

    ``code`` is that of the list in which it is asked for.
    """

    list: str
    id: str
    field: str
    ending: Ending
    clause: str
    text: str
    asked: str
    mend: Mends = None
    code: str = "source_facts"


@dataclass(frozen=True)
class About:
    """The thing whose facts these are, with the name it goes by."""

    list: str
    thing: Thing
    name: str

    def yes_or_no(
        self, field: str, clause: str, texts: tuple[str, str], asked: str, *, mended_by: str = "", fits: bool = True
    ) -> Fact:
        """Return the fact of a yes-or-no field, which is as it must be where it says ``fits``.

        ``texts`` say it where it is as it must be and where it is not; ``mended_by`` is the label of a change to what fits.
        """
        value: bool | None = getattr(self.thing, field)
        ending: Ending = "asked" if value is None else "holds" if value == fits else "must_fix"
        mend = Mend(mended_by, proposing(self.list, self.thing, **{field: fits})) if mended_by else None
        said = texts[0] if ending == "holds" else texts[1]
        return Fact(self.list, self.thing.id, field, ending, clause, said.format(name=self.name), asked, mend)

    def metal(self, field: str, clause: str, words: str, asked: str) -> Fact:
        """Return the fact of metal that has to be bonded where there is any."""
        value: str | None = getattr(self.thing, field)
        ending: Ending = "asked" if value is None else "must_fix" if value == "not_bonded" else "holds"
        said = f"{words} is not bonded." if ending == "must_fix" else f"{words} is bonded, or there is none."
        return Fact(self.list, self.thing.id, field, ending, clause, said, asked)


def said_of(site: Site, rules: Rules, facts: Iterable[Fact]) -> Iterator[Verdict]:
    """Yield what is said of facts; what is not entered of one thing is asked for in one list."""
    of_things: dict[tuple[str, str, str], list[Fact]] = {}
    for fact in facts:
        of_things.setdefault((fact.list, fact.id, fact.code), []).append(fact)
    for (list_name, thing_id, code), of_thing in of_things.items():
        judge, missing = Judge(rules, list_name, thing_id), []
        for fact in of_thing:
            if fact.ending == "asked":
                missing.append(fact)
            elif fact.ending == "holds":
                judge.holds(fact.field, fact.text, fact.clause, fact.field)
            elif fact.ending == "advice":
                judge.advise(fact.field, fact.text, fact.clause, fact.field, fact.mend)
            else:
                judge.must_fix(fact.field, fact.text, fact.clause, fact.field, fact.mend)
        if missing:
            text = f"Not entered of {thing_name(site, thing_id)}: {'; '.join(fact.asked for fact in missing)}."
            asks = tuple((thing_id, fact.field) for fact in missing)
            judge.cannot_tell(code, text, missing[0].clause, missing[0].field, asks)
        yield from judge.verdicts
