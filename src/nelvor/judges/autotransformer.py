"""Autotransformers: their one device (450.4(A)), and what one asks that forms the neutral of a source without one."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from nelvor.judges.verdict import Judge, Mend, proposing
from nelvor.model.things import Transformer
from nelvor.topology.grounded import neutral_net
from nelvor.topology.network import NEUTRAL, Node
from nelvor.topology.site import Site
from nelvor.working import Figure, Recorder

CLAUSE, FORMS = "autotransformer_ocpd", "autotransformer_neutral"
NINE_AMPERES = 9


def most_of_device(recorder: Recorder, rated: Figure) -> Figure:
    """Return the largest device of a rated input current: 125 %, or the next standard rating; 167 % below 9 A."""
    if rated.number < NINE_AMPERES:
        factor = recorder.parameter("autotransformer_factor_under_9a", "Factor below 9 A")
        return recorder.multiply("Device at most", rated, factor, unit="A", clause=CLAUSE)
    factor = recorder.parameter("autotransformer_factor", "Factor")
    most = recorder.multiply("Device at most", rated, factor, unit="A", clause=CLAUSE)
    return recorder.next_up("or the next standard rating", most, recorder.rules.standard_ratings(), CLAUSE) or most


def judge_device(
    judge: Judge,
    recorder: Recorder,
    figures: dict[str, Figure],
    rated: Figure,
    ahead: Figure,
    smaller: Callable[[Fraction], Mend | None],
) -> None:
    """Judge the device in the lines that come to an autotransformer; ``smaller`` gives the mend to one within a limit in A."""
    most = figures["primary_device_most"] = most_of_device(recorder, rated)
    if recorder.at_least("The device is within it", most, ahead, clause=CLAUSE):
        judge.holds("transformer", f"{ahead.text} A protects the autotransformer.", CLAUSE)
    else:
        text = f"{ahead.text} A ahead of the autotransformer is above {most.text} A, for its input of {rated.text} A."
        judge.must_fix("transformer", text, CLAUSE, mend=smaller(most.number))


def judge_formed_neutral(site: Site, judge: Judge, transformer: Transformer) -> None:
    """Judge a neutral that is formed: by something listed for it, and never lost while the source goes on."""
    if transformer.listed_for_neutral is None:
        text = "Whether it is listed for forming a neutral is not read on its label."
        judge.cannot_tell("neutral_listing", text, FORMS, "listed_for_neutral")
    elif not transformer.listed_for_neutral:
        text = "It is not listed for forming a neutral: use one that is."
        judge.must_fix("neutral_listing", text, FORMS, "listed_for_neutral")
    if transformer.opens_source is None:
        text = "Whether its device opens the source too is not entered: with the neutral gone, 120 V loads stand in series on 240 V."
        judge.cannot_tell("neutral_lost", text, FORMS, "opens_source")
    elif not transformer.opens_source:
        text = (
            "Its device can open alone, and the source goes on without a neutral: 120 V loads then stand in series on 240 V. "
            "Let the two open together."
        )
        mend = Mend("Let its device open the source too", proposing("transformers", transformer, opens_source=True))
        judge.must_fix("neutral_lost", text, FORMS, "opens_source", mend)
    else:
        judge.holds("neutral_lost", "Its device opens the source too, so the neutral is not lost alone.", FORMS)
    if _meets_utility(site, transformer):
        text = (
            "The neutral it forms is joined to the utility's: it works against the imbalance of the whole grid there too. "
            "Go by its maker's word."
        )
        judge.advise("neutral_with_utility", text, FORMS)


def _meets_utility(site: Site, transformer: Transformer) -> bool:
    net = neutral_net(site.network, Node(transformer.secondary_part, NEUTRAL), lambda _: True)
    return any(Node(item.id, NEUTRAL) in net for item in site.document.sources if item.kind == "utility")
