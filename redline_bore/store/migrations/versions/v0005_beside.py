"""Beside the ledger: each job's line in the list, what others look for in it, its words for the search; figures of the shop once for all jobs.

The lines are made here from the few entries that say them, and nothing is folded; what is kept for others is made by ``rebuild``.
"""

import json
from collections.abc import Sequence
from typing import Any

import sqlalchemy as sa
from alembic import op

from redline_bore.store.migrations.guards import guard

revision = "0005"
down_revision = "0004"

_TOLD = (
    "step_stamped",
    "promised",
    "waits_for",
    "machine_stated",
    "hone_set",
    "entry_struck",
    "entry_restored",
    "job_reopened",
)


def upgrade() -> None:
    connection = op.get_bind()
    op.create_table(
        "figure_set", sa.Column("sha256", sa.String, primary_key=True), sa.Column("body", sa.Text, nullable=False)
    )
    guard("figure_set")
    op.create_table(
        "job_line",
        sa.Column("job_id", sa.Integer, sa.ForeignKey("job.id"), primary_key=True),
        *(sa.Column(name, sa.String, nullable=False) for name in ("number", "owner", "engine")),
        sa.Column("notes", sa.Text, nullable=False),
        *(sa.Column(name, sa.String, nullable=False) for name in ("opened_at", "last_at")),
        sa.Column("seq", sa.Integer, nullable=False),
        sa.Column("link", sa.String, nullable=False),
        sa.Column("turn", sa.BigInteger, nullable=False),
        sa.Column("step", sa.String, nullable=False),
        sa.Column("done", sa.Text, nullable=False),
        *(sa.Column(name, sa.String, nullable=False) for name in ("promised", "due", "waits_for")),
        *(sa.Column(name, sa.Text, nullable=False) for name in ("people", "machines")),
        sa.Column("aside", sa.String, nullable=False),
        sa.Column("models", sa.Integer, nullable=False),
    )
    for column in ("turn", "engine", "models", "due"):
        op.create_index(f"job_line_{column}", "job_line", [column])
    op.create_table(
        "job_kept",
        sa.Column("job_id", sa.Integer, sa.ForeignKey("job.id"), primary_key=True),
        sa.Column("name", sa.String, primary_key=True),
        sa.Column("key", sa.String, nullable=False),
        sa.Column("body", sa.Text, nullable=False),
    )
    op.create_index("job_kept_key", "job_kept", ["name", "key"])
    op.create_table(
        "bench",
        sa.Column("bench", sa.String, primary_key=True),
        sa.Column("person", sa.String, nullable=False),
        sa.Column("job_id", sa.Integer, nullable=False),
        sa.Column("at", sa.String, nullable=False),
    )
    if connection.dialect.name == "sqlite":
        connection.exec_driver_sql("CREATE VIRTUAL TABLE job_words USING fts5(words, tokenize='trigram')")
    else:
        connection.exec_driver_sql("CREATE SEQUENCE booking_turn")
    _lines(connection)
    for column in ("owner", "engine", "step"):
        connection.exec_driver_sql(f"ALTER TABLE job DROP COLUMN {column}")


def _lines(connection: sa.Connection) -> None:
    """A line for every job there is, in the order they were worked on last."""
    newest = (
        "SELECT j.id, j.number, j.owner, j.engine, j.opened_at, j.step, e.at, e.seq, e.hash FROM job j JOIN entry e ON e.job_id = j.id "
        "WHERE e.seq = (SELECT max(seq) FROM entry WHERE job_id = j.id) ORDER BY (SELECT max(at) FROM entry WHERE job_id = j.id), j.id"
    )
    kinds = ", ".join(f"'{kind}'" for kind in _TOLD)
    told = sa.text(f"SELECT seq, kind, body FROM entry WHERE job_id = :job AND kind IN ({kinds}) ORDER BY seq")
    people = sa.text("SELECT person FROM entry WHERE job_id = :job GROUP BY person ORDER BY max(seq) DESC")
    aside = sa.text("SELECT person, at, aside FROM job_aside WHERE job_id = :job ORDER BY id DESC LIMIT 1")
    for turn, row in enumerate(connection.exec_driver_sql(newest).fetchall(), start=1):
        job, number, owner, engine, opened_at, step, at, seq, link = row
        line = _told(connection.execute(told, {"job": job}).fetchall())
        persons = [str(r[0]) for r in connection.execute(people, {"job": job})]
        put = connection.execute(aside, {"job": job}).first()
        closed = "sign_off" in line["done"]
        connection.execute(
            sa.text(
                "INSERT INTO job_line VALUES (:job, :number, :owner, :engine, '', :opened_at, :at, :seq, :link, :turn, :step, :done, :promised, "
                ":due, :waits_for, :people, :machines, :aside, 0)"
            ),
            {
                "job": job, "number": number, "owner": owner, "engine": engine, "opened_at": opened_at, "at": at, "seq": seq, "link": link,
                "turn": turn, "step": step, "done": json.dumps(line["done"]), "promised": line["promised"],
                "due": "" if closed else line["promised"], "waits_for": line["waits_for"], "people": json.dumps(persons),
                "machines": json.dumps(line["machines"]), "aside": f"{put[0]} {put[1]}" if put is not None and put[2] else "",
            },
        )  # fmt: skip
        if connection.dialect.name == "sqlite":
            words = "\n".join((number, owner, engine))
            connection.exec_driver_sql("INSERT INTO job_words (rowid, words) VALUES (?, ?)", (job, words))


def _told(rows: Sequence[Any]) -> dict[str, Any]:
    """What a few entries say of a job at a glance; those struck out are left."""
    stand: dict[int, tuple[str, dict[str, Any]]] = {}
    for seq, kind, body in rows:
        try:
            plain = json.loads(body)
            of = int(plain.get("seq") or 0)
        except (ValueError, TypeError, AttributeError):
            continue
        if kind == "entry_struck":
            stand[-of] = stand.pop(of, ("", {}))
        elif kind == "entry_restored":
            stand[of] = stand.pop(-of, ("", {}))
        elif kind == "job_reopened":
            stand = {q: t for q, t in stand.items() if t[1].get("step") != "sign_off"}
        else:
            stand[seq] = (kind, plain)
    left = [stand[q] for q in sorted(stand) if q > 0]

    def last(kind: str, name: str) -> str:
        return next((str(p.get(name, "")) for k, p in reversed(left) if k == kind), "")

    machines = [str(p.get("name", "")) for k, p in left if k == "machine_stated"]
    machines += [f"{p.get('machine', '')} hone" for k, p in left if k == "hone_set"]
    return {
        "done": list(dict.fromkeys(str(p.get("step", "")) for k, p in left if k == "step_stamped")), "promised": last("promised", "day"),
        "waits_for": last("waits_for", "what"), "machines": list(dict.fromkeys(m for m in machines if m)),
    }  # fmt: skip
