"""Rules of the house that a test can hold."""

import ast
import re
import subprocess
import sys
import unittest
from pathlib import Path

from tools.environment import node_program
from tools.generate_interface_types import api_description, field_limits, model_facts
from tools.layout import ROOT, UI

PACKAGE = ROOT / "src" / "nelvor"
# Each part may import the parts named here and nothing else of ours.
MAY_IMPORT = {
    "errors": set(),
    "model": {"errors"},
    "rulebook": {"errors", "model"},
    "working": {"errors", "rulebook"},
    "spaces": {"model"},
    "topology": {"errors", "model", "spaces"},
    "clauses": {"errors", "model", "rulebook", "working"},
    "judges": {"errors", "model", "rulebook", "working", "spaces", "topology", "clauses"},
    "additions": {"errors", "model", "rulebook", "spaces", "topology", "judges"},
    "ways": {"errors", "model", "working", "topology", "clauses", "judges", "additions"},
    "prices": {"model"},
    "report": {
        "errors",
        "model",
        "rulebook",
        "working",
        "spaces",
        "topology",
        "clauses",
        "judges",
        "additions",
        "ways",
        "prices",
    },
    "figures": {"errors", "model", "rulebook", "working", "spaces", "clauses", "report"},
    "study": {"errors", "model", "rulebook", "topology", "clauses", "judges", "report"},
    "exchange": {"errors", "model", "working", "spaces", "clauses", "judges", "report", "study", "topology"},
    "demo": {"model"},
    "starters": {"model"},
    "paper": {"errors", "model", "working", "clauses", "judges", "topology", "report"},
    "store": {"errors", "model", "rulebook", "demo"},
    "pool": {"errors"},
    "cli": {"exchange", "paper", "errors", "figures", "model", "report", "store", "study", "ways"},
    "web": {
        "additions",
        "errors",
        "exchange",
        "judges",
        "figures",
        "model",
        "rulebook",
        "report",
        "paper",
        "pool",
        "store",
        "starters",
        "study",
        "ways",
    },
}
CORE = (
    "errors",
    "model",
    "rulebook",
    "working",
    "spaces",
    "topology",
    "clauses",
    "judges",
    "additions",
    "ways",
    "report",
    "study",
    "figures",
)
OUTSIDE_THE_CORE = {"flask", "sqlalchemy", "psycopg", "reportlab", "alembic", "werkzeug"}


def part_of(path: Path) -> str:
    return path.relative_to(PACKAGE).parts[0].removesuffix(".py")


def imports_of(path: Path):
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.ImportFrom) and node.module:
            yield node.module
        elif isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)


# The view of another module under its own name: an answer's figures and what sends them, the job's rules and the shop's.
VIEWS_OF_ANOTHER = frozenset({"answer"})


def python_imports() -> dict[str, set[str]]:
    """Return which module of the package imports which others, at any place in it."""
    modules = {module_name(path): path for path in PACKAGE.rglob("*.py") if "migrations" not in path.parts}
    found: dict[str, set[str]] = {}
    for name, path in modules.items():
        wanted = set()
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.ImportFrom) and node.module:
                wanted |= {node.module, *(f"{node.module}.{alias.name}" for alias in node.names)}
            elif isinstance(node, ast.Import):
                wanted |= {alias.name for alias in node.names}
        found[name] = {item for item in wanted if item in modules and item != name}
    return found


def module_name(path: Path) -> str:
    parts = ("nelvor", *path.relative_to(PACKAGE).with_suffix("").parts)
    return ".".join(parts[:-1] if parts[-1] == "__init__" else parts)


def interface_imports() -> dict[str, set[str]]:
    """Return which file of the interface imports which others."""
    root = UI / "src"
    found: dict[str, set[str]] = {}
    for path in [*root.rglob("*.ts"), *root.rglob("*.tsx")]:
        name = str(path.relative_to(root))
        found[name] = set()
        for target in re.findall(r'(?:from|import)\s+"(\.[^"]+)"', path.read_text()):
            for ending in (".ts", ".tsx", ""):
                other = (path.parent / f"{target}{ending}").resolve()
                if other.is_file():
                    found[name].add(str(other.relative_to(root)))
                    break
    return found


def circles(arrows: dict[str, set[str]]) -> list[str]:
    """Return what imports itself by way of others."""

    def comes_back(start: str) -> bool:
        seen: set[str] = set()
        stack = list(arrows.get(start, ()))
        while stack:
            one = stack.pop()
            if one == start:
                return True
            if one not in seen:
                seen.add(one)
                stack += arrows.get(one, ())
        return False

    return sorted(one for one in arrows if comes_back(one))


