"""Requests that nobody should send, to every route: never answered by a fault of the server.

Bodies are valid ones changed at random, whole ones made from the published schemas, and valid documents with things in
them that were made from the schema.

Run for long: ``./test --run tests.web.fuzzing 10000 [SEED]``. What was sent is told by its seed and number, and can be
sent again.
"""

from __future__ import annotations

import copy
import json
import random
import re
import sys
import time
from collections import Counter
from collections.abc import Iterator
from typing import Any
from urllib.parse import quote

from nelvor.demo import DEMO_JOBS, demo_job
from nelvor.figures import all_figures
from nelvor.model.schema import job_schema
from nelvor.web.api import api
from tests.support.server import Client, WithDatabase
from tests.web.from_schema import Maker, grafted

SLOWEST_S = 30.0
DEEP = 60
NASTY: tuple[Any, ...] = (
    None,
    True,
    0,
    -1,
    1,
    0.1,
    1e-300,
    1e300,
    -1e300,
    2**63,
    10**400,
    "",
    " ",
    "x" * 300,
    "\u0000",
    "\ud800",
    "\u202e\u200b",
    "=1+1",
    "'; drop table jobs; --",
    "../../etc",
    "<script>",
    "120_240",
    "12",
    [],
    {},
    [[]],
    {"id": 1},
)


