"""The one collection of endpoints that all route modules declare theirs in."""

from nelvor.web.asking import ask
from nelvor.web.endpoint import Api
from nelvor.web.session import guard

api = Api(guard=guard, ask=ask)
