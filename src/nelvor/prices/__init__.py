"""A small price list: made-up prices by the foot to compare by, which a job replaces with its own."""

from __future__ import annotations

import csv
from fractions import Fraction
from functools import cache
from pathlib import Path

from nelvor.model.document import Document

FILE = Path(__file__).parent / "prices.csv"
Prices = dict[str, Fraction]


@cache
def shipped_prices() -> Prices:
    """Return the shipped prices by item, such as "copper 6" or "pvc40 1-1/4", in money per foot."""
    with FILE.open(newline="", encoding="utf-8") as stream:
        return {row["item"]: Fraction(row["price"]) for row in csv.DictReader(stream)}


def prices_of(document: Document) -> Prices:
    """Return the prices of a job: the shipped ones, each replaced where the job holds its own."""
    own = {item.item: Fraction(str(item.price)) for item in document.prices if item.price is not None}
    return shipped_prices() | own
