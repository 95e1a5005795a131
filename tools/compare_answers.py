"""Compare the answers of two states of the program over the same jobs: values, outcomes, sections and operations.

``python -m tools.compare_answers take FOLDER JOB.json ...`` writes one file of answers for each job and state;
``python -m tools.compare_answers tell BEFORE AFTER`` prints what differs and ends with 1 when something does.
Wording, ids that were made up, versions and the order of lists do not count.
"""

from __future__ import annotations

import json
import re
import sys
from pathlib import Path
from typing import Any

from nelvor.model.parse import parse_bytes
from nelvor.report.check import check
from nelvor.report.wire import report_out

NEUTRAL_SPELLING = {"aluminium": "aluminum", "armour": "armor"}
BUS_OF_ITS_BOX = re.compile(r"^buses (\S+)-bus$")
STATES = ("existing", "proposed")
MOST_TOLD = 40
Answers = dict[str, Any]


def answers_of(report: dict[str, Any]) -> Answers:
    """Return what counts of a report as it goes over the wire: a flat table of facts."""
    found: Answers = {f"count {name}": number for name, number in report["counts"].items()}
    for run_id, run in report["runs"].items():
        for side in ("chosen", "alternative"):
            sizes = run[side]
            if sizes:
                found |= _figures(f"run {run_id} {side}", sizes["figures"])
                found |= {f"run {run_id} {side} gap {part}": "gap" for part in sizes["gaps"]}
        found |= {f"run {run_id} {rule['title']}": (rule["fits"], rule["smallest"]) for rule in run["tap_rules"]}
        found[f"run {run_id} to fit"] = sorted((item["name"], item["section"]) for item in run["to_fit"])
    for box_id, box in report["boxes"].items():
        found |= _figures(f"box {box_id}", box["figures"])
    for enclosure_id, enclosure in report["enclosures"].items():
        name = f"enclosure {enclosure_id}"
        found |= _figures(name, enclosure["figures"])
        found[f"{name} decision"] = (enclosure["decision"], enclosure["section"], enclosure["found"])
        level = enclosure["level"]
        for part in ("connected", "demand", "neutral"):
            if level[part]:
                found[f"{name} {part}"] = _value(level[part])
        found |= {f"{name} {leg['leg']}": (_value(leg["load"]), _value(leg["design"])) for leg in level["legs"]}
    for finding in report["findings"]:
        told_on = BUS_OF_ITS_BOX.sub(r"enclosures \1", f"{finding['list']} {finding['id']}")
        key = f"finding {finding['outcome']} {finding['code']} {told_on}"
        mend = [_without_empty(item) for item in finding["mend"]["operations"]] if finding["mend"] else None
        found.setdefault(key, []).append((finding["section"], finding["field"], json.dumps(mend, sort_keys=True)))
        found[key].sort()
    return found


def _without_empty(operation: dict[str, Any]) -> dict[str, Any]:
    """An added thing without its empty properties, since a later version may hold more of them."""
    thing = operation.get("thing")
    if thing is None:
        return operation
    return {**operation, "thing": {name: value for name, value in thing.items() if value not in (None, "", {}, False)}}


def _figures(name: str, figures: dict[str, Any]) -> Answers:
    return {f"{name} {key}": _value(figure) for key, figure in figures.items()}


def _value(figure: dict[str, Any]) -> tuple[Any, ...]:
    return figure["value"], figure["number"], figure["unit"], figure["section"]


def take(folder: Path, jobs: list[Path]) -> None:
    """Write the answers of each job in both states."""
    folder.mkdir(parents=True, exist_ok=True)
    for job in jobs:
        for state in STATES:
            text = json.dumps(_answers(job, state), indent=1, sort_keys=True)
            for old, new in NEUTRAL_SPELLING.items():
                text = text.replace(old, new)
            (folder / f"{job.stem}.{state}.json").write_text(text)


def _answers(job: Path, state: str) -> Answers:
    try:
        report = check(parse_bytes(job.read_bytes()), state)
        return answers_of(report_out(report, looked_at=list(report.runs)).model_dump(mode="json"))
    except Exception as crash:  # a crash is an answer to compare, too
        return {"crash": f"{type(crash).__name__}: {crash}"[:200]}


def tell(before: Path, after: Path) -> int:
    """Print what differs; return 1 when something does."""
    differing = 0
    for path in sorted(before.glob("*.json")):
        old, new = json.loads(path.read_text()), json.loads((after / path.name).read_text())
        keys = [key for key in sorted({*old, *new}) if old.get(key) != new.get(key)]
        if keys:
            differing += 1
            print(f"== {path.stem}: {len(keys)} differ")
            for key in keys[:MOST_TOLD]:
                print(f"   {key}\n      before {old.get(key)}\n      after  {new.get(key)}")
    print(f"{differing} of {len(list(before.glob('*.json')))} reports differ")
    return 1 if differing else 0


def main(arguments: list[str]) -> int:
    """Take answers, or tell two folders of them apart."""
    match arguments:
        case ["take", folder, *jobs] if jobs:
            take(Path(folder), [Path(job) for job in jobs])
            return 0
        case ["tell", before, after]:
            return tell(Path(before), Path(after))
    print(__doc__, file=sys.stderr)
    return 2


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
