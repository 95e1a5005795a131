"""A job with its pictures as one ZIP file: the job document, the pictures, and a list that tells what each one shows."""

from __future__ import annotations

import json
import struct
import zipfile
import zlib
from collections.abc import Iterable
from dataclasses import dataclass
from io import BytesIO
from typing import Annotated, Any, NoReturn

from pydantic import Field, TypeAdapter, ValidationError

from nelvor.errors import BadInput, Issue
from nelvor.exchange.pictures import LARGEST_SENT_BYTES
from nelvor.model.parse import LARGEST_DOCUMENT_BYTES, JobFile, issues_of, parse_job, read_json
from nelvor.model.pictures import MOST_PICTURES, PictureLine

LARGEST_ARCHIVE_BYTES = 48 * 1024 * 1024
DAMAGE = (
    *(zipfile.BadZipFile, zlib.error, struct.error, EOFError, OSError, ValueError),
    *(NotImplementedError, RuntimeError),  # packed or locked in a way that is not read here
)
JOB, LIST = "job.json", "pictures.json"


LINES = TypeAdapter(Annotated[list[PictureLine], Field(max_length=MOST_PICTURES)])


@dataclass(frozen=True)
class JobArchive:
    """A job as it was read, and its pictures with what the list tells of each."""

    job: JobFile
    pictures: tuple[tuple[PictureLine, bytes], ...]


def write_archive(job_text: str, pictures: Iterable[tuple[PictureLine, bytes]]) -> bytes:
    """Return the ZIP file of a job's text, with its log on site, and its pictures."""
    pictures, out = list(pictures), BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr(JOB, job_text, zipfile.ZIP_DEFLATED)
        listed = json.dumps([line.model_dump(mode="json") for line, _ in pictures], ensure_ascii=False, indent=1)
        archive.writestr(LIST, listed, zipfile.ZIP_DEFLATED)
        for line, content in pictures:
            archive.writestr(line.file, content)
    return out.getvalue()


def read_archive(raw: bytes) -> JobArchive:
    """Return what a ZIP file of a job holds; files in it that its list does not name are left alone.

    Raises:
        BadInput: no ZIP file, damaged, a part too large or missing, or a job document that is not valid.
    """
    try:
        with zipfile.ZipFile(BytesIO(raw)) as archive:
            job = parse_job(read_json(_part(archive, JOB, LARGEST_DOCUMENT_BYTES)))
            lines = _lines(read_json(_part(archive, LIST, LARGEST_DOCUMENT_BYTES)))
            return JobArchive(job, tuple((line, _part(archive, line.file, LARGEST_SENT_BYTES)) for line in lines))
    except DAMAGE:
        _refuse("not_zip", "", "this is no ZIP file, or it is damaged.", "Export the job with its pictures again.")


def _lines(value: Any) -> list[PictureLine]:
    try:
        return LINES.validate_python(value)
    except ValidationError as failure:
        raise BadInput(issues_of(failure, {})) from None


def _part(archive: zipfile.ZipFile, name: str, most: int) -> bytes:
    """Return one file of the archive, never more than so many bytes of it."""
    try:
        with archive.open(name) as part:
            content = part.read(most + 1)
    except KeyError:
        _refuse("part_missing", name, "it is not in the file.", "Export the job with its pictures again.")
    if len(content) > most:
        _refuse("too_large", name, f"it is larger than {most // 1024 // 1024} MB.", "Take a smaller one.")
    return content


def _refuse(code: str, path: str, reason: str, remedy: str) -> NoReturn:
    raise BadInput([Issue(code, path, reason, remedy)])
