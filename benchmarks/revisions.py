"""The list of very many revisions of a large job over that of a few, and what it holds; a backup of them and its restore.

Run: ``./test --run benchmarks.revisions``
"""

from __future__ import annotations

import resource
import statistics
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from sqlalchemy import text

from nelvor.model.parse import parse_value
from nelvor.store import jobs, members
from nelvor.store.backup import restore_backup, write_backup
from nelvor.store.tables import Revision
from nelvor.web.app import create_app
from tests.support.jobs import chain
from tests.support.server import FAST_HASHER, PASSWORD, Client, Database

FEW, MANY = 50, 5000
PANELS = 900
ROUNDS = 15
BACKED_UP = 1000

COPIES = """
insert into revisions (id, job_id, number, base, kind, save_id, summary, digest, edition, packed, author, created_at)
select gen_random_uuid(), r.job_id, n, n - 1, 'main', 'copy-' || n, 'Edit', '', r.edition, r.packed, r.author, now()
from revisions r, generate_series(2, :last) n where r.job_id = :job and r.number = 1
"""


def median_ms(work: Callable[[], object]) -> float:
    """Return the median time of a piece of work, in milliseconds."""
    times = []
    for _ in range(ROUNDS):
        began = time.perf_counter()
        work()
        times.append(time.perf_counter() - began)
    return statistics.median(times) * 1000


def job_of(database: Database, revisions: int, panels: int) -> str:
    """Add a job with so many revisions, and return its id."""
    with database.sessions.begin() as session:
        owner = session.query(members.Member).one()
        job = jobs.create_job(session, owner, parse_value(chain(panels)), "New")
        session.flush()
        session.execute(text(COPIES), {"last": revisions, "job": job.id})
        job.head = job.last_number = revisions
        return str(job.id)


def digest_of(database: Database) -> str | None:
    """Return what tells the revisions of a database from any others, byte by byte."""
    with database.sessions() as session:
        whole = "select md5(string_agg(md5(packed) || id::text || number::text, '' order by id)) from revisions"
        found: str | None = session.scalar(text(whole))
        return found


def main() -> None:
    """Print what was measured."""
    members.hasher = FAST_HASHER
    database, other = Database(), Database()
    try:
        with database.sessions.begin() as session:
            members.add_member(session, "shop", "owner@shop.invalid", "Owner", PASSWORD, "owner")
        few, many = (job_of(database, number, PANELS) for number in (FEW, MANY))
        size = len(parse_value(chain(PANELS)).model_dump_json())
        client = Client(create_app(database.url, "bench"), "owner@shop.invalid")
        print(f"a job of {size / 1e6:.1f} MB")
        short = median_ms(lambda: client.get(f"/api/jobs/{few}/revisions"))
        before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
        long = median_ms(lambda: client.get(f"/api/jobs/{many}/revisions"))
        deep = median_ms(lambda: client.get(f"/api/jobs/{many}/revisions/before/2500"))
        grown = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) / 1024
        print(
            f"list of {FEW} revisions {short:.1f} ms; of {MANY} {long:.1f} ms, {long / short:.1f} ×; from the middle {deep:.1f} ms"
        )
        print(f"memory grown by {grown:.0f} MB over all lists of {MANY}")
        with database.sessions.begin() as session:
            session.execute(text("alter table revisions disable trigger all"))
            session.query(Revision).filter(Revision.number > BACKED_UP).delete()
            session.execute(text("alter table revisions enable trigger all"))
        file = Path(tempfile.mkdtemp(prefix="nelvor-bench-")) / "all.backup.gz"
        began = time.perf_counter()
        counts = write_backup(database.url, file)
        written = time.perf_counter() - began
        began = time.perf_counter()
        restore_backup(other.url, file)
        restored = time.perf_counter() - began
        same = "equal" if digest_of(database) == digest_of(other) else "DIFFERENT"
        print(
            f"{counts['revisions']} revisions backed up in {written:.1f} s ({file.stat().st_size / 1e6:.0f} MB), restored in "
            f"{restored:.1f} s, contents {same}"
        )
    finally:
        database.drop()
        other.drop()


if __name__ == "__main__":
    main()
