"""The positions in which a site can stand: their names, what is live in each, and whence it is fed."""

import unittest

from nelvor.model.parse import parse_value
from nelvor.report.check import check
from nelvor.report.positions_played import positions_out
from nelvor.topology.positions import MOST_POSITIONS, positions
from nelvor.topology.site import Site
from tests.support.arrangements import Arrangement
from tests.support.jobs import orchard

GEAR = "U -hn- M -hn- S(main) -hng- T.n(solid) ; G(fixed,brk,out) -hng- T.s ; T.l -hng- P ; S -hng- Q"
SLIDE = "U -hn- M -hn- P.n(interlock,main) ; G(portable,floating) -hng- Q(inlet) -hng- P.s ; P -hng- P2"


def played(line):
    return {item.name: item for item in positions_out(check(parse_value(Arrangement(line).job)))}


class Positions(unittest.TestCase):
    def test_a_site_that_nothing_switches_over_has_none(self):
        self.assertEqual(positions(Site(parse_value(orchard())), "proposed"), [])

    def test_transfer_gear_on_either_side(self):
        day, standby = played(GEAR).values()
        self.assertEqual((day.name, standby.name), ("Utility on", "Utility away, t on its standby side"))
        self.assertEqual(day.live, ["m", "p", "q", "s", "t", "u"])
        self.assertEqual(standby.live, ["g", "p", "t"])
        self.assertEqual(day.fed_from["t"], ["s"])
        self.assertEqual(standby.fed_from, {"p": ["t"], "t": ["g"]})
        self.assertEqual(standby.runs, ["g-to-t", "t-to-p"])
        self.assertEqual((day.closed, standby.closed), (["t-on-n"], ["t-on-s"]))

    def test_an_interlock_opens_the_main_and_what_lies_ahead_of_it_is_dead(self):
        day, standby = played(SLIDE).values()
        self.assertEqual(day.live, ["m", "p", "p2", "u"])
        self.assertEqual(standby.live, ["g", "p", "p2", "q"])
        self.assertEqual(standby.fed_from["p"], ["q"])

    def test_the_bonds_of_the_live_system_are_told(self):
        day, standby = played(GEAR).values()
        for position, name in ((day, "Utility"), (standby, "g")):
            self.assertEqual([system.sources for system in position.systems], [[name]])

    def test_with_much_gear_the_first_positions_are_told(self):
        line = "U -hn- S(main) ; " + " ; ".join(
            f"S -hng- T{n}.n(solid) ; G{n}(fixed,brk) -hng- T{n}.s ; T{n}.l -hng- P{n}" for n in range(1, 6)
        )
        found = positions(Site(parse_value(Arrangement(line).job)), "proposed")
        self.assertEqual(len(found), MOST_POSITIONS)
        self.assertEqual(len({item.name for item in found}), MOST_POSITIONS)


if __name__ == "__main__":
    unittest.main()
