"""Lawful alternatives for one run, side by side: metal, size and wiring method with drop, trade size, limit and price."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from typing import get_args

from nelvor.clauses.ampacity import size_index
from nelvor.clauses.wiring_methods import METHOD_WORDS
from nelvor.errors import NotFound
from nelvor.judges.run import NOT_SIZED, RunAnswer, made_otherwise, with_larger_hots
from nelvor.model.vocabulary import SIZES, TradeSize
from nelvor.prices import Prices, prices_of
from nelvor.report.check import Report
from nelvor.report.sent import Wire
from nelvor.report.words import MATERIAL_WORDS
from nelvor.working import exact

WIRINGS = {
    "underground": (
        ("THWN-2", "pvc40"),
        ("XHHW-2", "pvc40"),
        ("THWN-2", "pvc80"),
        ("THWN-2", "rmc"),
        ("USE-2", "earth"),
        ("UF-B", "earth"),
    ),
    "indoors": (
        ("THWN-2", "emt"),
        ("XHHW-2", "emt"),
        ("THWN-2", "pvc40"),
        ("THWN-2", "imc"),
        ("THWN-2", "rmc"),
        ("SER", "cable"),
        ("NM-B", "cable"),
        ("MC", "cable"),
    ),
    "outdoors": (
        ("THWN-2", "pvc80"),
        ("XHHW-2", "pvc80"),
        ("THWN-2", "emt"),
        ("THWN-2", "imc"),
        ("THWN-2", "rmc"),
    ),
}
WIRINGS["rooftop"] = WIRINGS["outdoors"]
TRADE_SIZES: tuple[str | None, ...] = get_args(TradeSize)
SIZES_UP = 3
WORK = ("cable", "earth", "pvc40", "pvc80", "emt", "imc", "rmc")
"""Wiring methods by the work that a foot of them is, the least first: a judgement, where prices do not tell."""

DIRECT_BURIED = "earth"


class AlternativeOut(Wire):
    """One lawful way. Prices in money for the whole length, None where an item has no price; lengths in ft.

    ``free`` tells that the size is the smallest lawful one, so that it need not be locked; the places order sizes and
    work. ``step`` counts the sizes up from the least of the same way, ``change`` is what it asks for where it ends.
    """

    material: str
    insulation: str
    method: str
    hots: str
    neutral: str
    ground: str
    raceway: str
    words: str
    drop_percent: float | None
    longest_ft: float | None
    within_limit: bool
    limited_by: str
    price: float | None
    without_price: list[str]
    chosen: bool
    free: bool
    hots_place: int
    raceway_place: int
    work_place: int
    step: int
    change: str


class ComparisonOut(Wire):
    run_id: str
    limit_percent: float
    alternatives: list[AlternativeOut]
    prices: dict[str, float | None]
    priced: bool
    """Every part of every way has a price of the job's own, so that prices may decide."""


@dataclass(frozen=True)
class Way:
    """One lawful way of making a run, with what has to be bought by the foot."""

    answer: RunAnswer
    items: tuple[tuple[str, Fraction], ...]
    step: int

    def price(self, prices: Prices) -> Fraction | None:
        """Return the price of everything, or None where an item has none."""
        if any(item not in prices for item, _ in self.items):
            return None
        return sum((prices[item] * feet for item, feet in self.items), Fraction(0))


def compare_run(report: Report, run_id: str, sizes_up: int = SIZES_UP) -> ComparisonOut:
    """Return the lawful alternatives for a run: of each wiring the smallest size that is made and ``sizes_up`` more.

    The cheapest stand first where the job has priced every part of all of them, else those with the least work.

    Raises:
        NotFound: the run is not in the report, or is the utility's.
    """
    now = report.runs.get(run_id)
    if now is None or now.kind in NOT_SIZED:
        raise NotFound("There is nothing to compare for this run.")
    prices = prices_of(report.site.document)
    ways = [Way(answer, tuple(_items(answer)), step) for answer, step in _lawful(report, now, sizes_up)]
    used = {item for way in ways for item, _ in way.items}
    priced = used <= {item.item for item in report.site.document.prices if item.price is not None}
    ways.sort(key=lambda way: (way.price(prices) or Fraction(0) if priced else Fraction(_work(way.answer)), way.step))
    return ComparisonOut(
        run_id=run_id,
        limit_percent=report.site.document.settings.feeder_drop_limit_percent,
        alternatives=[_out(report, way, prices, now) for way in ways],
        prices={item: float(prices[item]) if item in prices else None for item in sorted(used)},
        priced=priced,
    )


