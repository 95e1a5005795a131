"""The kinds of additions by name: what each is called, what is asked, and how it is put together."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Literal, cast

from pydantic import ValidationError

from nelvor.additions.backup import backup
from nelvor.additions.circuit_transfer import circuit_transfer
from nelvor.additions.disconnect_ahead import disconnect_ahead
from nelvor.additions.draft import Draft
from nelvor.additions.interlock import interlock
from nelvor.additions.inverter import feeding_in
from nelvor.additions.meter_main import meter_main
from nelvor.additions.options import (
    BackupOptions,
    BesideOptions,
    CircuitTransferOptions,
    DisconnectAheadOptions,
    InletOptions,
    MeterMainOptions,
    Options,
    SecondPanelOptions,
    SwitchBoxOptions,
    TransferOptions,
    TransformerOptions,
)
from nelvor.additions.receiver import Receiver
from nelvor.additions.second_panel import second_panel
from nelvor.additions.switch_box import switch_box
from nelvor.additions.transfer_gear import transfer_gear
from nelvor.additions.transformer_ahead import transformer_ahead
from nelvor.errors import BadInput
from nelvor.model.parse import issue_of

AdditionKind = Literal[
    "disconnect_ahead",
    "meter_main",
    "transformer_ahead",
    "second_panel",
    "transfer_gear",
    "interlock",
    "circuit_transfer",
    "switch_box",
    "backup",
    "inverter",
]


@dataclass(frozen=True)
class Addition:
    """A kind of addition. ``words`` tell in a sentence what comes with it."""

    title: str
    words: str
    options: type[Options]
    build: Callable[[Receiver, Any], Draft]


ADDITIONS: dict[AdditionKind, Addition] = {
    "disconnect_ahead": Addition(
        "A disconnect ahead of it",
        "A disconnect near what feeds it now; the standing wire goes on from there.",
        DisconnectAheadOptions,
        disconnect_ahead,
    ),
    "meter_main": Addition(
        "A meter with a main in place of the meter",
        "One box with meter and main, the service disconnect from then on; all that the meter fed is behind it.",
        MeterMainOptions,
        meter_main,
    ),
    "transformer_ahead": Addition(
        "A transformer ahead of it",
        "What is behind it is a system of its own, bonded at the transformer; its loads are those of the new volts.",
        TransformerOptions,
        transformer_ahead,
    ),
    "second_panel": Addition(
        "A second panel beside it",
        "Fed from a breaker here. Circuits of this panel can be moved into it afterwards, on its sheet under Panels.",
        SecondPanelOptions,
        second_panel,
    ),
    "transfer_gear": Addition(
        "A standby generator through a transfer switch",
        "Transfer gear near what feeds it now, and a generator on its other side.",
        TransferOptions,
        transfer_gear,
    ),
    "interlock": Addition(
        "A portable generator through an inlet and an interlock",
        "A breaker beside the main, held against it by an interlock, and an inlet outdoors for the cord.",
        InletOptions,
        interlock,
    ),
    "circuit_transfer": Addition(
        "A generator through a transfer panel for chosen circuits",
        "A panel with a switch of its own, fed from a breaker here and from an inlet. Its circuits are chosen afterwards, on the "
        "sheet of the panel they stand in now.",
        CircuitTransferOptions,
        circuit_transfer,
    ),
    "switch_box": Addition(
        "A generator through a box with a switch for each chosen circuit",
        "The breakers stay in this panel, and leads from them to the box and back. Its circuits are chosen afterwards, on the sheet "
        "of this panel under Panels.",
        SwitchBoxOptions,
        switch_box,
    ),
    "backup": Addition(
        "A backup inverter with a panel of its own",
        "An inverter that the utility passes through, fed from a breaker here, and the panel that it backs up.",
        BackupOptions,
        backup,
    ),
    "inverter": Addition(
        "A solar inverter or storage that feeds in",
        "It runs beside the utility, on a breaker at the end of the bus away from the main: one of it, or several small ones on a "
        "branch, whose output is told for each.",
        BesideOptions,
        feeding_in,
    ),
}


def build(kind: AdditionKind, receiver: Receiver, options: Mapping[str, Any]) -> Draft:
    """Return the operations of an addition.

    Raises:
        BadInput: an option is not one, or out of its limits.
        CannotCompute: it cannot be added here.
    """
    addition = ADDITIONS[kind]
    try:
        asked = addition.options.model_validate(dict(options))
    except ValidationError as failure:
        raise BadInput([issue_of("", error) for error in failure.errors()]) from failure
    return addition.build(receiver, cast(Any, asked))
