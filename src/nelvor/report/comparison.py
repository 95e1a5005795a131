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
LARGEST_OF_CABLES = {"NM-B": "2", "UF-B": "1", "SER": "4/0", "MC": "750"}


class AlternativeOut(Wire):
    """One lawful way. Prices in money for the whole length, None where an item has no price; lengths in ft.

    ``free`` tells that the size is the smallest lawful one, so that it need not be locked; the places order sizes.
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


class ComparisonOut(Wire):
    run_id: str
    limit_percent: float
    alternatives: list[AlternativeOut]
    prices: dict[str, float | None]


@dataclass(frozen=True)
class Way:
    """One lawful way of making a run, with what has to be bought by the foot."""

    answer: RunAnswer
    items: tuple[tuple[str, Fraction], ...]

    def price(self, prices: Prices) -> Fraction | None:
        """Return the price of everything, or None where an item has none."""
        if any(item not in prices for item, _ in self.items):
            return None
        return sum((prices[item] * feet for item, feet in self.items), Fraction(0))


def compare_run(report: Report, run_id: str, sizes_up: int = SIZES_UP) -> ComparisonOut:
    """Return the lawful alternatives for a run, the cheapest first: of each wiring the smallest size and ``sizes_up`` more.

    Raises:
        NotFound: the run is not in the report, or is the utility's.
    """
    now = report.runs.get(run_id)
    if now is None or now.kind in NOT_SIZED:
        raise NotFound("There is nothing to compare for this run.")
    prices = prices_of(report.site.document)
    ways = [Way(answer, tuple(_items(answer))) for answer in _lawful(now, sizes_up)]
    ways.sort(key=lambda way: (way.price(prices) is None, way.price(prices) or 0, _drop(way.answer) or 0))
    used = {item for way in ways for item, _ in way.items}
    return ComparisonOut(
        run_id=run_id,
        limit_percent=report.site.document.settings.feeder_drop_limit_percent,
        alternatives=[_out(report, way, prices, now) for way in ways],
        prices={item: float(prices[item]) if item in prices else None for item in sorted(used)},
    )


def _lawful(now: RunAnswer, sizes_up: int) -> Iterator[RunAnswer]:
    """Yield every metal, wiring and size that is lawful for the run: the smallest size and the next ones up."""
    for insulation, method in WIRINGS.get(now.run.placement or "", ()):
        for material in ("copper", "aluminum"):
            way = {"material": material, "insulation": insulation, "method": method, "ground_by_raceway": False}
            first = made_otherwise(now, **way)
            size = first.size("hots")
            if size is None or not _holds(first):
                continue
            yield first
            for larger in SIZES[size_index(size) + 1 :][:sizes_up]:
                if size_index(larger) <= size_index(LARGEST_OF_CABLES.get(insulation, SIZES[-1])):
                    answer = with_larger_hots(first, larger)
                    if answer.size("hots") and _holds(answer):
                        yield answer


def _holds(answer: RunAnswer) -> bool:
    size = answer.size("hots")
    largest = LARGEST_OF_CABLES.get(answer.run.insulation or "", SIZES[-1])
    too_large = size is not None and size_index(size) > size_index(largest)
    return not too_large and all(
        verdict.outcome != "must_fix" for verdict in answer.verdicts if verdict.code != "cover"
    )


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
        limited_by=answer.figures["hots"].step.refused or "larger than the load asks",
        price=float(price) if price is not None else None,
        without_price=[item for item, _ in way.items if item not in prices],
        chosen=same and answer.size("hots") == now.size("hots"),
        free=run.hot_size is None,
        hots_place=size_index(answer.size("hots") or SIZES[0]),
        raceway_place=TRADE_SIZES.index(answer.size("raceway")) if answer.size("raceway") else -1,
    )
