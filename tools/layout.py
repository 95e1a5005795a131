"""Where things lie: the project, and the state folder that set-up fills and git ignores."""

from __future__ import annotations

import os
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
STATE = Path(os.environ.get("NELVOR_STATE", ROOT / ".nelvor"))
REQUIREMENTS = ROOT / "requirements"
UI = ROOT / "ui"
VENV = STATE / "venv"
NODE = STATE / "node"
BUILT_UI = UI / "dist"


def venv_python() -> Path:
    """Return the interpreter of the project's own environment."""
    return VENV / "bin" / "python"
