"""Pictures lose what a camera writes beside them and stay within their limits; a job and its pictures travel as one file."""

import io
import json
import random
import struct
import unittest
import zipfile
import zlib

from hypothesis import given
from hypothesis import strategies as st
from PIL import Image, PngImagePlugin
from PIL.ExifTags import IFD

from nelvor.errors import BadInput
from nelvor.exchange.job_archive import JOB, LIST, read_archive, write_archive
from nelvor.exchange.pictures import LARGEST_KEPT_BYTES, LONGEST_SIDE, kept_picture
from nelvor.model.pictures import PictureLine
from tests.support.jobs import orchard
from tests.support.pictures import CAMERA, as_taken


def opened(content):
    return Image.open(io.BytesIO(content))


class KeptPictures(unittest.TestCase):
    def test_place_camera_and_comment_are_gone_and_the_picture_stands_upright(self):
        for kind in ("JPEG", "PNG"):
            raw = as_taken(800, 600, kind=kind)
            self.assertTrue(opened(raw).getexif().get_ifd(IFD.GPSInfo), "the picture that is sent tells a place")
            kept = opened(kept_picture(raw))
            with self.subTest(kind):
                self.assertEqual((kept.format, kept.size), ("JPEG", (600, 800)))
                self.assertFalse(dict(kept.getexif()))
                self.assertNotIn("comment", kept.info)
                self.assertNotIn(CAMERA.encode(), kept_picture(raw))
                red, green, _ = kept.getpixel((590, 10))
                self.assertGreater(min(red, green), 240, "its white corner came to the right at the top")

    def test_a_picture_that_is_kept_is_kept_again_as_it_is_told(self):
        once = kept_picture(as_taken())
        self.assertEqual(opened(kept_picture(once)).size, opened(once).size)

    def test_large_pictures_become_small_ones(self):
        grains = random.Random(7)
        noise = Image.frombytes("RGB", (2400, 1800), grains.randbytes(2400 * 1800 * 3))
        out = io.BytesIO()
        noise.save(out, "JPEG", quality=95)
        kept = kept_picture(out.getvalue())
        self.assertLessEqual(len(kept), LARGEST_KEPT_BYTES)
        self.assertLessEqual(max(opened(kept).size), LONGEST_SIDE)
        self.assertEqual(opened(kept_picture(as_taken(3200, 200))).size, (100, LONGEST_SIDE))

    def test_what_is_clear_becomes_white(self):
        out = io.BytesIO()
        Image.new("RGBA", (20, 20), (0, 0, 0, 0)).save(out, "PNG")
        self.assertGreater(min(opened(kept_picture(out.getvalue())).getpixel((5, 5))), 250)

    def refused(self, raw):
        with self.assertRaises(BadInput) as caught:
            kept_picture(raw)
        return caught.exception.issues[0]

    def test_what_is_no_picture_is_refused_in_words(self):
        gif = io.BytesIO()
        Image.new("RGB", (5, 5)).save(gif, "GIF")
        for raw in (b"", b"x" * 500, gif.getvalue(), b"<svg/>", b"%PDF-1.7"):
            with self.subTest(raw[:8]):
                self.assertEqual(self.refused(raw).code, "no_picture")
        whole = as_taken(800, 600, kind="PNG")
        self.assertEqual(self.refused(whole[: len(whole) // 2]).code, "damaged_picture")
        self.assertEqual(self.refused(as_taken() + b"\0" * 20 * 1024 * 1024).code, "too_large")

    def test_a_small_file_of_very_many_pixels_is_not_unpacked(self):
        def chunk(name, content):
            return struct.pack(">I", len(content)) + name + content + struct.pack(">I", zlib.crc32(name + content))

        head = struct.pack(">IIBBBBB", 60_000, 60_000, 1, 0, 0, 0, 0)
        bomb = b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(bytes(10_000)))
        self.assertIn(self.refused(bomb).code, ("too_many_pixels", "damaged_picture"))
        text = PngImagePlugin.PngInfo()
        text.add_text("much", "x" * 50_000_000, zip=True)
        out = io.BytesIO()
        Image.new("RGB", (4, 4)).save(out, "PNG", pnginfo=text)
        self.assertEqual(self.refused(out.getvalue()).code, "damaged_picture")

    @given(st.data())
    def test_damage_anywhere_is_refused_or_read_and_never_anything_else(self, data):
        raw = bytearray(as_taken(60, 40, kind=data.draw(st.sampled_from(("JPEG", "PNG")))))
        for _ in range(data.draw(st.integers(1, 6))):
            raw[data.draw(st.integers(0, len(raw) - 1))] = data.draw(st.integers(0, 255))
        try:
            self.assertEqual(opened(kept_picture(bytes(raw))).format, "JPEG")
        except BadInput as refusal:
            self.assertTrue(refusal.issues)


class Archives(unittest.TestCase):
    def setUp(self):
        self.picture = kept_picture(as_taken())
        self.line = PictureLine(file="pictures/a-1.jpg", thing_id="house-panel", caption="Its label", author="A. Field")

    def test_a_job_and_its_pictures_come_back(self):
        raw = write_archive(json.dumps(orchard()), [(self.line, self.picture)])
        read = read_archive(raw)
        self.assertEqual(read.job.document.name, orchard()["name"])
        self.assertEqual(read.pictures, ((self.line, self.picture),))

    @given(st.data())
    def test_damage_anywhere_is_refused_or_read_and_never_anything_else(self, data):
        raw = bytearray(self.made(job=json.dumps(orchard()), list="[]"))
        for _ in range(data.draw(st.integers(1, 6))):
            raw[data.draw(st.integers(0, len(raw) - 1))] = data.draw(st.integers(0, 255))
        try:
            self.assertEqual(read_archive(bytes(raw)).pictures, ())
        except BadInput as refusal:
            self.assertTrue(refusal.issues)

    def made(self, **parts):
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
            for name, content in parts.items():
                archive.writestr({"job": JOB, "list": LIST}.get(name, name), content)
        return out.getvalue()

    def test_bad_files_are_refused_with_what_is_wrong(self):
        job = json.dumps(orchard())
        listed = json.dumps([self.line.model_dump(mode="json")])
        climbing = listed.replace("pictures/a-1.jpg", "../a.jpg")
        whole = write_archive(job, [(self.line, self.picture)])
        for name, raw, code, path in (
            ("no file at all", b"", "not_zip", ""),
            ("text", b"{}", "not_zip", ""),
            ("cut", whole[:-40], "not_zip", ""),
            ("changed", whole.replace(b"Adobe", b"Adobf").replace(self.picture[-9:], b"123456789"), "not_zip", ""),
            ("no job", self.made(list=listed), "part_missing", JOB),
            ("no list", self.made(job=job), "part_missing", LIST),
            ("no picture", self.made(job=job, list=listed), "part_missing", "pictures/a-1.jpg"),
            ("a path that climbs", self.made(job=job, list=climbing), "string_pattern_mismatch", "0.file"),
            ("a list of what is no list", self.made(job=job, list="{}"), "list_type", ""),
            ("too many", self.made(job=job, list=json.dumps([json.loads(listed)[0]] * 101)), "too_long", ""),
            ("a bomb", self.made(job=b" " * 11 * 1024 * 1024, list="[]"), "too_large", JOB),
        ):
            with self.subTest(name), self.assertRaises(BadInput) as caught:
                read_archive(raw)
            issue = caught.exception.issues[0]
            self.assertEqual((issue.code, issue.path), (code, path), name)
