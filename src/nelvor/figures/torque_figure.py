"""The quick figure of a terminal: how tight it is made."""

from __future__ import annotations

from nelvor.clauses.terminal_torque import terminal_torque
from nelvor.figures.answer import Remark, Worked
from nelvor.figures.inputs import Inputs, choice, quantity
from nelvor.figures.quick_figure import QuickFigure
from nelvor.model.vocabulary import Size, TerminalScrew
from nelvor.working import Recorder


class TorqueInputs(Inputs):
    marked_lb_in: float | None = quantity("Torque marked on it", "lb-in", None, gt=0, le=5000)
    screw: TerminalScrew | None = choice("Its screw", None)
    size: Size | None = choice("Conductor on it", None)


def _torque(inputs: TorqueInputs, recorder: Recorder) -> Worked:
    found = terminal_torque(recorder, inputs.marked_lb_in, inputs.screw, inputs.size)
    told = (
        "Tighten it with a calibrated tool to what is marked."
        if inputs.marked_lb_in is not None
        else "Only where nothing is marked on the equipment or in its instructions: these govern."
    )
    return Worked(found, remarks=(Remark("advice", told, "torque_terminals"),))


FIGURES = [
    QuickFigure(
        "torque",
        "Torque of a terminal",
        "How tight is a terminal made?",
        "Devices and conductors",
        TorqueInputs,
        _torque,
        {"edition": "2023", "screw": "hex", "size": "4/0"},
    ),
]
