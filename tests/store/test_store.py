import json
import unittest
import uuid

from sqlalchemy import select, text
from sqlalchemy.exc import DBAPIError

from nelvor.demo import DEMO_JOBS
from nelvor.errors import BadInput, Conflict, NotFound, NotSignedIn, Refused, TooManyTries, UnknownEdition
from nelvor.model.parse import parse_value
from nelvor.store import jobs, members
from nelvor.store.demo import add_demo
from nelvor.store.tables import HistoryEntry, Member, Revision, SignInFailure
from tests.support.jobs import orchard, thing
from tests.support.server import PASSWORD, WithDatabase


def longer(feet: float):
    job = orchard()
    thing(job, "runs", "to-barn")["length_ft"] = feet
    return parse_value(job)


class Store(WithDatabase):
    def setUp(self):
        self.session = self.database.sessions()
        self.addCleanup(self.session.close)
        self.owner = self.session.scalar(select(Member).where(Member.email == "owner@east.invalid"))
        self.reviewer = self.session.scalar(select(Member).where(Member.email == "reviewer@east.invalid"))
        self.job = jobs.create_job(self.session, self.owner, parse_value(orchard()), "New")

    def save(self, document, base, save_id=None, member=None):
        return jobs.save(
            self.session, member or self.owner, str(self.job.id), document, base, save_id or str(uuid.uuid4()), "Edit"
        )

    def test_each_save_appends_a_revision_with_signed_answers(self):
        revision = self.save(longer(200.0), base=1)
        self.assertEqual((revision.number, self.job.head), (2, 2))
        self.assertEqual(revision.answers["signature"]["edition"], "2023")
        self.assertEqual(revision.answers["runs"]["to-barn"]["device"], "125 A")
        self.assertEqual([item.number for item in jobs.list_revisions(self.session, self.job)], [2, 1])

    def test_a_document_comes_back_as_it_was_saved(self):
        document = longer(0.1)
        revision = self.save(document, base=1)
        self.assertEqual(jobs.document_of(revision), document)

    def test_a_save_whose_acknowledgement_was_lost_is_not_doubled(self):
        first = self.save(longer(200.0), base=1, save_id="same-save-id")
        again = self.save(longer(200.0), base=1, save_id="same-save-id")
        self.assertEqual((first.number, again.number, self.job.last_number), (2, 2, 2))

    def test_the_later_of_two_saves_is_kept_as_a_sibling_and_told(self):
        self.save(longer(200.0), base=1)
        with self.assertRaises(Conflict) as caught:
            self.save(longer(150.0), base=1)
        conflict = caught.exception
        self.assertEqual((conflict.mine["number"], conflict.theirs["number"], self.job.head), (3, 2, 2))
        self.assertEqual(
            [(item["id"], item["before"], item["after"]) for item in conflict.differences], [("to-barn", 200, 150)]
        )
        sibling = jobs.find_revision(self.session, self.job, 3)
        self.assertEqual((sibling.kind, jobs.document_of(sibling)), ("sibling", longer(150.0)))

    def test_restoring_appends_and_rewrites_nothing(self):
        self.save(longer(200.0), base=1)
        restored = jobs.restore(self.session, self.owner, str(self.job.id), 1)
        self.assertEqual((restored.number, restored.kind, self.job.head), (3, "restored", 3))
        self.assertEqual(jobs.document_of(restored), parse_value(orchard()))
        self.assertEqual(jobs.document_of(jobs.find_revision(self.session, self.job, 2)), longer(200.0))

    def test_revisions_and_history_cannot_be_changed_even_by_hand(self):
        self.session.commit()
        for statement in (
            "update revisions set summary = 'x'",
            "delete from revisions",
            "update history set detail = 'x'",
            "delete from history",
        ):
            with self.subTest(statement), self.assertRaises(DBAPIError):
                self.session.execute(text(statement))
            self.session.rollback()

    def test_every_change_leaves_a_line_of_history(self):
        self.save(longer(200.0), base=1)
        jobs.restore(self.session, self.owner, str(self.job.id), 1)
        lines = self.session.scalars(
            select(HistoryEntry).where(HistoryEntry.job_id == self.job.id).order_by(HistoryEntry.id)
        )
        self.assertEqual([line.action for line in lines], ["created", "saved", "restored"])

    def test_a_reviewer_reads_and_does_not_write(self):
        self.assertEqual(jobs.find_job(self.session, self.reviewer, str(self.job.id)).id, self.job.id)
        for attempt in (
            lambda: self.save(longer(1.0), 1, member=self.reviewer),
            lambda: jobs.restore(self.session, self.reviewer, str(self.job.id), 1),
            lambda: jobs.create_job(self.session, self.reviewer, longer(1.0), "x"),
        ):
            with self.assertRaises(Refused):
                attempt()

    def test_another_shops_job_is_not_there(self):
        west = self.session.scalar(select(Member).where(Member.email == "owner@west.invalid"))
        for job_id in (str(self.job.id), "no-uuid", str(uuid.uuid4())):
            with self.assertRaises(NotFound):
                jobs.find_job(self.session, west, job_id)

    def test_an_unknown_edition_saves_nothing(self):
        job = orchard()
        job["settings"]["edition"] = "1999"
        with self.assertRaises(UnknownEdition):
            self.save(parse_value(job), base=1)
        self.session.rollback()
        self.assertEqual(self.session.scalars(select(Revision).where(Revision.job_id == self.job.id)).all(), [])

    def test_a_missing_revision_is_not_found(self):
        with self.assertRaises(NotFound):
            jobs.find_revision(self.session, self.job, 99)

    def test_a_stored_text_that_was_spoilt_is_refused_not_guessed(self):
        with self.assertRaises(BadInput):
            jobs.document_of(Revision(document=json.dumps({"format": "nelvor-job"})))

    def test_the_demo_is_added_once(self):
        for _ in range(2):
            add_demo(self.session)
        demo = members.demo_member(self.session)
        self.assertEqual(len(jobs.list_jobs(self.session, demo)), len(DEMO_JOBS))


