"""Backups: written while the application runs, read back, damaged ones refused, restored to the very same content."""

import contextlib
import gzip
import io
import json
import os
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from sqlalchemy import create_engine, select, text
from sqlalchemy.engine import make_url

from nelvor.cli.main import main
from nelvor.model.changes.operations import Put
from nelvor.store import backup, jobs, members
from nelvor.store.backup import BackupRefused, nightly, read_backup, restore_backup, tables, write_backup
from nelvor.store.tables import Job, Member
from tests.support.server import Client, Database, WithDatabase

REVISIONS = 40


class Backups(WithDatabase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        with cls.database.sessions() as session:
            owner = session.scalar(select(Member).where(Member.email == "owner@east.invalid"))
            for number in range(1, REVISIONS):
                put = Put(list="runs", id="to-barn", field="length_ft", value=100.0 + number)
                wanted = jobs.Save(base=number, save_id=f"save {number}", summary=f"{number}", operations=[put])
                jobs.save(session, owner, cls.jobs["east"], wanted)
                session.commit()

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.file = self.folder / "all.gz"

    def content(self, url):
        """Every row of every table, as it is stored."""
        engine = create_engine(url)
        with engine.connect() as connection:
            found = {table.name: sorted(map(repr, connection.execute(select(table)))) for table in tables()}
        engine.dispose()
        return found

    def lines(self):
        with gzip.open(self.file, "rt", encoding="utf-8") as lines:
            return lines.read().splitlines()

    def empty(self):
        database = Database()
        self.addCleanup(database.drop)
        return database

    def test_restored_elsewhere_everything_is_the_same_to_the_byte(self):
        counts = write_backup(self.database.url, self.file)
        self.assertEqual(counts["revisions"], REVISIONS + 1)
        other = self.empty()
        self.assertEqual(restore_backup(other.url, self.file), (counts, ""))
        self.assertEqual(self.content(other.url), self.content(self.database.url))

    def test_all_that_one_shop_owns_and_nothing_of_another(self):
        counts = write_backup(self.database.url, self.file, "east")
        self.assertEqual((counts["shops"], counts["jobs"], counts["revisions"]), (1, 1, REVISIONS))
        other = self.empty()
        restore_backup(other.url, self.file)
        mine = {name: rows for name, rows in self.content(other.url).items() if rows}
        whole = self.content(self.database.url)
        for name, rows in mine.items():
            self.assertLessEqual(set(rows), set(whole[name]))
        self.assertNotIn("west", "".join(mine["shops"] + mine["members"]))
        self.assertEqual(len(mine["members"]), 2)
        with self.assertRaisesRegex(BackupRefused, "no shop north"):
            write_backup(self.database.url, self.folder / "none.gz", "north")
        self.assertFalse(list(self.folder.glob("none*")))

    def test_what_is_restored_goes_on_working(self):
        write_backup(self.database.url, self.file)
        other = self.empty()
        restore_backup(other.url, self.file)
        with mock.patch.object(type(self), "database", other):
            owner = Client(self.app(), "owner@east.invalid")
            address = f"/api/jobs/{self.jobs['east']}"
            put = {"op": "put", "list": "runs", "id": "to-barn", "field": "length_ft", "value": 7.0}
            body = {"base": REVISIONS, "save_id": "after the restore", "summary": "", "operations": [put]}
            self.assertEqual(owner.send("POST", f"{address}/revisions", body).status_code, 201)
            entry = {"thing_id": "to-barn", "kind": "torque"}
            self.assertEqual(owner.send("POST", f"{address}/field-log", {"entries": [entry]}).status_code, 201)

    def test_a_database_that_is_not_empty_is_replaced_only_when_told_and_what_stood_is_kept(self):
        write_backup(self.database.url, self.file)
        other = self.empty()
        with other.sessions.begin() as session:
            members.add_member(session, "third", "owner@third.invalid", "Third", "correct horse battery", "owner")
        with self.assertRaisesRegex(BackupRefused, "not empty"):
            restore_backup(other.url, self.file)
        self.assertEqual(len(self.content(other.url)["members"]), 1)
        _, kept = restore_backup(other.url, self.file, replace=True)
        self.addCleanup(other._run, f'drop database "{kept}" with (force)')
        self.assertEqual(self.content(other.url), self.content(self.database.url))
        old = make_url(other.url).set(database=kept).render_as_string(hide_password=False)
        self.assertIn("owner@third.invalid", self.content(old)["members"][0])

    def test_damaged_files_are_refused_and_change_nothing(self):
        write_backup(self.database.url, self.file)
        lines = self.lines()
        without = [line for line in lines if "owner@west" not in line]
        changed = [line.replace("east owner", "eve") for line in lines]
        for name, damaged in (
            ("a row less", without),
            ("a row changed", changed),
            ("cut", lines[:-1]),
            ("other", ["{}"]),
        ):
            file = self.folder / f"{name}.gz"
            with gzip.open(file, "wt", encoding="utf-8") as out:
                out.write("\n".join(damaged) + "\n")
            with self.subTest(name), self.assertRaises(BackupRefused):
                restore_backup(self.empty().url, file)
        whole = self.file.read_bytes()
        self.file.write_bytes(whole[: len(whole) // 2])
        with self.assertRaises(BackupRefused):
            read_backup(self.file)
        with self.assertRaises(BackupRefused):
            read_backup(self.folder / "nothing.gz")

    def test_no_file_is_written_over_and_none_is_left_half(self):
        self.file.write_text("something of mine")
        with self.assertRaisesRegex(BackupRefused, "there already"):
            write_backup(self.database.url, self.file)
        self.assertEqual(self.file.read_text(), "something of mine")
        with mock.patch.object(backup, "_write", side_effect=OSError("no space left")), self.assertRaises(OSError):
            write_backup(self.database.url, self.folder / "full.gz")
        self.assertEqual([item.name for item in self.folder.iterdir()], ["all.gz"])

    def test_it_is_of_one_moment_while_saves_go_on(self):
        real = backup._told

        def with_a_save_between(value):
            with self.database.sessions.begin() as session:
                session.execute(text("update jobs set name = name || '.'"))
            with mock.patch.object(backup, "_told", real):
                return real(value)

        with mock.patch.object(backup, "_told", side_effect=with_a_save_between):
            write_backup(self.database.url, self.file)
        names = [json.loads(line)["row"]["name"] for line in self.lines() if '"table": "jobs"' in line]
        self.assertEqual(len(set(names)), 1)
        with self.database.sessions.begin() as session:
            session.execute(text("update jobs set name = rtrim(name, '.')"))
            self.assertEqual(session.scalar(select(Job.name).limit(1)), "Orchard at Quince Hollow")

    def test_of_the_nightly_ones_the_last_few_are_kept(self):
        for day in range(10, 20):
            (self.folder / f"nelvor-2026-01-{day}.backup.gz").write_text("old")
        file = nightly(self.database.url, self.folder, kept=3)
        self.assertEqual(nightly(self.database.url, self.folder, kept=3), file)  # a day has one
        kept = sorted(item.name for item in self.folder.iterdir())
        self.assertEqual(kept, ["nelvor-2026-01-18.backup.gz", "nelvor-2026-01-19.backup.gz", file.name])

    def test_by_command(self):
        def told(*arguments):
            with contextlib.redirect_stdout(io.StringIO()) as out, contextlib.redirect_stderr(io.StringIO()) as err:
                return main(list(arguments)), out.getvalue() + err.getvalue()

        with mock.patch.dict(os.environ, {"NELVOR_DATABASE_URL": self.database.url}):
            status, words = told("backup", str(self.file))
            self.assertEqual(status, 0)
            self.assertIn(f"{REVISIONS + 1} revisions", words)
            self.assertEqual(told("backup", str(self.file))[0], 2)
            status, words = told("restore", str(self.file))
            self.assertEqual(status, 2)
            self.assertIn("--replace", words)
        with mock.patch.dict(os.environ, {"NELVOR_DATABASE_URL": self.empty().url}):
            self.assertEqual(told("restore", str(self.file))[0], 0)
        with mock.patch.dict(os.environ):
            os.environ.pop("NELVOR_DATABASE_URL", None)
            self.assertEqual(told("backup", str(self.file))[0], 2)


if __name__ == "__main__":
    unittest.main()
