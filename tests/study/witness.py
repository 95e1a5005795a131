"""An independent simulator as witness: a netlist run by ngspice, its currents read back."""

from __future__ import annotations

import re
import struct
import subprocess
import tempfile
from pathlib import Path

from tools.packages import SIMULATOR

TIMEOUT_S = 60
COMPLEX_BYTES = 16


class WitnessFailed(AssertionError):
    """The simulator warned or gave nothing: its answer proves nothing."""


def simulated(text: str) -> dict[str, complex]:
    """Return the currents and volts of a netlist by their names, such as ``i(vm3)``."""
    with tempfile.TemporaryDirectory() as folder:
        circuit, raw = Path(folder) / "c.cir", Path(folder) / "out.raw"
        circuit.write_text(text)
        command = [SIMULATOR, "-n", "-b", "-r", str(raw), str(circuit)]
        done = subprocess.run(command, capture_output=True, text=True, timeout=TIMEOUT_S, check=False)
        said = done.stdout + done.stderr
        if done.returncode or re.search(r"warning|singular|error", said, re.IGNORECASE) or not raw.exists():
            raise WitnessFailed(said)
        return _read(raw.read_bytes())


def _read(raw: bytes) -> dict[str, complex]:
    head, _, values = raw.partition(b"Binary:\n")
    text = head.decode()
    count = int(re.search(r"No\. Variables: (\d+)", text)[1])  # type: ignore[index]
    names = re.findall(r"^\t\d+\t(\S+)\t", text, re.MULTILINE)
    if len(names) != count or len(values) < count * COMPLEX_BYTES:
        raise WitnessFailed(text)
    numbers = struct.unpack(f"<{2 * count}d", values[: count * COMPLEX_BYTES])
    return {name: complex(numbers[2 * at], numbers[2 * at + 1]) for at, name in enumerate(names)}
