"""Pictures as a camera writes them, made up for tests."""

from __future__ import annotations

from io import BytesIO

from PIL import Image
from PIL.ExifTags import GPS, IFD, Base

PLACE = (12.0, 34.0, 56.0)
CAMERA = "Made-up camera 7"
TURNED_BY_A_QUARTER = 6


def as_taken(width: int = 800, height: int = 600, color: str = "teal", kind: str = "JPEG") -> bytes:
    """Return a picture with place, camera and a comment; it lies on its side, as cameras keep those held upright."""
    image = Image.new("RGB", (width, height), color)
    image.paste("white", (0, 0, width // 4, height // 4))
    exif = Image.Exif()
    exif[Base.Make], exif[Base.Orientation] = CAMERA, TURNED_BY_A_QUARTER
    place = exif.get_ifd(IFD.GPSInfo)
    place[GPS.GPSLatitudeRef], place[GPS.GPSLatitude] = "N", PLACE
    out = BytesIO()
    image.save(out, kind, exif=exif, comment=CAMERA)
    return out.getvalue()