class SigningIn(WithDatabase):
    def setUp(self):
        self.session = self.database.sessions()
        self.addCleanup(self.session.close)
        self.session.execute(text("delete from sign_in_failures"))

    def attempt(self, password, email="owner@east.invalid", peer="127.0.0.1"):
        return members.sign_in(self.session, email, password, peer)

    def test_passwords_are_hashed(self):
        member = self.session.scalar(select(Member))
        self.assertTrue(member.password_hash.startswith("$argon2"))
        self.assertNotIn(PASSWORD, member.password_hash)

    def test_the_right_password_in_any_case_of_the_email(self):
        self.assertEqual(self.attempt(PASSWORD, " Owner@East.Invalid ").email, "owner@east.invalid")

    def test_wrong_password_and_unknown_email_tell_the_same(self):
        messages = set()
        for email in ("owner@east.invalid", "nobody@east.invalid"):
            with self.assertRaises(NotSignedIn) as caught:
                self.attempt("wrong", email)
            messages.add(str(caught.exception))
        self.assertEqual(len(messages), 1)

    def test_failures_are_counted_in_the_database_and_close_the_door(self):
        for _ in range(members.FAILURES_ALLOWED):
            with self.assertRaises(NotSignedIn):
                self.attempt("wrong")
        with self.assertRaises(TooManyTries):
            self.attempt(PASSWORD)
        with self.assertRaises(TooManyTries):
            self.attempt(PASSWORD, peer="127.0.0.9")
        self.assertEqual(self.attempt(PASSWORD, "reviewer@west.invalid", "127.0.0.9").email, "reviewer@west.invalid")

    def test_old_failures_are_forgotten(self):
        for _ in range(members.FAILURES_ALLOWED):
            with self.assertRaises(NotSignedIn):
                self.attempt("wrong")
        self.session.execute(text("update sign_in_failures set at = at - interval '6 minutes'"))
        self.attempt(PASSWORD)
        self.assertEqual(self.session.scalars(select(SignInFailure)).all(), [])

    def test_a_hash_that_is_no_hash_lets_nobody_in(self):
        self.session.execute(text("update members set password_hash = 'plain' where email = 'reviewer@east.invalid'"))
        with self.assertRaises(NotSignedIn):
            self.attempt("plain", "reviewer@east.invalid")
        self.session.rollback()


if __name__ == "__main__":
    unittest.main()
