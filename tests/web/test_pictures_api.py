"""Pictures of a job: kept cleared and once, by those who work on site, within limits; they travel and go with their job."""

import io
import uuid
import zipfile
from unittest import mock

from PIL import Image
from sqlalchemy import select

from nelvor.store import pictures
from nelvor.store.tables import Picture
from tests.support.jobs import orchard
from tests.support.pictures import CAMERA, as_taken
from tests.support.server import Client, WithDatabase


class PicturesApi(WithDatabase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.application = cls.app()
        cls.owner = Client(cls.application, "owner@east.invalid")

    def setUp(self):
        made = self.owner.send("POST", "/api/jobs/import", orchard()).get_json()
        self.job, self.name = f"/api/jobs/{made['id']}", made["document"]["name"]

    def add(self, raw=None, thing="house-panel", client=None, job=None):
        return (client or self.owner).send("POST", f"{job or self.job}/pictures/of/{thing}", raw or as_taken())

    def listed(self, job=None):
        return self.owner.get(f"{job or self.job}/pictures").get_json()["pictures"]

    def test_a_picture_is_kept_cleared_given_words_and_taken_away(self):
        answer = self.add()
        self.assertEqual(answer.status_code, 201)
        told = answer.get_json()["pictures"][0]
        self.assertEqual((told["thing_id"], told["caption"], told["author"]), ("house-panel", "", "east owner"))
        address = f"{self.job}/pictures/{told['id']}"
        read = self.owner.get(address)
        self.assertEqual((read.mimetype, read.headers["X-Content-Type-Options"]), ("image/jpeg", "nosniff"))
        self.assertEqual(len(read.data), told["size"])
        self.assertEqual(Image.open(io.BytesIO(read.data)).size, (600, 800))
        self.assertNotIn(CAMERA.encode(), read.data)
        said = self.owner.send("PUT", address, {"caption": "Label of the bus"}).get_json()["pictures"]
        self.assertEqual(said[0]["caption"], "Label of the bus")
        self.assertEqual(self.owner.send("PUT", address, {"caption": "x" * 201}).status_code, 422)
        self.assertEqual(self.owner.send("DELETE", address).get_json()["pictures"], [])
        self.assertEqual(self.owner.get(address).status_code, 404)
        self.assertEqual(self.owner.send("DELETE", address).status_code, 404)

    def test_the_same_picture_sent_again_is_kept_once(self):
        for _ in range(2):
            self.assertEqual(self.add().status_code, 201)
        self.assertEqual(len(self.listed()), 1)
        self.add(thing="disc-house")
        self.assertEqual([item["thing_id"] for item in self.listed()], ["house-panel", "disc-house"])

    def test_those_of_another_job_and_another_shop_are_not_there(self):
        mine = self.add().get_json()["pictures"][0]["id"]
        other = self.owner.send("POST", "/api/jobs/import", orchard()).get_json()["id"]
        self.assertEqual(self.owner.get(f"/api/jobs/{other}/pictures/{mine}").status_code, 404)
        stranger = Client(self.application, "owner@west.invalid")
        self.assertEqual(stranger.get(f"{self.job}/pictures/{mine}").status_code, 404)
        self.assertEqual(self.add(client=stranger).status_code, 404)
        self.assertEqual(self.add(client=Client(self.application, "reviewer@east.invalid")).status_code, 403)
        self.assertEqual(Client(self.application).get(f"{self.job}/pictures/{mine}").status_code, 401)

    def test_what_cannot_be_kept_is_refused_and_nothing_is_lost(self):
        self.add()
        for thing, raw, code in (
            ("house-panel", b"no picture", "no_picture"),
            ("No id", as_taken(), "no_id"),
        ):
            answer = self.add(raw, thing)
            self.assertEqual((answer.status_code, answer.get_json()["issues"][0]["code"]), (422, code))
        self.assertEqual(self.add(b"x" * (20 * 1024 * 1024 + 1)).status_code, 413)
        self.assertEqual(len(self.listed()), 1)

    def test_there_is_a_limit_for_a_box_and_for_the_job(self):
        with (
            mock.patch.object(pictures, "MOST_PICTURES_OF_A_THING", 2),
            mock.patch.object(pictures, "MOST_PICTURES", 3),
        ):
            self.assertEqual([self.add(as_taken(100 + wider)).status_code for wider in range(3)], [201, 201, 422])
            reason = self.add(as_taken(300)).get_json()["issues"][0]["reason"]
            self.assertIn("2 pictures of this box", reason)
            self.assertEqual(self.add(thing="disc-house").status_code, 201)
            self.assertIn("3 pictures of this job", self.add(thing="barn-panel").get_json()["issues"][0]["reason"])

    def test_they_travel_with_the_job_and_arrive_as_they_were(self):
        first = self.add().get_json()["pictures"][0]
        self.owner.send("PUT", f"{self.job}/pictures/{first['id']}", {"caption": "Door, worn"})
        self.add(as_taken(90, 90), "disc-house")
        exported = self.owner.get(f"{self.job}/export.zip")
        self.assertIn(".zip", exported.headers["Content-Disposition"])
        self.assertEqual(len(zipfile.ZipFile(io.BytesIO(exported.data)).namelist()), 4)
        again = self.owner.send("POST", "/api/jobs/import.zip", exported.data)
        self.assertEqual(again.status_code, 201, again.get_json())
        arrived = self.listed(f"/api/jobs/{again.get_json()['id']}")
        facts = ("thing_id", "caption", "author", "at")
        self.assertEqual(
            [[item[fact] for fact in facts] for item in arrived],
            [[item[fact] for fact in facts] for item in self.listed()],
        )
        self.assertEqual(again.get_json()["document"], self.owner.get(self.job).get_json()["document"])

    def test_pictures_that_come_in_a_file_are_cleared_too(self):
        job = self.owner.get(f"{self.job}/export").data
        listed = b'[{"file": "pictures/x.jpg", "thing_id": "house-panel"}]'
        for content, status in ((as_taken(), 201), (b"no picture", 422)):
            out = io.BytesIO()
            with zipfile.ZipFile(out, "w") as archive:
                for name, part in (("job.json", job), ("pictures.json", listed), ("pictures/x.jpg", content)):
                    archive.writestr(name, part)
            before = len(self.owner.get("/api/jobs").get_json()["jobs"])
            answer = self.owner.send("POST", "/api/jobs/import.zip", out.getvalue())
            self.assertEqual(answer.status_code, status)
            after = self.owner.get("/api/jobs").get_json()["jobs"]
            self.assertEqual(len(after) - before, status == 201)
            if status == 201:
                address = f"/api/jobs/{answer.get_json()['id']}/pictures"
                kept = self.owner.get(f"{address}/{self.owner.get(address).get_json()['pictures'][0]['id']}").data
                self.assertNotIn(CAMERA.encode(), kept)

    def test_they_go_with_their_job(self):
        self.add()
        self.assertEqual(self.owner.send("DELETE", self.job, {"name": self.name}).status_code, 200)
        with self.database.sessions() as session:
            job = uuid.UUID(self.job.rsplit("/", 1)[1])
            self.assertIsNone(session.scalar(select(Picture.id).where(Picture.job_id == job)))
