"""Set-up in its parts: which Node, what is current, progress and failures."""

import contextlib
import io
import os
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from tools import cluster, environment, packages, progress
from tools.progress import SetupError


class WhichNode(unittest.TestCase):
    def node_that_says(self, version: str):
        folder = Path(tempfile.mkdtemp())
        for name, text in (("node", f"#!/bin/sh\necho {version}\n"), ("npm", "#!/bin/sh\n")):
            (folder / name).write_text(text)
            (folder / name).chmod(0o755)
        self.addCleanup(lambda: [path.unlink() for path in folder.iterdir()] and folder.rmdir())
        return mock.patch.dict(os.environ, {"PATH": str(folder)})

    def test_the_systems_node_serves_from_20_19_on(self):
        for version, usable in (("v20.19.0", True), ("v22.1.0", True), ("v20.18.9", False), ("v18.20.4", False)):
            with self.subTest(version), self.node_that_says(version):
                self.assertEqual(environment._usable_system_node() is not None, usable)

    def test_none_or_a_broken_one_is_not_used(self):
        with mock.patch.dict(os.environ, {"PATH": "/nonexistent"}):
            self.assertIsNone(environment._usable_system_node())
        with self.node_that_says("nonsense"):
            self.assertIsNone(environment._usable_system_node())

    def test_without_a_usable_one_the_pinned_one_is_put_first(self):
        with (
            mock.patch.object(environment, "_usable_system_node", return_value=None),
            mock.patch.object(environment, "_pinned_node", return_value=Path("/pinned/node")),
        ):
            self.assertEqual(environment.node_program(), Path("/pinned/node"))
            self.assertEqual(environment._npm()[0], "/pinned/node")
            self.assertTrue(environment._npm_environment()["PATH"].startswith(str(environment.NODE / "bin")))


class WhatIsCurrent(unittest.TestCase):
    def test_a_step_is_done_again_only_when_its_inputs_changed(self):
        with tempfile.TemporaryDirectory() as folder:
            source, stamp = Path(folder, "source"), Path(folder, "stamp")
            source.write_text("one")
            first = environment._fingerprint([source])
            self.assertFalse(environment._is_current(stamp, first))
            stamp.write_text(first)
            self.assertTrue(environment._is_current(stamp, environment._fingerprint([source])))
            source.write_text("two")
            self.assertFalse(environment._is_current(stamp, environment._fingerprint([source])))

    def test_what_the_build_itself_writes_is_no_input(self):
        sources = environment.interface_sources()
        self.assertTrue(environment.GENERATED_TYPES.exists())
        self.assertNotIn(environment.GENERATED_TYPES, sources)
        self.assertIn(environment.UI / "package.json", sources)
        self.assertFalse([path for path in sources if "node_modules" in path.parts or "dist" in path.parts])


class Progress(unittest.TestCase):
    def test_a_failing_command_tells_the_end_of_what_it_said(self):
        with self.assertRaises(SetupError) as caught:
            progress.run(["sh", "-c", "echo the reason; exit 3"])
        self.assertIn("the reason", str(caught.exception))

    def test_the_first_failure_of_steps_side_by_side_is_raised_after_all_ended(self):
        done = []

        def fails():
            raise SetupError("no")

        with self.assertRaises(SetupError):
            progress.side_by_side(fails, lambda: done.append(1))
        self.assertEqual(done, [1])

    def test_each_step_tells_its_beginning_and_end(self):
        with contextlib.redirect_stdout(io.StringIO()) as stream, progress.step("Something"):
            pass
        self.assertRegex(stream.getvalue(), r"… Something\n  ✓ Something \(\d")

    def test_a_set_up_failure_ends_with_its_message_alone(self):
        def fails() -> int:
            raise SetupError("the remedy")

        with contextlib.redirect_stderr(io.StringIO()) as stream, self.assertRaises(SystemExit) as caught:
            progress.main_guard(fails)
        self.assertEqual((caught.exception.code, "the remedy" in stream.getvalue()), (2, True))
        self.assertNotIn("Traceback", stream.getvalue())


class Packages(unittest.TestCase):
    def test_only_what_is_missing_is_asked_for(self):
        with mock.patch.object(packages, "run") as run:
            packages.ensure(for_tests=True)
        run.assert_not_called()

    def test_a_user_with_sudo_installs_through_it(self):
        with (
            mock.patch.object(packages, "POSTGRES_PROGRAMS", "/nonexistent/*"),
            mock.patch.object(packages, "_as_administrator", return_value=["sudo", "-n"]),
            mock.patch.object(packages, "run") as run,
        ):
            packages.ensure(for_tests=False)
        self.assertEqual(run.call_args.args[0][:2], ["sudo", "-n"])
        self.assertIn("postgresql", run.call_args.args[0])


class WhereDataIsKept(unittest.TestCase):
    def test_in_the_project_where_the_database_may_enter(self):
        with mock.patch.object(cluster, "_enterable_by_server", return_value=True):
            self.assertEqual(cluster.persistent_cluster().home, cluster.STATE / "postgres")

    def test_else_in_a_persistent_folder_keyed_by_the_checkout_never_a_temporary_one(self):
        with tempfile.TemporaryDirectory() as folder, contextlib.redirect_stdout(io.StringIO()) as stream:
            fallback = Path(folder) / "data"
            with (
                mock.patch.object(cluster, "_enterable_by_server", return_value=False),
                mock.patch.object(cluster, "PERSISTENT_FALLBACK", fallback),
            ):
                home = cluster.persistent_cluster().home
            self.assertEqual(home.parent, fallback)
            self.assertIn(str(home), stream.getvalue())
        self.assertFalse(str(cluster.PERSISTENT_FALLBACK).startswith("/tmp"))

    def test_a_folder_closed_to_others_cannot_be_entered(self):
        with tempfile.TemporaryDirectory() as folder:
            inner = Path(folder) / "a" / "b"
            inner.mkdir(parents=True)
            Path(folder).chmod(0o700)
            self.assertEqual(cluster._enterable_by_server(inner), os.geteuid() != 0)
            Path(folder).chmod(0o755)
            self.assertTrue(cluster._enterable_by_server(inner))


if __name__ == "__main__":
    unittest.main()
