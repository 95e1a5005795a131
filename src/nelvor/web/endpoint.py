"""One way to declare a route: its request and response models serve parsing, checks and the API description."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from flask import Blueprint, Response, request
from pydantic import BaseModel, ConfigDict, ValidationError

from nelvor.errors import BadInput
from nelvor.model.parse import issues_of, read_json
from nelvor.pool.question import Progress, Question, Told

Handler = Callable[..., Any]
Work = Callable[[Any, Progress], Told]
Answered = Callable[[dict[str, Any]], Response]
BYTES_A_SECOND = 500_000
"""Roughly how much of a document is read and checked in a second: by it the line expects what it never measured."""


class Body(BaseModel):
    """Base of request bodies: strict and closed."""

    model_config = ConfigDict(extra="forbid", strict=True)


@dataclass(frozen=True)
class Endpoint:
    """A declared route."""

    method: str
    path: str
    summary: str
    body: type[BaseModel] | None
    answer: type[BaseModel] | None
    status: int
    reads: str
    later: type[BaseModel] | None = None


class Api:
    """Collects the endpoints of the application, and the work that is done in processes of the pool."""

    def __init__(self, guard: Callable[[bool], object], ask: Callable[[Question], Told]) -> None:
        """Collect endpoints; ``guard`` raises for visitors, and stands before every route that is not public.

        It is told whether a guest may pass, who came by a read-only link: on routes marked so and on all that answers
        about what it is sent.

        ``ask`` hands a question to the pool and waits for its answer.
        """
        self.guard = guard
        self.ask = ask
        self.blueprint = Blueprint("api", __name__, url_prefix="/api")
        self.endpoints: list[Endpoint] = []
        self.works: dict[str, Work] = {}

    def route(
        self,
        method: str,
        path: str,
        *,
        body: type[BaseModel] | None = None,
        answer: type[BaseModel] | None = None,
        status: int = 200,
        public: bool = False,
        guests: bool = False,
        reads: str = "",
        heavy: bool = False,
        later: type[BaseModel] | None = None,
    ) -> Callable[[Handler], Handler]:
        """Declare a handler. A body is read strictly, after the guard, and handed in as the keyword ``body``.

        ``reads`` is the media type of a body that the handler reads by itself, such as a file. A ``heavy`` handler runs in
        a process of the pool, where there is no request and no database: it has its body, or ``content`` where it reads
        that by itself, and the values of its path. ``later`` tells how far a file is that is asked for with ``?soon=1``.
        """

        def declare(handler: Handler) -> Handler:
            summary = (handler.__doc__ or handler.__name__).splitlines()[0]
            self.endpoints.append(Endpoint(method, path, summary, body, answer, status, reads, later))
            if heavy:
                self.works[handler.__name__] = _work_of(handler, body, status)
            answered = self._by_the_pool(handler.__name__) if heavy else _here(handler, body, status)

            def view(**values: Any) -> Response:
                if not public:
                    self.guard(guests or heavy)
                return answered(values)

            self.blueprint.add_url_rule(path, endpoint=handler.__name__, view_func=view, methods=[method])
            return handler

        return declare

    def _by_the_pool(self, name: str) -> Answered:
        def answered(values: dict[str, Any]) -> Response:
            content = request.get_data()
            question = Question(name, "", (content, values), expected_s=len(content) / BYTES_A_SECOND)
            return response_of(self.ask(question))

        return answered

    def work(self, function: Callable[[Any, Progress], Any]) -> Callable[[Any, Progress], Any]:
        """Declare work of the pool that handlers ask for by its name."""
        self.works[function.__name__] = lambda details, progress: told_of(function(details, progress))
        return function


def _here(handler: Handler, body: type[BaseModel] | None, status: int) -> Answered:
    def answered(values: dict[str, Any]) -> Response:
        if body is not None:
            values["body"] = parse_body(body, request.get_data())
        result = handler(**values)
        return result if isinstance(result, Response) else response_of(told_of(result, status))

    return answered


def _work_of(handler: Handler, body: type[BaseModel] | None, status: int) -> Work:
    def work(details: tuple[bytes, dict[str, Any]], progress: Progress) -> Told:
        content, values = details
        given = {"content": content} if body is None else {"body": parse_body(body, content)}
        return told_of(handler(**values, **given), status)

    return work


def told_of(result: Any, status: int = 200) -> Told:
    """Return what a handler answers as it goes out."""
    if isinstance(result, Told):
        return result
    text = result.model_dump_json() if isinstance(result, BaseModel) else "{}"
    return Told(text.encode(), status=status)


def response_of(told: Told) -> Response:
    """Return what is told as an answer of the server."""
    return Response(told.content, status=told.status, mimetype=told.kind, headers=list(told.headers))


def parse_body(model: type[BaseModel], content: bytes) -> Any:
    """Return a request's body as a model.

    Raises:
        BadInput: not JSON, or not of the model's form.
    """
    value = read_json(content)
    try:
        return model.model_validate(value)
    except ValidationError as failure:
        raise BadInput(issues_of(failure, value if isinstance(value, dict) else {})) from None