class Architecture(unittest.TestCase):
    def test_imports_go_one_way(self):
        for path in PACKAGE.rglob("*.py"):
            part = part_of(path)
            if part == "__init__" or "migrations" in path.parts:
                continue
            for module in imports_of(path):
                names = module.split(".")
                if names[0] == "nelvor" and len(names) > 1 and names[1] != part:
                    self.assertIn(names[1], MAY_IMPORT[part], f"{path.name} imports {module}")

    def test_no_module_of_the_package_is_in_a_circle(self):
        self.assertEqual(circles(python_imports()), [])

    def test_no_file_of_the_interface_is_in_a_circle(self):
        self.assertEqual(circles(interface_imports()), [])

    def test_each_name_of_a_module_stands_once(self):
        """A name stands for one thing, but for the two sides of a wire: what is sent and what is kept."""
        names = [path.stem for part in CORE for path in (PACKAGE / part).rglob("*.py") if path.stem != "__init__"]
        twice = {name for name in names if names.count(name) > 1}
        self.assertEqual(twice - VIEWS_OF_ANOTHER, set())

    def test_leaves_of_the_interface_know_nothing_of_the_work(self):
        for path, targets in interface_imports().items():
            if path.startswith("kit/"):
                beyond = {
                    target for target in targets if not target.startswith(("kit/", "api/", "core/l", "core/words"))
                }
                self.assertEqual(beyond, set(), path)

    def test_the_core_knows_no_web_database_or_paper(self):
        for part in CORE:
            for path in PACKAGE.glob(f"{part}*/**/*.py") if part != "errors" else [PACKAGE / "errors.py"]:
                self.assertEqual(OUTSIDE_THE_CORE & {module.split(".")[0] for module in imports_of(path)}, set(), path)

    def test_no_edition_is_compared_outside_the_rulebook(self):
        for path in PACKAGE.rglob("*.py"):
            if part_of(path) == "rulebook":
                continue
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, ast.Compare):
                    text = ast.unparse(node)
                    self.assertFalse(
                        re.search(r"edition\s*(==|!=|in|<|>)|['\"]20(17|20|23)['\"]", text), f"{path.name}: {text}"
                    )

    def test_every_public_function_of_the_core_says_what_it_does(self):
        for part in CORE[1:]:
            for path in (PACKAGE / part).rglob("*.py"):
                for node in ast.parse(path.read_text()).body:
                    if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
                        self.assertTrue(ast.get_docstring(node), f"{path.name}: {node.name}")

    def test_the_interface_holds_no_figure_of_the_code(self):
        for path in (UI / "src").rglob("*.ts*"):
            self.assertNotRegex(path.read_text(), r"\b(1\.25|0\.83|310\.16|250\.122)\b", path.name)


class OneSourceOfTruth(unittest.TestCase):
    def test_the_api_description_of_the_interface_is_the_servers(self):
        self.assertEqual(
            (UI / "src/api/openapi.json").read_text(), api_description(), "run tools.generate_interface_types"
        )
        self.assertEqual((UI / "src/api/limits.json").read_text(), field_limits(), "run tools.generate_interface_types")
        self.assertEqual((UI / "src/api/model.json").read_text(), model_facts(), "run tools.generate_interface_types")


class Cleanliness(unittest.TestCase):
    def run_clean(self, *command: str, cwd: Path = ROOT) -> None:
        done = subprocess.run(command, cwd=cwd, capture_output=True, text=True, check=False)
        self.assertEqual(done.returncode, 0, done.stdout[-3000:] + done.stderr[-2000:])

    def test_python_is_linted_and_formatted(self):
        self.run_clean(sys.executable, "-m", "ruff", "check", ".")
        self.run_clean(sys.executable, "-m", "ruff", "format", "--check", ".")

    def test_the_package_is_strictly_typed(self):
        self.run_clean(sys.executable, "-m", "mypy")

    def test_typescript_is_linted_and_formatted(self):
        self.run_clean(str(node_program()), "node_modules/eslint/bin/eslint.js", "src", cwd=UI)
        self.run_clean(str(node_program()), "node_modules/prettier/bin/prettier.cjs", "--check", "src", cwd=UI)

    def test_no_package_registry_is_named(self):
        hosts = re.compile(
            r"pypi\.org|pythonhosted|registry\.npmjs|deb\.debian\.org|--index-url|--find-links", re.IGNORECASE
        )
        files = [
            *(ROOT / "requirements").glob("*"),
            UI / "package.json",
            UI / "package-lock.json",
            UI / ".npmrc",
            ROOT / "pyproject.toml",
        ]
        for path in files:
            self.assertIsNone(hosts.search(path.read_text()), path.name)

    def test_locked_requirements_carry_hashes(self):
        for path in (ROOT / "requirements").glob("*.txt"):
            text = path.read_text()
            self.assertEqual(
                len(re.findall(r"^[a-z0-9][^\s]*==", text, re.M)),
                len(re.findall(r"==[^\\\n]*\\\n\s+--hash", text)),
                path.name,
            )

    def test_each_file_that_a_question_leads_to_is_there(self):
        files = re.findall(r"`(src/[^`]+)`", (ROOT / "docs" / "where.md").read_text())
        self.assertGreaterEqual(len(files), 20)
        self.assertEqual([name for name in files if not (ROOT / name).is_file()], [])

    def test_screenshots_are_linked_from_the_readme(self):
        readme = (ROOT / "README.md").read_text()
        pictures = list((ROOT / "docs" / "screenshots").glob("*.png"))
        self.assertTrue(0 < len(pictures) < 20)
        for path in pictures:
            self.assertIn(path.name, readme)
