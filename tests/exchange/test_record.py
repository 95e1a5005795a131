import unittest
from datetime import datetime, timedelta

from nelvor.errors import BadInput
from nelvor.exchange.interval import read_record
from nelvor.exchange.record_summary import summary

START = datetime(2025, 11, 1)
ESPI = "http://naesb.org/espi"


def csv_of(values, minutes=15, head="start,kwh", factor=1.0) -> bytes:
    lines = [head]
    for number, kw in enumerate(values):
        moment = START + timedelta(minutes=minutes * number)
        lines.append(f"{moment:%Y-%m-%d %H:%M},{kw * minutes / 60 * factor}")
    return "\n".join(lines).encode()


def xml_of(watt_hours, seconds=900, flow="1", unit="72", power="0") -> bytes:
    start = int((START - datetime(1970, 1, 1)).total_seconds())
    readings = "".join(
        f"<IntervalReading><timePeriod><duration>{seconds}</duration><start>{start + seconds * number}</start>"
        f"</timePeriod><value>{value}</value></IntervalReading>"
        for number, value in enumerate(watt_hours)
    )
    return (
        f'<?xml version="1.0"?><feed xmlns="http://www.w3.org/2005/Atom"><entry><content><ReadingType xmlns="{ESPI}">'
        f"<flowDirection>{flow}</flowDirection><powerOfTenMultiplier>{power}</powerOfTenMultiplier><uom>{unit}</uom>"
        f'</ReadingType></content></entry><entry><content><IntervalBlock xmlns="{ESPI}">{readings}</IntervalBlock>'
        "</content></entry></feed>"
    ).encode()


class Records(unittest.TestCase):
    def refused(self, raw: bytes) -> str:
        with self.assertRaises(BadInput) as caught:
            read_record(raw)
        self.assertTrue(caught.exception.issues[0].remedy)
        return caught.exception.issues[0].code

    def test_the_peak_and_when_it_was(self):
        found = summary(read_record(csv_of([1, 2, 7.5, 3])))
        self.assertEqual((found.peak_kw, found.peak_at), (7.5, START + timedelta(minutes=30)))
        self.assertEqual((found.interval_minutes, found.readings, found.missing_percent), (15, 4, 0))

    def test_units_of_the_column(self):
        for head, factor in (("start,kWh", 1), ("start,Wh", 1000), ("start,kW", 4), ("start,W", 4000)):
            with self.subTest(head):
                self.assertAlmostEqual(summary(read_record(csv_of([1, 8], head=head, factor=factor))).peak_kw, 8)
        self.assertEqual(self.refused(csv_of([1, 2], head="start,therms")), "columns")

    def test_readings_shorter_than_a_quarter_hour_are_averaged(self):
        found = summary(read_record(csv_of([9, 0, 0, 2, 2, 2], minutes=5)))
        self.assertEqual((found.peak_kw, found.interval_minutes), (3, 15))

    def test_hours_are_kept_and_told(self):
        found = summary(read_record(csv_of([1, 2, 3], minutes=60)))
        self.assertEqual(found.interval_minutes, 60)
        self.assertIn("longer than 15 minutes", found.warnings[0])

    def test_a_gap_is_told(self):
        lines = csv_of([1] * 100).split(b"\n")
        found = summary(read_record(b"\n".join(lines[:40] + lines[60:])))
        self.assertAlmostEqual(found.missing_percent, 20, places=2)
        self.assertIn("missing", found.warnings[0])

    def test_energy_that_flows_back_is_told(self):
        self.assertTrue(summary(read_record(csv_of([1, -2, 3]))).flowed_back)
        self.assertIsNone(summary(read_record(csv_of([1, 2, 3]))).flowed_back)

    def test_times_of_day_with_and_without_seconds_or_zone(self):
        for text in ("2026-01-31 17:45:00", "2026-01-31T17:45", "2026-01-31T17:45:00Z", "2026-01-31T12:45:00-05:00"):
            raw = f"start,kw\n{text},1\n2026-02-01 17:45,2\n".encode()
            self.assertEqual(read_record(raw).readings[0].start, datetime(2026, 1, 31, 17, 45), text)

    def test_what_is_no_record(self):
        self.assertEqual(self.refused(b""), "columns")
        self.assertEqual(self.refused(b"start,kwh\n"), "too_short")
        self.assertEqual(self.refused(b"start,kwh\nyesterday,1\n"), "bad_time")
        self.assertEqual(self.refused(b"start,kwh\n2026-01-31 17:45,much\n"), "not_a_number")
        self.assertEqual(self.refused(b"start,kwh\n2026-01-31 17:45,nan\n"), "not_a_number")
        self.assertEqual(self.refused(b"start,kwh\n2026-01-31 17:45\n"), "columns")
        self.assertEqual(self.refused(b"\xff\xfestart"), "not_utf8")

    def test_xml_of_energy_data(self):
        found = summary(read_record(xml_of([500, 2500, 1000])))
        self.assertEqual((found.peak_kw, found.peak_at), (10.0, START + timedelta(minutes=15)))
        self.assertFalse(found.flowed_back)
        self.assertEqual(summary(read_record(xml_of([5, 25], power="2"))).peak_kw, 10)

    def test_xml_with_a_reverse_flow(self):
        feed = xml_of([500, 700]).replace(b"</feed>", xml_of([0, 300], flow="19").split(b'Atom">')[1])
        record = read_record(feed)
        self.assertTrue(record.flowed_back)
        self.assertEqual(len(record.readings), 2)

    def test_xml_that_is_refused(self):
        self.assertEqual(self.refused(xml_of([1, 2], unit="119")), "wrong_unit")
        self.assertEqual(self.refused(xml_of([1, 2])[:-40]), "not_xml")
        self.assertEqual(self.refused(xml_of(["x"])), "not_a_number")
        self.assertEqual(self.refused(xml_of([1], seconds=0)), "bad_time")
        self.assertEqual(self.refused(xml_of([])), "empty")
        entity = b'<?xml version="1.0"?><!DOCTYPE f [<!ENTITY a "b">]><feed>&a;</feed>'
        self.assertEqual(self.refused(entity), "not_allowed")

    def test_encodings_and_powers_that_are_refused(self):
        for encoding in ("utf-32", "nonsense", "hex", "idna"):
            head = f'<?xml version="1.0" encoding="{encoding}"?>'.encode()
            self.assertEqual(self.refused(head + b"<feed/>"), "not_xml", encoding)
        for power in ("²", "--5", "9" * 5000, "much"):
            self.assertEqual(self.refused(xml_of([1, 2], power=power)), "not_a_number", power[:5])

    def test_cells_and_times_beyond_reading_are_refused(self):
        self.assertEqual(self.refused(b"start,kwh\n" + b"1" * 140_000 + b",1\n"), "not_csv")
        self.assertEqual(self.refused(b"start,kwh\n0001-01-01T00:00:00+14:00,1\n"), "bad_time")

    def test_a_year_of_quarter_hours(self):
        found = summary(read_record(csv_of([1 + (number % 97) / 10 for number in range(35_040)])))
        self.assertEqual((found.readings, found.days, len(found.daily)), (35_040, 365, 365))
