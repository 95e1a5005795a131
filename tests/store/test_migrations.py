"""A database of an older version is brought up with everything in it, and jobs of older documents open."""

import json
import unittest
import uuid
from pathlib import Path

from alembic import command
from sqlalchemy import select, text

from nelvor.model.document import VERSION
from nelvor.store import field_log, jobs, local_rules, members
from nelvor.store.database import migrate, migrations
from nelvor.store.tables import Member
from tests.support.server import FAST_HASHER, PASSWORD, Database

OLDER_DOCUMENT = Path(__file__).parents[1] / "model" / f"every_kind_v{VERSION - 1}.json"


class OlderDatabase(unittest.TestCase):
    def setUp(self):
        self.database = Database()
        self.addCleanup(self.database.drop)
        hasher, members.hasher = members.hasher, FAST_HASHER
        self.addCleanup(setattr, members, "hasher", hasher)
        command.downgrade(migrations(self.database.url), "0001")

    def older_job(self) -> str:
        """Add a job as the version before would have left it: its document of the version before."""
        with self.database.sessions.begin() as session:
            shop_id, job_id = uuid.uuid4(), uuid.uuid4()
            session.execute(text("insert into shops (id, name) values (:id, 'East')"), {"id": shop_id})
            session.execute(
                text(
                    "insert into members (id, shop_id, email, name, role, password_hash) "
                    "values (:id, :shop, 'owner@east.invalid', 'Owner', 'owner', :hash)"
                ),
                {"id": uuid.uuid4(), "shop": shop_id, "hash": FAST_HASHER.hash(PASSWORD)},
            )
            session.execute(
                text("insert into jobs (id, shop_id, name, head, last_number) values (:id, :shop, 'Old', 1, 1)"),
                {"id": job_id, "shop": shop_id},
            )
            answers = {"signature": {"edition": "2023", "rulebook": "2026.11.2", "engine": "0.2.0"}}
            row = {
                "id": uuid.uuid4(),
                "job": job_id,
                "document": OLDER_DOCUMENT.read_text(),
                "answers": json.dumps(answers),
            }
            session.execute(
                text(
                    "insert into revisions (id, job_id, number, kind, save_id, summary, document, answers, author) "
                    "values (:id, :job, 1, 'main', 'first save', 'New', :document, :answers, 'Owner')"
                ),
                row,
            )
            return str(job_id)

    def test_it_is_brought_up_with_its_jobs_and_members(self):
        job_id = self.older_job()
        migrate(self.database.url)
        with self.database.sessions() as session:
            owner = session.scalar(select(Member))
            job = jobs.find_job(session, owner, job_id)
            document = jobs.document_of(jobs.find_revision(session, job, 1))
            self.assertEqual(document.version, VERSION)
            self.assertEqual((job.edition, job.status, job.author), (document.settings.edition, "design", "Owner"))
            self.assertEqual(len(document.runs), len(json.loads(OLDER_DOCUMENT.read_text())["runs"]))
            self.assertEqual(local_rules.newest(session, owner), (0, []))
            revision = jobs.find_revision(session, job, 1)
            self.assertEqual(jobs.judgement_of(session, revision).answers["signature"]["engine"], "0.2.0")
            self.assertEqual([entry.thing_id for entry in field_log.entries(session, job)], ["to-panel"])

    def test_bringing_it_up_twice_changes_nothing(self):
        self.older_job()
        migrate(self.database.url)
        migrate(self.database.url)
        with self.database.sessions() as session:
            self.assertEqual(session.scalar(text("select count(*) from revisions")), 1)

    def test_all_the_way_down_and_up_again(self):
        command.downgrade(migrations(self.database.url), "base")
        migrate(self.database.url)
        with self.database.sessions() as session:
            self.assertEqual(session.scalar(text("select count(*) from shops")), 0)
