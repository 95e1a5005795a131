import json
import unittest
import uuid
from unittest import mock

from sqlalchemy import inspect, select, text
from sqlalchemy.exc import DBAPIError

from nelvor.demo import DEMO_JOBS
from nelvor.errors import (
    BadInput,
    Busy,
    Conflict,
    NotFound,
    NotSignedIn,
    Refused,
    SaveReused,
    TooManyTries,
    UnknownEdition,
)
from nelvor.model.changes.operations import Operation, Put, PutSetting
from nelvor.model.field_log import FieldEntry
from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.summary import signed_summary
from nelvor.store import field_log, jobs, members
from nelvor.store.demo import add_demo
from nelvor.store.judgements import judge
from nelvor.store.packing import packed
from nelvor.store.tables import HistoryEntry, Member, Revision, SignInFailure
from tests.support.jobs import orchard, thing
from tests.support.server import PASSWORD, WithDatabase


def length(feet: float, run: str = "to-barn") -> list[Operation]:
    return [Put(list="runs", id=run, field="length_ft", value=feet)]


def answers(job, revision):
    return signed_summary(check(jobs.document_of(revision)))


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

    def save(self, operations, base, save_id=None, member=None):
        wanted = jobs.Save(base, save_id or str(uuid.uuid4()), "Edit", operations)
        return jobs.save(self.session, member or self.owner, str(self.job.id), wanted)

    def newest(self):
        return jobs.document_of(jobs.find_revision(self.session, self.job, self.job.head))

    def test_each_save_appends_a_revision(self):
        revision = self.save(length(200.0), base=1)
        self.assertEqual((revision.number, revision.edition, self.job.head), (2, "2023", 2))
        self.assertEqual([item.number for item in jobs.list_revisions(self.session, self.job)], [2, 1])

    def test_answers_are_appended_after_the_commit_and_signed(self):
        revision = self.save(length(200.0), base=1)
        self.assertIsNone(jobs.judgement_of(self.session, revision))
        self.session.commit()
        judge(self.database.sessions, revision.id, answers)
        found = jobs.judgement_of(self.session, revision)
        self.assertEqual(found.answers["signature"]["edition"], "2023")
        self.assertEqual(found.answers["answers"]["run"]["to-barn"]["device"], "125 A")
        judge(self.database.sessions, revision.id, answers)

    def test_a_revision_that_nobody_could_judge_now_stays_without_answers(self):
        revision = self.save(length(200.0), base=1)
        self.session.commit()
        with self.assertRaises(Busy):
            judge(self.database.sessions, revision.id, mock.Mock(side_effect=Busy("later")))
        self.assertIsNone(jobs.judgement_of(self.session, revision))

    def test_what_was_never_committed_is_not_taken_for_the_revision_of_its_number(self):
        """A save that is rolled back leaves its number to another one."""
        self.session.commit()
        lost = self.save(length(201.0), base=1)
        self.session.rollback()
        self.assertIsNone(jobs.made_from(self.job.id, lost.number))
        kept = self.save(length(202.0), base=1)
        self.session.commit()
        self.assertEqual(
            (kept.number, jobs.known_job(self.session, self.job, kept.number).document), (2, longer(202.0))
        )
        base, (put,) = jobs.made_from(self.job.id, kept.number)
        self.assertEqual((base, put.value), (1, 202.0))

    def test_a_document_is_kept_though_its_check_fails(self):
        revision = self.save(length(200.0), base=1)
        self.session.commit()
        with self.assertLogs(level="ERROR"):
            judge(self.database.sessions, revision.id, mock.Mock(side_effect=ZeroDivisionError))
        found = jobs.judgement_of(self.session, revision)
        self.assertEqual((found.failure, found.answers), ("ZeroDivisionError", {}))
        self.assertEqual(self.newest(), longer(200.0))

    def test_listing_revisions_reads_no_document(self):
        self.save(length(200.0), base=1)
        self.session.flush()
        self.session.expire_all()
        for revision in jobs.list_revisions(self.session, self.job):
            self.assertIn("packed", inspect(revision).unloaded)

    def test_a_document_comes_back_as_it_was_saved(self):
        revision = self.save(length(0.1), base=1)
        self.assertEqual(jobs.document_of(revision), longer(0.1))

    def test_a_save_whose_acknowledgement_was_lost_is_not_doubled(self):
        first = self.save(length(200.0), base=1, save_id="same-save-id")
        again = self.save(length(200.0), base=1, save_id="same-save-id")
        self.assertEqual((first.number, again.number, self.job.last_number), (2, 2, 2))

    def test_an_id_belongs_to_one_content_for_ever(self):
        self.save(length(200.0), base=1, save_id="same-save-id")
        with self.assertRaises(SaveReused):
            self.save(length(201.0), base=1, save_id="same-save-id")
        self.assertEqual(self.newest(), longer(200.0))

    def test_two_saves_that_do_not_collide_are_joined(self):
        self.save(length(200.0), base=1)
        joined = self.save(length(95.0, "to-green"), base=1)
        self.assertEqual((joined.kind, joined.base, joined.met, self.job.head), ("joined", 1, 2, 3))
        lengths = {run.id: run.length_ft for run in self.newest().runs}
        self.assertEqual((lengths["to-barn"], lengths["to-green"]), (200, 95))
        came = [(item.id, item.field, item.after) for item in jobs.what_came(self.session, self.job, joined)]
        self.assertEqual(came, [("to-barn", "length_ft", 200)])

    def test_two_fields_of_one_run_are_joined(self):
        self.save([Put(list="runs", id="to-house", field="cover_in", value=30.0, proposed=True)], base=1)
        self.save([Put(list="runs", id="to-house", field="hot_size", value="4/0", proposed=True)], base=1)
        run = next(run for run in self.newest().runs if run.id == "to-house")
        self.assertEqual(run.proposed, {"cover_in": 30.0, "hot_size": "4/0"})

    def collide(self, save_id=None):
        with self.assertRaises(Conflict) as caught:
            self.save([*length(150.0), *length(95.0, "to-green")], base=1, save_id=save_id)
        return caught.exception

    def test_what_collides_is_kept_as_a_sibling_and_told_alone(self):
        self.save(length(200.0), base=1)
        conflict = self.collide()
        self.assertEqual((conflict.mine, conflict.theirs, self.job.head), (3, 2, 2))
        (collision,) = conflict.collisions
        told = [collision[name] for name in ("id", "field", "base", "mine", "theirs", "name")]
        self.assertEqual(told, ["to-barn", "length_ft", 180, 150, 200, "Disconnect to barn"])
        self.assertEqual([(item.id, item.value) for item in conflict.joining], [("to-green", 95)])
        self.assertEqual([(item.id, item.value) for item in collision["taking_mine"]], [("to-barn", 150)])
        sibling = jobs.find_revision(self.session, self.job, 3)
        self.assertEqual(sibling.kind, "sibling")
        self.assertEqual({run.id: run.length_ft for run in jobs.document_of(sibling).runs}["to-barn"], 150)

    def test_a_collision_whose_answer_was_lost_is_answered_the_same_again(self):
        self.save(length(200.0), base=1)
        first = self.collide("same-save-id")
        self.save(length(210.0), base=2)
        self.assertEqual(vars(self.collide("same-save-id")), vars(first))
        self.assertEqual(self.job.last_number, 4)

    def test_operations_that_fit_nothing_save_nothing(self):
        with self.assertRaises(BadInput):
            self.save([Put(list="runs", id="nothing", field="length_ft", value=1.0)], base=1)
        with self.assertRaises(BadInput):
            self.save(length(-1.0), base=1)
        self.assertEqual(self.job.last_number, 1)

    def test_the_log_of_the_site_is_only_added_to(self):
        entry = FieldEntry(thing_id="to-barn", kind="torque", value=250.0, unit="lb-in")
        field_log.append(self.session, self.owner, self.job, [entry])
        field_log.append(self.session, self.owner, self.job, [entry])
        self.assertEqual(field_log.entries(self.session, self.job), [entry, entry])
        with self.assertRaises(Refused):
            field_log.append(self.session, self.reviewer, self.job, [entry])

    def test_restoring_appends_and_rewrites_nothing(self):
        self.save(length(200.0), base=1)
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
            "update judgements set failure = 'x'",
            "delete from field_log",
        ):
            with self.subTest(statement), self.assertRaises(DBAPIError):
                self.session.execute(text(statement))
            self.session.rollback()

    def test_every_change_leaves_a_line_of_history(self):
        self.save(length(200.0), base=1)
        jobs.restore(self.session, self.owner, str(self.job.id), 1)
        lines = self.session.scalars(
            select(HistoryEntry).where(HistoryEntry.job_id == self.job.id).order_by(HistoryEntry.id)
        )
        self.assertEqual([line.action for line in lines], ["created", "saved", "restored"])

    def test_a_reviewer_reads_and_does_not_write(self):
        self.assertEqual(jobs.find_job(self.session, self.reviewer, str(self.job.id)).id, self.job.id)
        for attempt in (
            lambda: self.save(length(1.0), 1, member=self.reviewer),
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
        with self.assertRaises(UnknownEdition):
            self.save([PutSetting(field="edition", value="1999")], base=1)
        self.session.rollback()
        self.assertEqual(self.session.scalars(select(Revision).where(Revision.job_id == self.job.id)).all(), [])

    def test_a_missing_revision_is_not_found(self):
        with self.assertRaises(NotFound):
            jobs.find_revision(self.session, self.job, 99)

    def test_a_stored_text_that_was_spoilt_is_refused_not_guessed(self):
        with self.assertRaises(BadInput):
            jobs.document_of(Revision(packed=packed(json.dumps({"format": "nelvor-job"}))))

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
        for _ in range(members.FAILURES_ALLOWED["pair"]):
            with self.assertRaises(NotSignedIn):
                self.attempt("wrong")
        with self.assertRaises(TooManyTries):
            self.attempt(PASSWORD)
        self.assertEqual(self.attempt(PASSWORD, "reviewer@west.invalid").email, "reviewer@west.invalid")
        self.assertIsNotNone(self.attempt(PASSWORD, peer="127.0.0.9"))  # from elsewhere the member is not locked out

    def test_old_failures_are_forgotten(self):
        for _ in range(members.FAILURES_ALLOWED["pair"]):
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