def _lawful(report: Report, now: RunAnswer, sizes_up: int) -> Iterator[tuple[RunAnswer, int]]:
    """Yield every metal, wiring and size that is lawful for the run and made, with how many sizes up it is."""
    for insulation, method in WIRINGS.get(now.run.placement or "", ()):
        for material in ("copper", "aluminum"):
            way = {"material": material, "insulation": insulation, "method": method, "ground_by_raceway": False}
            first = made_otherwise(now, **way)
            size = first.size("hots")
            if size is None:
                continue
            fitting = [item for item in _made(report, insulation, material) if size_index(item) >= size_index(size)]
            step = 0
            for larger in fitting[: sizes_up + 1]:
                answer = first if larger == size else with_larger_hots(first, larger)
                if answer.size("hots") and _holds(answer):
                    yield answer, step
                    step += 1


def _made(report: Report, insulation: str, material: str) -> list[str]:
    """The sizes in which somebody makes a cable; single conductors are made in all."""
    table = report.rules.table("cable_sizes")
    row = table.find((insulation, material))
    return list(SIZES) if row is None else row["sizes"].split()


def _holds(answer: RunAnswer) -> bool:
    return all(verdict.outcome != "must_fix" for verdict in answer.verdicts if verdict.code != "cover")


def _work(answer: RunAnswer) -> int:
    """Where a way stands by its work: by its method, then the trade size that is bent, then the size that is pulled."""
    method = WORK.index(answer.run.method) if answer.run.method in WORK else len(WORK)
    raceway = answer.size("raceway")
    bent = TRADE_SIZES.index(raceway) + 1 if raceway else 0
    return (method * 100 + bent) * 100 + size_index(answer.size("hots") or SIZES[0])


def _change(report: Report, answer: RunAnswer) -> str:
    """What a direct-buried way asks for where it comes up, and where it would go on indoors."""
    if answer.run.method != DIRECT_BURIED:
        return ""
    section, run = report.rules.section, report.runs[answer.run.id].run
    told = f"Where it comes up it lies in a raceway ({section('emerging_protection')})."
    ends = (report.site.upstream_of(run), report.site.downstream_of(run))
    indoors = any(end in report.site.enclosures and report.site.enclosures[end].placement == "indoors" for end in ends)
    if indoors and (answer.run.insulation or "").startswith("USE"):
        told += f" It may not go on indoors: change the wiring where it enters ({section('use_not_indoors')})."
    return told


def _drop(answer: RunAnswer) -> Fraction | None:
    total = answer.figures.get("total_drop")
    return total.number if total else None


def _items(answer: RunAnswer) -> Iterator[tuple[str, Fraction]]:
    """Yield what is bought by the foot: conductors by metal and size, or the cable, and the raceway."""
    run = answer.run
    feet = exact(run.length_ft) if run.length_ft is not None else Fraction(0)
    metal = run.material or "copper"
    if run.method == "cable" or run.insulation == "UF-B":
        yield f"{run.insulation} {metal} {answer.size('hots')}", feet
        return
    for part, count in (("hots", answer.hots_count), ("neutral", 1), ("ground", 1)):
        size = answer.size(part)
        if size is not None:
            yield f"{metal} {size}", feet * count * run.sets
    raceway = answer.size("raceway")
    if raceway is not None:
        yield f"{run.method} {raceway}", feet * run.sets


def _out(report: Report, way: Way, prices: Prices, now: RunAnswer) -> AlternativeOut:
    answer, run = way.answer, way.answer.run
    total, here = _drop(answer), answer.figures.get("drop")
    limit = exact(report.site.document.settings.feeder_drop_limit_percent)
    ahead = now.drop_ahead
    longest = None
    if here is not None and here.number > 0 and ahead is not None and run.length_ft is not None:
        longest = float(exact(run.length_ft) * max(limit - ahead, Fraction(0)) / here.number)
    price = way.price(prices)
    same = (run.material, run.insulation, run.method) == (now.run.material, now.run.insulation, now.run.method)
    return AlternativeOut(
        material=run.material or "",
        insulation=run.insulation or "",
        method=run.method or "",
        hots=answer.size("hots") or "",
        neutral=answer.size("neutral") or "",
        ground=answer.size("ground") or "",
        raceway=answer.size("raceway") or "",
        words=f"{MATERIAL_WORDS.get(run.material or '', '')} {run.insulation}, {METHOD_WORDS.get(run.method or '', '')}",
        drop_percent=float(total) if total is not None else None,
        longest_ft=longest,
        within_limit=total is not None and total <= limit,
        limited_by=answer.figures["hots"].refused or "larger than the load asks",
        price=float(price) if price is not None else None,
        without_price=[item for item, _ in way.items if item not in prices],
        chosen=same and answer.size("hots") == now.size("hots"),
        free=run.hot_size is None,
        hots_place=size_index(answer.size("hots") or SIZES[0]),
        work_place=_work(answer),
        step=way.step,
        change=_change(report, answer),
        raceway_place=TRADE_SIZES.index(answer.size("raceway")) if answer.size("raceway") else -1,
    )
