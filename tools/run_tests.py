"""``./test``: set up what the tests need, start a throw-away database, run everything, close with one line of counts.

``./test PATTERN`` runs only the tests whose names hold the pattern; ``./test --run MODULE``
runs a module that needs the same surroundings: ``benchmarks.edit``, ``tools.screenshots``.
"""

from __future__ import annotations

import os
import shutil
import signal
import subprocess
import sys

from tools import environment, packages
from tools.cluster import temporary_cluster
from tools.layout import ROOT, venv_python
from tools.progress import main_guard, say, side_by_side, step


def _set_up() -> None:
    say("Setting up the tests")
    side_by_side(lambda: packages.ensure(for_tests=True), _python_and_interface)


def _python_and_interface() -> None:
    environment.ensure_python("test")
    environment.ensure_interface()


def _module() -> list[str]:
    """Return the module to run with its arguments: the suite, or another one that needs the same surroundings."""
    if sys.argv[1:2] == ["--run"] and len(sys.argv) > 2:
        return sys.argv[2:]
    return ["tests.runner", *sys.argv[1:]]


def main() -> int:
    """Run the tests; return 0 when all passed."""
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(1))
    _set_up()
    cluster = temporary_cluster()
    try:
        with step("Throw-away database"):
            cluster.create()
            cluster.start()
        env = {**os.environ, "NELVOR_TEST_SERVER": cluster.url(), "PYTHONPATH": f"{ROOT / 'src'}{os.pathsep}{ROOT}"}
        return subprocess.run(
            [venv_python(), "-m", *_module()], cwd=ROOT, env=env, stdin=subprocess.DEVNULL, check=False
        ).returncode
    finally:
        cluster.stop("immediate")
        shutil.rmtree(cluster.home, ignore_errors=True)


if __name__ == "__main__":
    main_guard(main)
