"""The command line in a test: run on a job and other files, with what it printed."""

from __future__ import annotations

import io
import json
import tempfile
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from typing import Any

from nelvor.cli.main import main


def run_on_job(command: str, job: Any, *arguments: str, table: str | None = None) -> tuple[int, str, str]:
    """Run a command on a job, and on a table where one is given; return its status and what it printed and told."""
    with (
        tempfile.TemporaryDirectory() as folder,
        redirect_stdout(io.StringIO()) as out,
        redirect_stderr(io.StringIO()) as err,
    ):
        path, csv = Path(folder) / "job.json", Path(folder) / "table.csv"
        path.write_text(json.dumps(job))
        csv.write_text(table or "")
        status = main([command, str(path), *([str(csv)] if table is not None else []), *arguments])
    return status, out.getvalue(), err.getvalue()
