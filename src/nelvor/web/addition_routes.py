"""Routes about what can be added in one act: which kinds there are, and what one would change before it is taken."""

from __future__ import annotations

from nelvor.additions.kinds import ADDITIONS
from nelvor.report.weighed_addition import WeighedAdditionOut, weigh_addition
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.reports import reports


@api.route("GET", "/additions", answer=wire.AdditionList)
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


@api.route("POST", "/additions/weigh", body=wire.AdditionBody, answer=WeighedAdditionOut)
def weigh(body: wire.AdditionBody) -> WeighedAdditionOut:
    """Tell what an addition would change of a document: what follows from it, and the steps in their order."""
    return weigh_addition(
        body.document, lambda value: reports.of(value, "proposed"), body.kind, body.enclosure_id, body.options
    )
