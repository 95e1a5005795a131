"""Routes about what can be added in one act: its kinds, what one would change, and every way to connect a source."""

from __future__ import annotations

from nelvor.additions.kinds import ADDITIONS
from nelvor.report.ways_to_connect import WaysOut, ways_for_source, ways_to_connect
from nelvor.report.weighed_addition import WeighedAdditionOut, weigh_addition
from nelvor.ways.way import WantedSource, wanted_of
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.reports import reports


@api.route("GET", "/additions", answer=wire.AdditionList, guests=True)
def list_additions() -> wire.AdditionList:
    """List the kinds of additions with the schemas of what is asked before they are made."""
    return wire.AdditionList(
        additions=[
            wire.AdditionLine(
                kind=kind,
                title=item.title,
                words=item.words,
                options_schema=item.options.model_json_schema(),
            )
            for kind, item in ADDITIONS.items()
        ]
    )


@api.route("POST", "/additions/weigh", body=wire.AdditionBody, answer=WeighedAdditionOut, heavy=True)
def weigh(body: wire.AdditionBody) -> WeighedAdditionOut:
    """Tell what an addition would change of a document: what follows from it, and the steps in their order."""
    return weigh_addition(body.document, reports.tried, body.kind, body.enclosure_id, body.options, body.plate)


@api.route("GET", "/ways/wanted", answer=wire.WantedForm, guests=True)
def wanted_source_form() -> wire.WantedForm:
    """Tell what is asked of a source before the ways to connect it are looked for."""
    return wire.WantedForm(wanted_schema=WantedSource.model_json_schema())


@api.route("POST", "/ways", body=wire.WaysBody, answer=WaysOut, heavy=True)
def find_ways(body: wire.WaysBody) -> WaysOut:
    """Try out every way to connect a source: one that is wanted at a panel, or one that is drawn already."""
    if body.source_id:
        return ways_for_source(body.document, reports.tried, body.source_id)
    return ways_to_connect(body.document, reports.tried, body.enclosure_id, wanted_of(body.wanted))
