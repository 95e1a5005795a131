"""Debian packages: install what is missing and nothing else."""

from __future__ import annotations

import glob
import os
import shutil
import subprocess

from tools.progress import SetupError, run, step

POSTGRES_PROGRAMS = "/usr/lib/postgresql/*/bin/initdb"
CHROMIUM = "/usr/bin/chromium"
# The independent witness of the study of currents.
SIMULATOR = "/usr/bin/ngspice"
# The browser driver of the tests brings a Node of its own, which wants this library.
LIBATOMIC = "/usr/lib/*/libatomic.so.1"


def _missing(for_tests: bool) -> list[str]:
    missing = []
    if not glob.glob(POSTGRES_PROGRAMS):
        missing.append("postgresql")
    if for_tests and not os.path.exists(CHROMIUM):
        missing.append("chromium")
    if for_tests and not os.path.exists(SIMULATOR):
        missing.append("ngspice")
    if for_tests and not glob.glob(LIBATOMIC):
        missing.append("libatomic1")
    return missing


def _as_administrator() -> list[str]:
    """Return the prefix that gives administrator rights, empty for root."""
    if os.geteuid() == 0:
        return []
    if shutil.which("sudo"):
        allowed = subprocess.run(["sudo", "-n", "true"], capture_output=True, check=False)
        if allowed.returncode == 0:
            return ["sudo", "-n"]
    raise PermissionError


def ensure(for_tests: bool) -> None:
    """Install the missing Debian packages.

    Raises:
        SetupError: packages are missing and this user may not install them.
    """
    missing = _missing(for_tests)
    if not missing:
        return
    try:
        prefix = _as_administrator()
    except PermissionError:
        raise SetupError(
            f"these Debian packages are missing: {' '.join(missing)}. "
            f"Ask an administrator for: apt-get install {' '.join(missing)}"
        ) from None
    with step(f"Debian packages: {' '.join(missing)}"):
        quiet = [*prefix, "env", "DEBIAN_FRONTEND=noninteractive", "apt-get"]
        run([*quiet, "update", "-q"])
        run([*quiet, "install", "-y", "-q", "--no-install-recommends", *missing])
