"""Routes of the pictures taken on site, and of a job that travels with them."""

from __future__ import annotations

import re

from flask import Response, request

from nelvor.errors import BadInput, Issue
from nelvor.exchange.job_archive import LARGEST_ARCHIVE_BYTES, read_archive, write_archive
from nelvor.exchange.pictures import KIND, LARGEST_SENT_BYTES, kept_picture
from nelvor.model.base import ID_PATTERN
from nelvor.model.pictures import MOST_PICTURES, MOST_PICTURES_OF_A_THING, PictureLine
from nelvor.pool.question import Progress, Question, Told
from nelvor.store import jobs, pictures
from nelvor.store.access import require
from nelvor.store.tables import Picture
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.endpoint import response_of
from nelvor.web.job_routes import begun, job_out
from nelvor.web.paper_routes import export_text, file_name, told_as_file
from nelvor.web.session import current_member, database

A_PICTURE_TAKES_S = 0.2


@api.route("GET", "/jobs/<job_id>/pictures", answer=wire.PictureList, guests=True)
def list_pictures(job_id: str) -> wire.PictureList:
    """List the pictures of a job, the oldest first."""
    return _pictures(job_id)


@api.route("GET", "/jobs/<job_id>/pictures/<picture_id>", guests=True)
def read_picture(job_id: str, picture_id: str) -> Response:
    """Return one picture."""
    store = database()
    found = pictures.find_picture(store, jobs.find_job(store, current_member(), job_id), picture_id)
    response = Response(found.content, mimetype=KIND)
    response.headers["Cache-Control"] = "private, max-age=86400, immutable"
    return response


@api.route("POST", "/jobs/<job_id>/pictures/of/<thing_id>", answer=wire.PictureList, status=201, reads="image/*")
def add_picture(job_id: str, thing_id: str) -> wire.PictureList:
    """Keep a picture of a thing of a job, JPEG or PNG, cleared of place, time and camera."""
    request.max_content_length = LARGEST_SENT_BYTES
    require(current_member(), "write_on_site", jobs.find_job(database(), current_member(), job_id))
    if re.fullmatch(ID_PATTERN, thing_id) is None:
        raise BadInput([Issue("no_id", "thing_id", "this is no id of a thing.", "Name a thing of the job.")])
    content = _cleared(request.get_data())
    store, member = database(), current_member()
    pictures.add_picture(store, member, jobs.find_job(store, member, job_id, lock=True), thing_id, content)
    store.commit()
    return _pictures(job_id)


@api.route("PUT", "/jobs/<job_id>/pictures/<picture_id>", body=wire.CaptionBody, answer=wire.PictureList)
def say_of_picture(job_id: str, picture_id: str, body: wire.CaptionBody) -> wire.PictureList:
    """Give a picture its words."""
    store, member = database(), current_member()
    pictures.say_of(store, member, jobs.find_job(store, member, job_id), picture_id, body.caption)
    store.commit()
    return _pictures(job_id)


@api.route("DELETE", "/jobs/<job_id>/pictures/<picture_id>", answer=wire.PictureList)
def take_picture_away(job_id: str, picture_id: str) -> wire.PictureList:
    """Delete a picture for good."""
    store, member = database(), current_member()
    pictures.take_away(store, member, jobs.find_job(store, member, job_id), picture_id)
    store.commit()
    return _pictures(job_id)


@api.route("GET", "/jobs/<job_id>/export.zip", guests=True)
def export_with_pictures(job_id: str) -> Response:
    """Return the newest document with its log on site and its pictures as one file."""
    store = database()
    job = jobs.find_job(store, current_member(), job_id)
    lines = [(_line(item), item.content) for item in pictures.pictures_of(store, job, whole=True)]
    content = write_archive(export_text(job), lines)
    return response_of(told_as_file(content, "application/zip", f"{file_name(job)}.zip"))


@api.route("POST", "/jobs/import.zip", answer=wire.JobOut, status=201, reads="application/zip")
def import_with_pictures() -> wire.JobOut:
    """Begin a job from a job document with its pictures."""
    request.max_content_length = LARGEST_ARCHIVE_BYTES
    require(current_member(), "change")
    archive = read_archive(request.get_data())
    cleared = [(line, _cleared(content)) for line, content in archive.pictures]
    store, member = database(), current_member()
    job = begun(archive.job.document, "Imported", archive.job.field_log)
    for line, content in cleared:
        pictures.add_picture(store, member, job, line.thing_id, content, line)
    store.commit()
    return job_out(job, jobs.find_revision(store, job, job.head))


def _cleared(raw: bytes) -> bytes:
    return api.ask(Question("picture_cleared", "", raw, expected_s=A_PICTURE_TAKES_S)).content


@api.work
def picture_cleared(raw: bytes, progress: Progress) -> Told:
    """Make a picture as it is kept."""
    return Told(kept_picture(raw), KIND)


def _pictures(job_id: str) -> wire.PictureList:
    store = database()
    found = pictures.pictures_of(store, jobs.find_job(store, current_member(), job_id))
    return wire.PictureList(
        pictures=[
            wire.PictureOut(
                id=str(item.id),
                thing_id=item.thing_id,
                caption=item.caption,
                author=item.author,
                at=item.at.isoformat(),
                size=item.size,
            )
            for item in found
        ],
        most_of_a_thing=MOST_PICTURES_OF_A_THING,
        most_of_a_job=MOST_PICTURES,
    )


def _line(item: Picture) -> PictureLine:
    return PictureLine(
        file=f"pictures/{item.id}.jpg",
        thing_id=item.thing_id,
        caption=item.caption,
        author=item.author,
        at=item.at,
    )
