"""All routes of the API: importing this module declares them."""

from nelvor.web import (
    about_routes,
    addition_routes,
    answer_routes,
    desk_routes,
    edit_routes,
    job_routes,
    panel_routes,
    paper_routes,
    picture_routes,
    session_routes,
    sharing_routes,
    shop_routes,
    study_routes,
)
from nelvor.web.api import api

__all__ = [
    "about_routes",
    "addition_routes",
    "answer_routes",
    "api",
    "desk_routes",
    "edit_routes",
    "job_routes",
    "paper_routes",
    "panel_routes",
    "picture_routes",
    "session_routes",
    "sharing_routes",
    "shop_routes",
    "study_routes",
]
