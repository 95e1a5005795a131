import io
import unittest

from pypdf import PdfReader
from reportlab.graphics.shapes import Line

from nelvor.demo import demo_job
from nelvor.model.parse import parse_value
from nelvor.paper.bonding import _picture, bond_cards
from nelvor.report.check import check
from nelvor.report.words import CAUTIONS, DECISION_WORDS
from nelvor.topology.names import name_of
from tests.support.arrangements import Arrangement


def text_of(document) -> str:
    pdf = bond_cards(check(document), check(document, "existing"), 4)
    return " ".join("\n".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages).split())


class BondCards(unittest.TestCase):
    def test_every_box_has_its_card_with_decision_section_and_cautions(self):
        document = demo_job()
        report, text = check(document), text_of(document)
        for enclosure_id, bond in report.bonds.items():
            self.assertIn(f"{name_of(report.site, enclosure_id)} {DECISION_WORDS[bond.decision]}", text)
            self.assertIn(f"Why: {bond.reason} {bond.section}", text)
        self.assertEqual(text.count("revision 4"), len(report.bonds))
        for caution in CAUTIONS:
            self.assertEqual(text.count(caution), len(report.bonds))

    def test_sizes_stand_on_the_card_of_the_disconnect(self):
        text = text_of(demo_job())
        card = text[text.index("Barn disconnect Bond here") :]
        self.assertIn("main bonding jumper 4 Cu; electrode conductor 4 Cu; to rods alone 6 Cu", card[:900])

    def test_a_box_says_in_which_position_it_is_live(self):
        gear = "U -hn- M -hn- S(main) -hng- T.n(solid) ; G(fixed,brk,out) -hng- T.s ; T.l -hng- P"
        text = text_of(parse_value(Arrangement(gear).job))
        self.assertRegex(text, r"Live in: Utility on; Utility away, t on its standby side")
        self.assertNotIn("Live in:", text_of(demo_job()))

    def test_what_is_to_be_done_comes_first(self):
        text = text_of(demo_job())
        card = text[text.index("Greenhouse panel Keep apart") :]
        self.assertLess(card.index("To be done, in this order: Greenhouse panel: look at"), card.index("Why:"))

    def test_a_job_without_boxes_gives_a_sheet_that_says_so(self):
        empty = parse_value({"format": "nelvor-job", "version": 4, "name": "Empty", "settings": {"edition": "2023"}})
        self.assertIn("No box is drawn yet.", text_of(empty))


class PictureOfABox(unittest.TestCase):
    def rungs(self, decision):
        lines = [shape for shape in _picture(decision).contents if isinstance(shape, Line)]
        return [shape for shape in lines if shape.x1 == shape.x2]

    def test_a_rung_where_joined_a_gap_where_apart(self):
        joined, apart = self.rungs("bond"), self.rungs("apart")
        self.assertEqual((len(joined), len(apart)), (1, 2))
        self.assertLess(max(apart[0].y1, apart[0].y2), min(apart[1].y1, apart[1].y2))

    def test_every_decision_is_drawn_one_way(self):
        drawn = {decision: len(self.rungs(decision)) for decision in DECISION_WORDS}
        self.assertEqual(drawn["unknown"], 0)
        self.assertEqual(drawn["no_neutral"], 0)
        self.assertEqual({key for key, count in drawn.items() if count == 2}, {"apart", "floating"})
        self.assertEqual(sum(count == 1 for count in drawn.values()), len(drawn) - 4)
