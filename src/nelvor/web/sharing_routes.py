"""Routes of what others see of a job: read-only links, remarks; and the end of a job."""

from __future__ import annotations

from nelvor.errors import NotFound
from nelvor.store import jobs, remarks, sharing
from nelvor.store.tables import Remark, SharedLink
from nelvor.web import wire
from nelvor.web.api import api
from nelvor.web.session import current_member, database, open_shared
from nelvor.web.session_routes import session_out


@api.route("GET", "/jobs/<job_id>/links", answer=wire.SharedLinkList)
def list_links(job_id: str) -> wire.SharedLinkList:
    """List the read-only links of a job."""
    return _links(job_id)


@api.route("POST", "/jobs/<job_id>/links", body=wire.ShareBody, answer=wire.SharedLinkOut, status=201)
def share_job(job_id: str, body: wire.ShareBody) -> wire.SharedLinkOut:
    """Make a read-only link to a job; its token is told this once."""
    store, member = database(), current_member()
    job = jobs.find_job(store, member, job_id)
    link, token = sharing.share(store, member, job, body.days, body.meant_for)
    store.commit()
    return wire.SharedLinkOut(token=token, link=_line(link))


@api.route("DELETE", "/jobs/<job_id>/links/<link_id>", answer=wire.SharedLinkList)
def revoke_link(job_id: str, link_id: str) -> wire.SharedLinkList:
    """Close a read-only link."""
    store, member = database(), current_member()
    sharing.revoke(store, member, jobs.find_job(store, member, job_id), link_id)
    store.commit()
    return _links(job_id)


def _links(job_id: str) -> wire.SharedLinkList:
    store, member = database(), current_member()
    found = sharing.links_of(store, member, jobs.find_job(store, member, job_id))
    return wire.SharedLinkList(links=[_line(link) for link in found])


def _line(link: SharedLink) -> wire.SharedLinkLine:
    return wire.SharedLinkLine(
        id=str(link.id),
        meant_for=link.meant_for,
        made_by=link.made_by,
        expires_at=link.expires_at.isoformat(),
        open=sharing.is_open(link),
        revoked=link.revoked_at is not None,
    )


@api.route("POST", "/shared", body=wire.TokenBody, answer=wire.SessionOut, public=True)
def open_link(body: wire.TokenBody) -> wire.SessionOut:
    """Open a job by a read-only link; whoever was signed in at this browser is signed out."""
    if sharing.guest_of(database(), body.token) is None:
        raise NotFound("This link was revoked, has expired, or never was one. Ask for another one.")
    open_shared(body.token)
    return session_out()


@api.route("GET", "/jobs/<job_id>/remarks", answer=wire.RemarkList, guests=True)
def read_remarks(job_id: str) -> wire.RemarkList:
    """Return the remarks on a job, the oldest first."""
    return _remarks(job_id)


@api.route("POST", "/jobs/<job_id>/remarks", body=wire.RemarkBody, answer=wire.RemarkList, status=201)
def add_remark(job_id: str, body: wire.RemarkBody) -> wire.RemarkList:
    """Add a remark on the newest revision of a job."""
    store, member = database(), current_member()
    remarks.remark(store, member, jobs.find_job(store, member, job_id), body.words, body.about)
    store.commit()
    return _remarks(job_id)


def _remarks(job_id: str) -> wire.RemarkList:
    store = database()
    found = remarks.remarks_on(store, jobs.find_job(store, current_member(), job_id))
    return wire.RemarkList(remarks=[_remark(item) for item in found])


def _remark(item: Remark) -> wire.RemarkLine:
    return wire.RemarkLine(
        words=item.words,
        about=item.about,
        author=item.author,
        revision=item.revision,
        at=item.at.isoformat(),
    )


@api.route("DELETE", "/jobs/<job_id>", body=wire.DeleteJobBody, answer=wire.Nothing)
def delete_job(job_id: str, body: wire.DeleteJobBody) -> wire.Nothing:
    """Delete a whole job with all its revisions; its name is asked for, and what was done stays in the history."""
    store, member = database(), current_member()
    jobs.delete_job(store, member, job_id, body.name)
    store.commit()
    return wire.Nothing()
