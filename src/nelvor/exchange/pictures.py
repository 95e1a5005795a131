"""Pictures taken on site: read, turned upright, made small, and cleared of all that a camera writes beside the picture."""

from __future__ import annotations

import struct
import warnings
from io import BytesIO
from typing import NoReturn

from PIL import Image, ImageOps, UnidentifiedImageError

from nelvor.errors import BadInput, Issue

LARGEST_SENT_BYTES = 20 * 1024 * 1024
LARGEST_KEPT_BYTES = 300 * 1024
MOST_PIXELS = 120_000_000
LONGEST_SIDE = 1600
KIND = "image/jpeg"
QUALITIES = (85, 75, 65, 55)
SMALLER = 0.8
DAMAGE = (
    *(OSError, SyntaxError, ValueError, EOFError, OverflowError, Image.DecompressionBombError),
    *(struct.error, KeyError, IndexError, TypeError),  # a torn tag of the camera
)


def kept_picture(raw: bytes) -> bytes:
    """Return a picture as it is kept: a JPEG, upright, 1600 pixels at most, 300 kB at most, without place, time or camera.

    Raises:
        BadInput: neither JPEG nor PNG, damaged, or larger than what is read.
    """
    if len(raw) > LARGEST_SENT_BYTES:
        most = LARGEST_SENT_BYTES // 1024 // 1024
        _refuse("too_large", f"the picture is larger than {most} MB.", "Send a smaller one.")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # what a camera wrote wrongly beside the picture is left out anyway
            return _small(_upright(raw))
    except UnidentifiedImageError:
        remedy = "Set the camera to JPEG, or save the picture as JPEG or PNG."
        _refuse("no_picture", "this is neither a JPEG nor a PNG picture.", remedy)
    except DAMAGE:
        _refuse("damaged_picture", "the picture is damaged and cannot be read to its end.", "Take or save it again.")


def _refuse(code: str, reason: str, remedy: str) -> NoReturn:
    raise BadInput([Issue(code, "picture", reason, remedy)])


def _upright(raw: bytes) -> Image.Image:
    image: Image.Image = Image.open(BytesIO(raw), formats=("JPEG", "PNG"))
    if image.width * image.height > MOST_PIXELS:
        _refuse("too_many_pixels", f"the picture has more than {MOST_PIXELS:,} pixels.", "Send a smaller one.")
    image.draft("RGB", (LONGEST_SIDE, LONGEST_SIDE))
    turned = ImageOps.exif_transpose(image)
    turned.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
    whole = turned.convert("RGBA")
    white = Image.new("RGB", whole.size, "white")
    white.paste(whole, mask=whole.getchannel("A"))
    return white


def _small(image: Image.Image) -> bytes:
    """Return the pixels alone as JPEG, less fine or less large until they fit."""
    while True:
        for quality in QUALITIES:
            out = BytesIO()
            image.save(out, "JPEG", quality=quality, optimize=True)
            if out.tell() <= LARGEST_KEPT_BYTES:
                return out.getvalue()
        image = image.resize((max(1, int(image.width * SMALLER)), max(1, int(image.height * SMALLER))))
