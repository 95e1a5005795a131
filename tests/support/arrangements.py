"""Sites from one line each, ids in lower case: ``U -hn- M -hn- S(main) -hng- P`` with h lines, n neutral, g or j a grounding wire, m metal.

Ports: ``T.n``, ``T.s``, ``T.l`` are the normal, standby and load terminals of transfer gear, ``P.n`` and ``P.s`` two
interlocked mains of a panel, ``X.p`` and ``X.q`` the two sides of a transformer, ``I.g``, ``I.a`` and ``I.o`` inputs and output
of an inverter that power passes through. ``@`` names the building.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import Any

from tests.support.jobs import Json, thing

NODE = re.compile(r"^(?P<name>\w+)(?:\.(?P<port>\w))?(?:@(?P<building>\w+))?(?:\((?P<marks>[^)]*)\))?$")
DEVICES = {
    "main": "breaker",
    "brk": "breaker",
    "fuse": "fuses",
    "sw": "switch",
    "disc": "switch",
    "interlock": "breaker",
}
EMERGENCY = {
    "emergency_service": "service_disconnect",
    "emergency_meter": "meter_disconnect",
    "emergency_not_service": "not_service_equipment",
    "disc": "meter_disconnect",
}
METAL = {"method": "emt", "ground_by_raceway": True}
PLASTIC = {"method": "pvc40", "ground_by_raceway": False}
LISTS = "sources buildings enclosures buses devices lugs bars bonds runs conductors electrodes loads transfers throws"


@dataclass
class Node:
    """A name with all that the line says of it."""

    name: str
    marks: set[str] = field(default_factory=set)
    building: str = ""
    ports: set[str] = field(default_factory=set)

    @property
    def has_switch(self) -> bool:
        return bool(self.marks & DEVICES.keys())


class Arrangement:
    """The job that a line describes; ``make``, ``open``, ``without`` and ``gear`` change it as a site report would say."""

    def __init__(self, line: str, edition: str = "2023") -> None:
        self.job: Json = {"format": "nelvor-job", "version": 4, "name": "Arrangement", "settings": {"edition": edition}}
        self.job |= {name: [] for name in (*LISTS.split(), "interlocks", "transformers", "metal_paths")}
        chains = [re.split(r"\s-(\w+)-\s", chain.strip()) for chain in line.lower().split(";")]
        self.nodes = self._nodes(chains)
        self.with_neutral = {
            NODE.match(chain[end])["name"]  # type: ignore[index]
            for chain in chains
            for at in range(0, len(chain) - 2, 2)
            for end in (at, at + 2)
            if "n" in chain[at + 1]
        }
        for node in self.nodes.values():
            self._place(node)
        for chain in chains:
            for at in range(0, len(chain) - 2, 2):
                self._join(chain[at], chain[at + 1], chain[at + 2])

    # -- changes -------------------------------------------------------------------------------

    def bond(self, name: str, made: bool | None) -> None:
        """Make or open the bond of a place: an enclosure, or the load terminals of gear whose neutral is switched."""
        own = name.replace(".", "-")
        thing(self.job, "bonds", f"{own}-bond")["made"] = made

    def without(self, start: str, end: str, letter: str) -> None:
        """Take a conductor, or the metal, out of the run between two places."""
        run = f"{start}-to-{end}"
        if not any(item["id"] == run for item in self.job["runs"]):
            run = f"{end}-to-{start}"
        role = {"n": "neutral", "g": "ground", "j": "ground"}.get(letter)
        if role is None:
            thing(self.job, "runs", run).update(PLASTIC)
        conductors = self.job["conductors"]
        self.job["conductors"] = [item for item in conductors if item["run_id"] != run or item["role"] != role]

    def added(self, start: str, end: str, letter: str) -> None:
        """Add a grounding wire or metal to the run between two places."""
        if letter == "m":
            thing(self.job, "runs", f"{start}-to-{end}").update(METAL)
        else:
            self._conductor(f"{start}-to-{end}", "ground", f"{start}-g", f"{end}-g")

    # -- building it ---------------------------------------------------------------------------

    def _nodes(self, chains: list[list[str]]) -> dict[str, Node]:
        nodes: dict[str, Node] = {}
        for chain in chains:
            for text in chain[::2]:
                found = NODE.match(text)
                assert found is not None, text
                node = nodes.setdefault(found["name"], Node(found["name"]))
                node.marks |= set((found["marks"] or "").split(",")) - {""}
                node.building = found["building"] or node.building
                node.ports |= {found["port"]} - {None}
        return nodes

    def _add(self, list_name: str, new_id: str, **values: Any) -> None:
        self.job[list_name].append({"id": new_id, **values})

    def _place(self, node: Node) -> None:
        name, marks = node.name, node.marks
        if name == "u":
            system = "wye_480_277" if "wye_480" in marks else "split_120_240"
            self._add("sources", "u", name="Utility", kind="utility", system=system)
            return
        if node.building and not any(item["id"] == node.building for item in self.job["buildings"]):
            path = None if "path_unknown" in marks else False
            self._add("buildings", node.building, use="other", name=node.building, metal_path_to_supply=path)
        kind = "generator" if name[0] == "g" else "transfer_switch" if name[0] == "t" else "panel"
        if name[0] in "mjq" or (name[0] == "d" and node.has_switch):
            kind = "meter" if name[0] in "mj" and not node.has_switch else "disconnect"
        emergency = next((EMERGENCY[mark] for mark in marks if mark in EMERGENCY), "none")
        self._add(
            "enclosures",
            name,
            name=name,
            kind=kind,
            building_id=node.building or None,
            placement="outdoors" if marks & {"out", "portable"} or node.building in ("yard", "pole") else "indoors",
            emergency_marking=emergency,
            service_marking="suitable",
            protection_adjacent="adjacent" in marks or None,
            site_isolating="site_isolating" in marks or None,
            termination_c=75,
        )
        self._bars(node)
        if name[0] in "gi":
            self._source(node)
        if name[0] == "x":
            self._transformer(node)
        elif name[0] == "a":
            self._autotransformer(node)
        elif name[0] == "t":
            self._gear(node)
        elif name[0] not in "gi":
            self._landing(node)

    def _bars(self, node: Node) -> None:
        name = node.name
        self._add("bars", f"{name}-g", enclosure_id=name, kind="ground", insulated=False)
        if (name[0] in "gi" and not node.ports) or name not in self.with_neutral:
            return
        ways = sorted(node.ports) if (name[0] == "t" and "switched" in node.marks) or name[0] == "i" else [""]
        for way in ways:
            own = f"{name}-{way}" if way else name
            self._add("bars", f"{own}-neutral", enclosure_id=name, kind="neutral", insulated=True)
            if name[0] == "i":
                continue
            self._add("bonds", f"{own}-bond", enclosure_id=name, kind="screw", part_a=f"{own}-neutral", part_b=name)
            self.bond(own, made=False)
        if len(ways) > 1 and name[0] == "t":
            thing(self.job, "bonds", f"{name}-n-bond")["id"] = f"{name}-bond"

    def _source(self, node: Node) -> None:
        name, marks = node.name, node.marks
        kind = "generator" if name[0] == "g" else "inverter"
        output = "line_to_line" if "no_neutral" in marks else "two_wire_120" if "v120" in marks else "with_neutral"
        mid = any("mid" in other.marks for other in self.nodes.values())
        forms = "interactive" not in marks or mid or bool(node.ports)
        facts: Json = {
            "interactive": "interactive" in marks,
            "portable": "portable" in marks or None,
            "forms_supply": forms,
            "output": output,
        }
        if node.ports:
            paths, relays = (
                {"through": "passes", "opens": "opens"},
                {"norelay": "none", "relay": "closes_when_islanded"},
            )
            facts["neutral_path"] = next((way for mark, way in paths.items() if mark in marks), None)
            facts["relay"] = next((way for mark, way in relays.items() if mark in marks), None)
            for port in sorted(node.ports):
                self._add("lugs", f"{name}-port-{port}", enclosure_id=name)
        self._add("sources", f"{name}-set", name=name, kind=kind, system="split_120_240", enclosure_id=name, **facts)
        if output != "line_to_line":
            self._add("bonds", f"{name}-bond", enclosure_id=name, kind="factory", part_a=f"{name}-set", part_b=name)
            self.bond(name, made=False)
        if "brk" in marks:
            self._add("devices", f"{name}-device", enclosure_id=name, role="main", rating_a=100.0)

    def _transformer(self, node: Node) -> None:
        for port in "pq":
            self._add("lugs", f"{node.name}-{port}", enclosure_id=node.name)
        ends = {"primary_part": f"{node.name}-p", "secondary_part": f"{node.name}-q", "isolating": True}
        self._add("transformers", f"{node.name}-core", enclosure_id=node.name, kva=45.0, **ends)

    def _autotransformer(self, node: Node) -> None:
        """One in a feeder, from its first lugs to its second, or one that hangs on a panel and forms a neutral there."""
        name = node.name
        thing(self.job, "enclosures", name)["kind"] = "transformer"
        ends = [f"{name}-in", f"{name}-neutral" if "neutral_forming" in node.marks else f"{name}-out"]
        for part in ends:
            if part != f"{name}-neutral":
                self._add("lugs", part, enclosure_id=name)
        facts = {"primary_part": ends[0], "secondary_part": ends[1], "isolating": False, "kva": 10.0}
        if "neutral_forming" in node.marks:
            facts |= {"listed_for_neutral": True, "opens_source": True}
        self._add("transformers", f"{name}-core", enclosure_id=name, **facts)

    def _gear(self, node: Node) -> None:
        name, marks = node.name, node.marks
        for port in sorted(node.ports):
            if port == "n" and "main" in marks:
                self._add("devices", f"{name}-n", enclosure_id=name, role="main", rating_a=200.0)
            else:
                self._add("lugs", f"{name}-{port}", enclosure_id=name)
        facts = {"switches_neutral": "switched" in marks, "meter_mounted": "meter_mounted" in marks}
        facts |= {"service_rated": "service" in marks, "lines_only": "hots_only" in marks}
        self._add("transfers", f"{name}-gear", enclosure_id=name, load_part=f"{name}-l", rating_a=200.0, **facts)
        for port in sorted(node.ports - {"l"}):
            bar = f"{name}-{port}-neutral" if "switched" in marks else f"{name}-neutral"
            self._add(
                "throws", f"{name}-on-{port}", transfer_id=f"{name}-gear", part=f"{name}-{port}", neutral_part=bar
            )

    def _landing(self, node: Node) -> None:
        name = node.name
        kind = next((DEVICES[mark] for mark in ("sw", "disc", "fuse", "main", "brk") if mark in node.marks), None)
        if kind is None:
            self._add("lugs", f"{name}-in", enclosure_id=name)
        else:
            self._add("devices", f"{name}-in", enclosure_id=name, role="main", kind=kind, rating_a=100.0)
        enclosure = thing(self.job, "enclosures", name)
        if enclosure["kind"] == "panel":
            self._add("buses", f"{name}-bus", enclosure_id=name, rating_a=200.0, fed_by=f"{name}-in")
        for number in range(6 if "six" in node.marks else 0):
            self._add("devices", f"{name}-{number}", enclosure_id=name, role="feeder", rating_a=60.0)
        if "interlock" in node.marks:
            self._add("devices", f"{name}-s", enclosure_id=name, role="source", rating_a=30.0, held_down=True)
            self._add("interlocks", f"{name}-slide", device_a=f"{name}-in", device_b=f"{name}-s", listed=True)

    # -- runs ----------------------------------------------------------------------------------

    def _join(self, start_text: str, letters: str, end_text: str) -> None:
        start, end = NODE.match(start_text), NODE.match(end_text)
        assert start is not None and end is not None
        if "neutral_forming" in self.nodes[start["name"]].marks and "in_line" not in self.nodes[start["name"]].marks:
            start, end = end, start  # what forms the neutral hangs on a breaker of the panel
        run = f"{start['name']}-to-{end['name']}"
        if letters == "m":
            ends = {"end_a": start["name"], "end_b": end["name"]}
            self._add("metal_paths", f"{run}-pipe", kind="water_pipe", continuous=True, **ends)
            return
        if "h" not in letters:  # neutral and ground that do not go with their lines
            self._follow(
                next(item["id"] for item in self.job["runs"] if item["to_part"] == self._into(end["name"], None)),
                start,
                end,
            )
            return
        begin, landing = self._out(start["name"], start["port"], run), self._into(end["name"], end["port"])
        facts = {"length_ft": 30.0, "material": "copper", **(METAL if "m" in letters else PLASTIC)}
        facts["complied_when_installed"] = "old" in self.nodes[end["name"]].marks
        self._add("runs", run, from_part=begin, to_part=landing, **facts)
        for leg in ("L1", "L2"):
            self._conductor(run, leg, begin, landing)
        if "n" in letters:
            self._conductor(run, "neutral", self._neutral(start), self._neutral(end))
        if set(letters) & {"g", "j"}:
            self._conductor(run, "ground", f"{start['name']}-g", f"{end['name']}-g")

    def _follow(self, run: str, start: re.Match[str], end: re.Match[str]) -> None:
        self._conductor(run, "neutral", self._neutral(start), self._neutral(end))
        self._conductor(run, "ground", f"{start['name']}-g", f"{end['name']}-g")

    def _conductor(self, run: str, role: str, start: str, end: str) -> None:
        self._add("conductors", f"{run}-{role.lower()}", run_id=run, role=role, from_part=start, to_part=end)

    def _neutral(self, node: re.Match[str]) -> str:
        name = node["name"]
        if name == "u":
            return "u"
        if name[0] in "gi" and not node["port"]:
            return f"{name}-set"
        own = f"{name}-{node['port']}-neutral" if node["port"] else ""
        return own if any(bar["id"] == own for bar in self.job["bars"]) else f"{name}-neutral"

    def _out(self, name: str, port: str | None, run: str) -> str:
        if name == "u":
            return "u"
        if name[0] in "gi" and port is None:
            return f"{name}-device" if "brk" in self.nodes[name].marks else f"{name}-set"
        if name[0] in "tx":
            return f"{name}-{port}"
        if name[0] == "i":
            return f"{name}-port-{port}"
        if thing(self.job, "enclosures", name)["kind"] != "panel":
            through = name[0] == "a" and "neutral_forming" not in self.nodes[name].marks
            return f"{name}-out" if through else f"{name}-in"
        bus = f"{name}-bus"
        self._add("devices", f"{run}-feeder", enclosure_id=name, role="feeder", rating_a=60.0, bus_id=bus)
        thing(self.job, "devices", f"{run}-feeder")["ground_fault_protection"] = False
        return f"{run}-feeder"

    def _into(self, name: str, port: str | None) -> str:
        if name[0] == "i" and port:
            return f"{name}-port-{port}"
        if name[0] in "tx" or port == "s":
            return f"{name}-{port}"
        if name[0] in "gi":
            return f"{name}-set"
        return f"{name}-in"
