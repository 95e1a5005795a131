"""The demo shop with its sample job, added once."""

from __future__ import annotations

import secrets

from sqlalchemy.orm import Session

from nelvor.demo import DEMO_JOBS, demo_job
from nelvor.store.jobs import create_job
from nelvor.store.members import DEMO_EMAIL, DEMO_SHOP, add_member, demo_member


def add_demo(session: Session) -> None:
    """Add the demo member, who signs in with one click on loopback alone, and the sample job."""
    if demo_member(session) is not None:
        return
    member = add_member(session, DEMO_SHOP, DEMO_EMAIL, "Demo electrician", secrets.token_urlsafe(32), "owner")
    for name in DEMO_JOBS:
        create_job(session, member, demo_job(name), "Sample job")
