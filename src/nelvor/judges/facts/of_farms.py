"""Farm buildings with animals, which feel volts that people do not: asked for and judged as entered (547)."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from nelvor.judges.facts.fact import Ending, Fact
from nelvor.model.things import Building
from nelvor.topology.site import Site

CODE, CLAUSE = "livestock", "agricultural_grounding"


class Answered(NamedTuple):
    """How a value of a field ends, and what is said of it."""

    ending: Ending
    text: str


class Question(NamedTuple):
    """One question of a building with animals: its field, clause and words, and how each answer ends."""

    field: str
    clause: str
    asked: str
    answers: dict[str | bool, Answered]


KEPT = Question(
    "livestock",
    CLAUSE,
    "whether animals are kept in it, now or as planned; such buildings have grounding rules of their own",
    {
        False: Answered("holds", "No livestock is kept in {name}."),
        True: Answered("holds", "Livestock is kept in {name}: its own grounding rules are asked and judged."),
    },
)
QUESTIONS = (
    Question(
        "equipotential_plane",
        "equipotential_plane",
        "whether animals reach metal of the installation from a concrete floor, and whether it has an equipotential plane",
        {
            "bonded": Answered("holds", "The equipotential plane of {name} is bonded to the grounding system."),
            "not_needed": Answered("holds", "In {name} animals reach no metal of the installation from concrete."),
            "missing": Answered(
                "must_fix",
                "{name} lacks its equipotential plane: bond the steel in or under the concrete where animals stand to the metal "
                "they reach and to the grounding system, with solid copper 8 AWG or larger.",
            ),
        },
    ),
    Question(
        "supply_near",
        "farm_supply_plaque",
        "whether another service or distribution point of the site is within 500 ft, and has a plaque",
        {
            "none": Answered("holds", "No other supply of the site is within 500 ft of the one of {name}."),
            "with_plaque": Answered("holds", "A plaque at each supply tells of the others within 500 ft."),
            "without_plaque": Answered(
                "must_fix",
                "Another supply of the site is within 500 ft: fit a permanent plaque at each, which tells where the others are "
                "and what each feeds.",
            ),
        },
    ),
    Question(
        "neutral_isolator",
        CLAUSE,
        "whether the utility parts its neutral from that of the farm (an isolator)",
        {
            False: Answered(
                "holds", "The neutral of the farm is the utility's: its volts to earth stand on the metal too."
            ),
            True: Answered(
                "advice",
                "The utility parts its neutral from that of the farm: keep pipes, fences and wires of the utility's ground off "
                "the farm's metal, which would join them again.",
            ),
        },
    ),
    Question(
        "volts_to_earth",
        CLAUSE,
        "whether volts between metal and the floor are noticed or measured, or animals shy away",
        {
            "none_noticed": Answered("holds", "No volts between metal and earth are noticed in {name}."),
            "noticed": Answered(
                "advice",
                "Volts between metal and earth are noticed in {name}. Find each second bond, stray neutral and poor splice; what "
                "a lawful single bond still leaves comes from the utility's neutral, and rods do not cure it: have it measured "
                "with the utility.",
            ),
        },
    ),
)


def facts_of_farms(site: Site) -> Iterator[Fact]:
    """Yield whether animals are kept in each farm building, and what is asked where they are."""
    for building in site.document.buildings:
        if building.use != "farm":
            continue
        yield _fact(building, KEPT)
        for question in QUESTIONS if building.livestock else ():
            yield _fact(building, question)


def _fact(building: Building, question: Question) -> Fact:
    answer = question.answers.get(getattr(building, question.field), Answered("asked", ""))
    text = answer.text.format(name=building.name or building.id)
    return Fact(
        "buildings", building.id, question.field, answer.ending, question.clause, text, question.asked, code=CODE
    )
