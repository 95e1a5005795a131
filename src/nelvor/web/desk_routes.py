"""The route over which the desk of a utility is asked."""

from __future__ import annotations

from datetime import UTC, datetime

from flask import current_app

from nelvor.exchange.utility_desk import Enquiry
from nelvor.web import wire
from nelvor.web.api import api


@api.route("POST", "/utility-desk", body=wire.EnquiryBody, answer=wire.LetterOut)
def ask_the_utility(body: wire.EnquiryBody) -> wire.LetterOut:
    """Ask the desk of the utility what it gives into a fault at a service; nothing of it is stored."""
    enquiry = Enquiry(body.premises, body.system, body.service_a)
    letter = current_app.extensions["nelvor_utility_desk"].fault_current(enquiry, datetime.now(UTC).date())
    return wire.LetterOut(**vars(letter))
