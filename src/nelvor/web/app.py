"""The application: configuration from the environment, security headers, the API and the built interface."""

from __future__ import annotations

import os
from datetime import timedelta
from pathlib import Path
from typing import cast

from flask import Flask, Response, send_from_directory
from flask.json.provider import DefaultJSONProvider
from flask_talisman import Talisman
from flask_wtf.csrf import CSRFProtect
from sqlalchemy.engine import make_url
from werkzeug.middleware.proxy_fix import ProxyFix

from nelvor.exchange.utility_desk import SimulatedDesk, UtilityDesk
from nelvor.model.parse import LARGEST_DOCUMENT_BYTES
from nelvor.store.database import connect
from nelvor.store.watch import DatabaseWatch
from nelvor.web import compress, faults, request_log
from nelvor.web.asking import give_pool
from nelvor.web.judging import Judging
from nelvor.web.routes import api
from nelvor.web.session import close_database

BUILT_INTERFACE = Path(__file__).parents[3] / "ui" / "dist"
ROOM_AROUND_DOCUMENT_BYTES = 64 * 1024
SECURITY_POLICY = {
    "default-src": "'self'",
    "script-src": "'self'",
    "style-src": "'self' 'unsafe-inline'",
    "img-src": "'self'",
    "connect-src": "'self'",
    "object-src": "'none'",
    "base-uri": "'none'",
    "frame-ancestors": "'none'",
    "form-action": "'self'",
}


def create_app(
    database_url: str,
    secret_key: str,
    demo: bool = False,
    interface: Path = BUILT_INTERFACE,
    *,
    secure_cookie: bool = False,
    proxies: int = 0,
    workers: int | None = 0,
    watched: bool = False,
    desk: UtilityDesk | None = None,
) -> Flask:
    """Return the WSGI application over one database.

    ``secure_cookie`` sends the cookie over TLS alone; ``proxies`` is how many stand between and are trusted to tell the peer.
    ``workers`` processes answer what is heavy: as many as suit the machine for None; it is answered in place for 0.
    Where the database is ``watched``, it is told within seconds that it does not answer. ``desk`` is where the utility is asked
    for fault currents: for None, a stand-in.
    """
    app = Flask(__name__, static_folder=None)
    _configure(app, secret_key, demo, secure_cookie)
    sessions = connect(database_url)
    app.extensions["nelvor_sessions"] = sessions
    app.extensions["nelvor_watch"] = DatabaseWatch(sessions.kw["bind"], make_url(database_url)) if watched else None
    give_pool(app, workers)
    app.extensions["nelvor_judging"] = Judging(sessions, app.extensions["nelvor_pool"])
    app.extensions["nelvor_utility_desk"] = desk or SimulatedDesk()
    _protect(app, secure_cookie, proxies)
    app.register_blueprint(api.blueprint)
    faults.register(app)
    compress.register(app)
    request_log.register(app)
    app.teardown_appcontext(close_database)
    _serve_interface(app, interface)
    return app


def _configure(app: Flask, secret_key: str, demo: bool, secure_cookie: bool) -> None:
    app.config.update(
        SECRET_KEY=secret_key,
        NELVOR_DEMO=demo,
        MAX_CONTENT_LENGTH=LARGEST_DOCUMENT_BYTES + ROOM_AROUND_DOCUMENT_BYTES,
        SESSION_COOKIE_NAME="nelvor",
        SESSION_COOKIE_SAMESITE="Lax",
        SESSION_COOKIE_SECURE=secure_cookie,
        PERMANENT_SESSION_LIFETIME=timedelta(days=14),
        WTF_CSRF_TIME_LIMIT=None,
        WTF_CSRF_SSL_STRICT=False,
    )
    cast(DefaultJSONProvider, app.json).sort_keys = False  # schemas keep the order of their fields


def _protect(app: Flask, secure_cookie: bool, proxies: int) -> None:
    Talisman(
        app,
        force_https=False,
        session_cookie_secure=secure_cookie,
        strict_transport_security=False,
        content_security_policy=SECURITY_POLICY,
        frame_options="DENY",
        referrer_policy="same-origin",
    )
    if proxies:
        behind = ProxyFix(app.wsgi_app, x_for=proxies, x_proto=proxies, x_host=proxies)
        app.wsgi_app = behind  # type: ignore[method-assign]
    CSRFProtect(app)


def _serve_interface(app: Flask, folder: Path) -> None:
    built = {file.relative_to(folder).as_posix() for file in folder.rglob("*") if file.is_file()}

    @app.get("/", defaults={"path": ""})
    @app.get("/<path:path>")
    def interface(path: str) -> Response:
        """Serve a built file, or the page itself for every address that the interface knows."""
        if path.startswith("api/"):
            return faults.answer(404, "not_found", "There is no such address.")
        if path and path in built:
            response = send_from_directory(folder, path)
            if path.startswith("assets/"):
                response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
            return response
        return send_from_directory(folder, "index.html")


def close(app: Flask) -> None:
    """End what works beside the requests of an application; what was not judged is judged when it is next read."""
    app.extensions["nelvor_judging"].close()
    app.extensions["nelvor_pool"].close()
    if app.extensions["nelvor_watch"] is not None:
        app.extensions["nelvor_watch"].close()


def from_environment() -> Flask:
    """Return the application that the environment describes; the production server calls this."""
    return create_app(
        os.environ["NELVOR_DATABASE_URL"],
        os.environ["NELVOR_SECRET_KEY"],
        os.environ.get("NELVOR_DEMO") == "1",
        secure_cookie=os.environ.get("NELVOR_SECURE_COOKIE") == "1",
        proxies=int(os.environ.get("NELVOR_PROXIES", "0")),
        watched=True,
        workers=int(os.environ["NELVOR_WORKERS"]) if os.environ.get("NELVOR_WORKERS") else None,
    )
