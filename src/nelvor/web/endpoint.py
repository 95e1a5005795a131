"""One way to declare a route: its request and response models serve parsing, checks and the API description."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from flask import Blueprint, Response, request
from pydantic import BaseModel, ConfigDict, ValidationError

from nelvor.errors import BadInput
from nelvor.model.parse import issues_of, read_json

Handler = Callable[..., Any]


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


class Api:
    """Collects the endpoints of the application."""

    def __init__(self, guard: Callable[[], object]) -> None:
        """Collect endpoints; ``guard`` raises for visitors, and stands before every route that is not public."""
        self.guard = guard
        self.blueprint = Blueprint("api", __name__, url_prefix="/api")
        self.endpoints: list[Endpoint] = []

    def route(
        self,
        method: str,
        path: str,
        *,
        body: type[BaseModel] | None = None,
        answer: type[BaseModel] | None = None,
        status: int = 200,
        public: bool = False,
        reads: str = "",
    ) -> Callable[[Handler], Handler]:
        """Declare a handler. A body is read strictly, after the guard, and handed in as the keyword ``body``.

        ``reads`` is the media type of a body that the handler reads by itself, such as a file.
        """

        def declare(handler: Handler) -> Handler:
            summary = (handler.__doc__ or handler.__name__).splitlines()[0]
            self.endpoints.append(Endpoint(method, path, summary, body, answer, status, reads))

            def view(**values: Any) -> Response:
                if not public:
                    self.guard()
                if body is not None:
                    values["body"] = parse_body(body)
                result = handler(**values)
                if isinstance(result, Response):
                    return result
                text = result.model_dump_json() if isinstance(result, BaseModel) else "{}"
                return Response(text, status=status, mimetype="application/json")

            self.blueprint.add_url_rule(path, endpoint=handler.__name__, view_func=view, methods=[method])
            return handler

        return declare


def parse_body(model: type[BaseModel]) -> Any:
    """Return the request's body as a model.

    Raises:
        BadInput: not JSON, or not of the model's form.
    """
    value = read_json(request.get_data())
    try:
        return model.model_validate(value)
    except ValidationError as failure:
        raise BadInput(issues_of(failure, value if isinstance(value, dict) else {})) from None
