"""The stateless questions of the stages, and the files that leave a job."""

import csv
import io
import json

from openpyxl import load_workbook

from nelvor.model.document import VERSION
from tests.support.jobs import bakery, changed, orchard, thing
from tests.support.server import Client, WithDatabase


class Questions(WithDatabase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.owner = Client(cls.app(), "owner@east.invalid")

    def ask(self, path, body, status=200):
        answer = self.owner.send("POST", f"/api/{path}", body)
        self.assertEqual(answer.status_code, status, answer.get_json())
        return answer.get_json()

    def issue(self, path, body):
        issue = self.ask(path, body, 422)["issues"][0]
        self.assertTrue(issue["reason"] and issue["remedy"])
        return issue["path"]

    def test_levels_side_by_side(self):
        levels = {row["id"]: row for row in self.ask("levels", {"document": orchard()})["levels"]}
        self.assertEqual(levels["meter"]["more_va"], "+30432")
        self.assertIsNone(levels["green-panel"]["existing"])
        self.assertGreater(levels["green-panel"]["depth"], levels["barn-panel"]["depth"])

    def test_levels_are_those_of_the_check(self):
        report = self.ask("check", {"document": bakery()})
        for row in self.ask("levels", {"document": bakery()})["levels"]:
            level = report["enclosures"][row["id"]]["level"]
            self.assertEqual(row["proposed"]["demand_va"], level["demand"]["value"])
            self.assertEqual(row["proposed"]["neutral_a"], level["neutral"]["value"])

    def test_lawful_ways_of_a_run(self):
        found = self.ask("runs/compare", {"document": orchard(), "run_id": "to-barn"})
        self.assertEqual([way["hots"] for way in found["alternatives"] if way["chosen"]], ["1/0"])
        self.assertIn("aluminum 1/0", found["prices"])
        self.ask("runs/compare", {"document": orchard(), "run_id": "nowhere"}, 404)
        self.ask("runs/compare", {"document": orchard(), "run_id": 5}, 422)

    def test_a_load_list_is_read_into_loads_of_the_state(self):
        body = {"document": orchard(), "text": "name,amount,unit\nFan,300,VA\n", "panel": "barn-panel"}
        self.assertEqual(self.ask("loads/read", body)["loads"][0]["standing"], "added")
        existing = self.ask("loads/read", {**body, "state": "existing", "panel": "house-panel"})["loads"][0]
        self.assertEqual((existing["standing"], existing["enclosure_id"]), ("existing", "house-panel"))
        self.assertEqual(self.issue("loads/read", {**body, "text": "name,amount\nFan,many\n"}), "line 2, amount")
        self.assertEqual(self.issue("loads/read", {**body, "panel": None}), "line 2, panel")

    def test_a_read_load_list_makes_a_sound_document(self):
        body = {"document": orchard(), "text": "name,amount,unit\nFan,300,VA\nFan,300,VA\n", "panel": "barn-panel"}
        loads = self.ask("loads/read", body)["loads"]
        self.ask("check", {"document": changed(orchard(), lambda job: job["loads"].extend(loads))})

    def test_a_meter_record_is_summed_up(self):
        lines = "\n".join(
            f"2026-01-{day:02} 12:{quarter:02},{day}" for day in range(1, 4) for quarter in (0, 15, 30, 45)
        )
        found = self.ask("records/read", f"start,kw\n{lines}".encode())
        self.assertEqual((found["peak_kw"], found["peak_at"], len(found["daily"])), (3.0, "2026-01-03 12:00", 3))
        self.assertEqual(found["flowed_back"], None)
        self.assertIn("missing", found["warnings"][0])

    def test_a_broken_record_is_told(self):
        for raw in (b"", b"start,kwh\nx,1\n", b"<feed>", b"\x00" * 50):
            self.ask("records/read", raw, 422)

    def test_what_another_edition_changes(self):
        found = self.ask("editions/compare", {"document": orchard(), "edition": "2020"})
        self.assertEqual((found["before"], found["after"]), ("2023", "2020"))
        self.assertTrue(found["sections"])
        refused = self.ask("editions/compare", {"document": orchard(), "edition": "1999"}, 422)
        self.assertEqual(refused["error"], "unknown_edition")

    def test_a_document_that_cannot_be_read_is_refused_by_each(self):
        broken = changed(orchard(), lambda job: thing(job, "runs", "to-barn").update(length_ft=-1))
        for path, more in (
            ("levels", {}),
            ("runs/compare", {"run_id": "to-barn"}),
            ("loads/read", {"text": "amount\n1\n", "panel": "barn-panel"}),
            ("editions/compare", {"edition": "2020"}),
        ):
            with self.subTest(path):
                self.assertEqual(self.issue(path, {"document": broken, **more}), "runs.to-barn.length_ft")


class Files(WithDatabase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.owner = Client(cls.app(), "owner@east.invalid")

    def job(self, document):
        made = self.owner.send("POST", "/api/jobs/import", document).get_json()
        return f"/api/jobs/{made['id']}"

    def test_the_load_list_comes_back(self):
        address = self.job(bakery())
        answer = self.owner.get(f"{address}/loads.csv")
        self.assertIn("bakery-at-millrace-yard-loads.csv", answer.headers["Content-Disposition"])
        rows = list(csv.DictReader(io.StringIO(answer.data.decode())))
        self.assertEqual(len(rows), len(bakery()["loads"]))
        self.assertEqual({row["state"] for row in rows}, {"existing", "proposed"})

    def test_the_load_sheet_opens(self):
        answer = self.owner.get(f"{self.job(bakery())}/loads.xlsx")
        book = load_workbook(io.BytesIO(answer.data))
        self.assertEqual(book.sheetnames[0], "Load sheet")
        self.assertIn("Kitchen panel", book.sheetnames)

    def test_a_job_without_answers_still_gives_its_files(self):
        empty = {"format": "nelvor-job", "version": 3, "name": "Empty", "settings": {"edition": "2023"}}
        unknown = changed(orchard(), lambda job: job["sources"][0].update(system=None))
        for document in (empty, unknown):
            address = self.job(document)
            for name in ("loads.csv", "loads.xlsx", "permit.pdf", "labels.pdf", "bonds.pdf", "signs.pdf", "export"):
                self.assertEqual(self.owner.get(f"{address}/{name}").status_code, 200, name)

    def test_a_job_of_version_1_is_taken_and_kept_in_the_present_one(self):
        older = changed(orchard(), lambda job: job.update(version=1))
        self.assertEqual(json.loads(self.owner.get(f"{self.job(older)}/export").data)["version"], VERSION)
