from sqlalchemy import select, text
from sqlalchemy.exc import DBAPIError

from nelvor.errors import Refused, Stale
from nelvor.model.things import Amendment
from nelvor.store import local_rules
from nelvor.store.tables import HistoryEntry, LocalRules, Member
from tests.support.server import WithDatabase

RULE = Amendment(id="deeper", key="burial_cover_in", action="at_least", value=30.0, unit="in", source_note="County")


class LocalRulesOfAShop(WithDatabase):
    def setUp(self):
        self.session = self.database.sessions()
        self.addCleanup(self.session.close)
        self.owner = self.member("owner@east.invalid")

    def member(self, email):
        return self.session.scalar(select(Member).where(Member.email == email))

    def test_a_shop_begins_without_any(self):
        self.assertEqual(local_rules.newest(self.session, self.owner), (0, []))

    def test_each_change_appends_a_list_and_a_line_of_history(self):
        self.assertEqual(local_rules.replace(self.session, self.owner, [RULE], 0), 1)
        self.assertEqual(local_rules.replace(self.session, self.owner, [], 1), 2)
        self.assertEqual(local_rules.newest(self.session, self.owner), (2, []))
        kept = self.session.scalars(select(LocalRules).order_by(LocalRules.number)).all()
        self.assertEqual([len(item.rules) for item in kept], [1, 0])
        lines = self.session.scalars(select(HistoryEntry.detail).where(HistoryEntry.action == "local rules")).all()
        self.assertEqual(lines, ["list 1: 1 rules", "list 2: 0 rules"])

    def test_a_change_that_rests_on_an_older_list_is_refused_and_changes_nothing(self):
        local_rules.replace(self.session, self.owner, [RULE], 0)
        with self.assertRaises(Stale):
            local_rules.replace(self.session, self.owner, [], 0)
        self.assertEqual(local_rules.newest(self.session, self.owner), (1, [RULE]))

    def test_a_reviewer_may_not_change_them_and_another_shop_does_not_see_them(self):
        with self.assertRaises(Refused):
            local_rules.replace(self.session, self.member("reviewer@east.invalid"), [RULE], 0)
        local_rules.replace(self.session, self.owner, [RULE], 0)
        self.assertEqual(local_rules.newest(self.session, self.member("owner@west.invalid")), (0, []))

    def test_a_list_is_never_rewritten(self):
        local_rules.replace(self.session, self.owner, [RULE], 0)
        with self.assertRaises(DBAPIError):
            self.session.execute(text("update local_rules set author = 'else'"))