def places(value: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """Yield the path of every value within a JSON value."""
    yield path
    if isinstance(value, dict):
        for key in value:
            yield from places(value[key], (*path, key))
    elif isinstance(value, list):
        for number, item in enumerate(value):
            yield from places(item, (*path, number))


def at(value: Any, path: tuple[Any, ...]) -> Any:
    for step in path:
        value = value[step]
    return value


def nasty(chance: random.Random) -> Any:
    """Return one of the nasty values, of its own: what is changed further stays as it was for the next request."""
    return copy.deepcopy(chance.choice(NASTY))


def changed(value: Any, chance: random.Random) -> Any:
    """Return a JSON value with one to three places of it changed."""
    value = copy.deepcopy(value)
    for _ in range(chance.choice((1, 1, 2, 3))):
        inner = [path for path in places(value) if path]
        if not inner:
            return nasty(chance)
        path = chance.choice(inner)
        home, key = at(value, path[:-1]), path[-1]
        act = chance.randrange(7)
        if act == 0:
            del home[key]
        elif act == 1 and isinstance(home, list):
            home.insert(key, copy.deepcopy(home[key]))
        elif act == 2 and isinstance(home, dict):
            home[chance.choice(("more", "id", "__proto__", "x" * 200))] = nasty(chance)
        elif act == 3:
            home[key] = copy.deepcopy(at(value, chance.choice(inner)))
        elif act == 4 and isinstance(home[key], int | float) and not isinstance(home[key], bool):
            home[key] = home[key] * chance.choice((-1, 0, 1e-6, 1e6, 1e30))
        elif act == 5:
            deep: Any = nasty(chance)
            for _ in range(DEEP):
                deep = [deep]
            home[key] = deep
        else:
            home[key] = nasty(chance)
    return value


def slightly_changed(value: Any, chance: random.Random) -> Any:
    """Return a JSON value with a few leaves changed to what may well be valid: so that it is read, and worked out."""
    value = copy.deepcopy(value)
    leaves = [path for path in places(value) if path and isinstance(path[-1], str)]
    leaves = [path for path in leaves if not isinstance(at(value, path), dict | list)]
    for _ in range(chance.choice((1, 2, 4, 8))):
        if not leaves:
            break
        path = chance.choice(leaves)
        home, key = at(value, path[:-1]), path[-1]
        old, act = home[key], chance.randrange(4)
        if act == 0:
            home[key] = None
        elif act == 1 and isinstance(old, int | float) and not isinstance(old, bool):
            home[key] = type(old)(old * chance.choice((0, 0.01, 0.5, 2, 100)))
        elif isinstance(old, bool):
            home[key] = not old
        else:
            home[key] = at(value, chance.choice([other for other in leaves if other[-1] == key]))
    return value


def written(value: Any, chance: random.Random) -> bytes:
    """Return a JSON value as it is sent: now and then not as JSON should be."""
    text = json.dumps(value, ensure_ascii=True)
    act = chance.randrange(40)
    if act == 0:
        text = text[: chance.randrange(len(text) + 1)]
    elif act == 1:
        text = text.replace("0", chance.choice(("NaN", "Infinity", "-Infinity", "1e999", "00")), 1)
    elif act == 2:
        return text.encode("utf-16")
    elif act == 3:
        return chance.randbytes(50) + text.encode()
    return text.encode()


class Fuzzing(WithDatabase):
    """Sends what was changed to every route that takes a body."""

    def begin(self) -> None:
        self.client = Client(self.app(), "owner@east.invalid")
        self.address = f"/api/jobs/{self.jobs['east']}"
        self.bases = dict(self._bases())
        self.schemas = {(item.method, item.path): item.body.model_json_schema() for item in api.endpoints if item.body}
        self.document = self.schemas["POST", "/jobs/import"] = job_schema()

    def _bases(self) -> Iterator[tuple[tuple[str, str], list[Any]]]:
        """Yield what is valid for each route: what is changed rests on it."""
        documents = [demo_job(name).model_dump(mode="json") for name in DEMO_JOBS]
        small = documents[-1]
        put = {"op": "put", "list": "runs", "id": "to-barn", "field": "length_ft", "value": 50.0}
        edit = {"base": 1, "operations": [put]}
        known: dict[str, list[Any]] = {
            "import_job": documents,
            "check_document": [{"document": item, "state": "proposed"} for item in documents],
            "check_edit": [edit],
            "read_edit_working": [{**edit, "key": "run:to-barn/load"}],
            "read_working": [{"document": small, "key": "run:x/load"}],
            "save_revision": [{**edit, "save_id": "save-of-the-fuzzer", "summary": "x"}],
            "append_to_field_log": [{"entries": [{"thing_id": "to-barn", "kind": "torque"}]}],
            "read_meter_record": ["interval_start,kwh\n2026-01-01T00:00,1\n2026-01-01T00:15,2\n"],
            "work_out_figure": [{"inputs": item.example} for item in all_figures().values()],
        }
        enclosure, bus = small["enclosures"][0]["id"], small["buses"][0]["id"]
        more = {
            "enclosure_id": enclosure,
            "bus_id": bus,
            "to_bus_id": bus,
            "run_id": small["runs"][0]["id"],
            "kind": "disconnect_ahead",
            "edition": "2020",
            "within_a": 10,
            "distance_ft": 5,
            "text": "1,Range,2,50\n3,Spare,1,20",
            "state": "proposed",
            "situation": {},
            "readings": [],
            "number": 3,
            "observable": "x",
            "wanted": {"kind": "inverter", "amperes": 20},
            "operations": [put],
            "name": "x",
            "email": "a@b.invalid",
            "password": "x" * 12,
            "role": "field",
            "rules": [],
            "base": 0,
            "days": 1,
            "meant_for": "x",
            "words": "x",
            "about": "x",
            "token": "x",
            "archived": False,
            "starter": "",
            "current": "x",
            "new": "x" * 12,
        }
        for endpoint in api.endpoints:
            if endpoint.method == "GET" or (endpoint.body is None and not endpoint.reads):
                continue
            name = endpoint.path
            handler = self._handler(endpoint.method, endpoint.path)
            if handler in ("delete_job", "remove_member", "sign_in", "change_password", "use_link", "open_link"):
                continue
            found = known.get(handler)
            if found is None and endpoint.body is not None:
                fields = endpoint.body.model_fields
                body = {field: more[field] for field in fields if field in more}
                found = [{**body, "document": item} for item in documents[:2]] if "document" in fields else [body]
            yield (endpoint.method, name), found or [{}]

    def _handler(self, method: str, path: str) -> str:
        for rule in self.client.client.application.url_map.iter_rules():
            if rule.rule == f"/api{path}" and method in rule.methods:
                return rule.endpoint.removeprefix("api.")
        raise AssertionError(path)

    def send(self, seed: int, number: int) -> tuple[str, int, float, bytes]:
        """Send one changed request; the seed and its number tell which. Return route, status, seconds and answer."""
        chance = random.Random(f"{seed} {number}")
        method, path = chance.choice(sorted(self.bases))
        base = chance.choice(self.bases[method, path])
        strange = quote(str(chance.choice(NASTY)).encode("utf-8", "replace")[:80], safe="")
        odd = chance.randrange(12) == 0  # now and then the address itself is strange
        where = re.sub("<[^>]+>", strange, path) if odd else path
        where = where.replace("<job_id>", self.jobs["east"]).replace("<name>", chance.choice(sorted(all_figures())))
        where = where.replace("<int:number>", "1").replace("<member_id>", "x").replace("<link_id>", "x")
        body = written(self._body(method, path, base, chance), chance)
        began = time.perf_counter()
        answer = self.client.send(method, f"/api{where}", body, content_type="application/json")
        return f"{method} {path}", answer.status_code, time.perf_counter() - began, answer.get_data()

    def _body(self, method: str, path: str, base: Any, chance: random.Random) -> Any:
        """Return what is sent to a route: its valid base changed, or what its schema makes."""
        document = base.get("document", base if path == "/jobs/import" else None) if isinstance(base, dict) else None
        ways = ["changed", "slightly", "slightly"]
        ways += ["schema"] if (method, path) in self.schemas else []
        ways += ["grafted", "grafted"] if document else []
        way = chance.choice(ways)
        if way == "schema":
            body = Maker(chance, self.schemas[method, path]).whole()
            return {**body, "document": Maker(chance, self.document).whole()} if "document" in body else body
        if way == "grafted":
            made = grafted(document, self.document, chance)
            return made if path == "/jobs/import" else {**base, "document": made}
        return (changed if way == "changed" else slightly_changed)(base, chance)

    def run_many(self, seed: int, many: int) -> tuple[Counter[int], list[str]]:
        """Send many; return how many had which status, and what should not have been."""
        statuses: Counter[int] = Counter()
        wrong = []
        for number in range(many):
            route, status, seconds, content = self.send(seed, number)
            statuses[status] += 1
            if status >= 500 or seconds > SLOWEST_S:
                wrong.append(f"seed {seed}, number {number}: {route} answered {status} in {seconds:.1f} s")
            elif content[:1] in (b"{", b"["):
                told = f"seed {seed}, number {number}: {route} answers with "
                json.loads(content, parse_constant=lambda found, told=told: wrong.append(f"{told}{found}"))
        return statuses, wrong


def main() -> None:
    """Send as many as are asked for, and print what came of it."""
    many = int(sys.argv[1]) if len(sys.argv) > 1 else 10_000
    seed = int(sys.argv[2]) if len(sys.argv) > 2 else int(time.time())
    print(f"seed {seed}", flush=True)
    Fuzzing.setUpClass()
    try:
        fuzzing = Fuzzing()
        fuzzing.begin()
        statuses, wrong = fuzzing.run_many(seed, many)
    finally:
        Fuzzing.tearDownClass()
    print(f"{many} requests: {dict(sorted(statuses.items()))}")
    for line in wrong:
        print(line)
    sys.exit(bool(wrong))


if __name__ == "__main__":
    main()
