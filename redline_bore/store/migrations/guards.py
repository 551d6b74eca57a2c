"""What keeps a table as it was written: the database itself refuses to change or delete a row, in a file and on a server alike."""

from __future__ import annotations

from alembic import op

REFUSED = "nothing in a logbook is changed or deleted"


def guard(table: str, acts: tuple[str, ...] = ("UPDATE", "DELETE")) -> None:
    """Refuse changes of a table from here on."""
    for act in acts:
        name = f"{table}_no_{act.lower()}"
        if op.get_bind().dialect.name == "sqlite":
            op.execute(f"CREATE TRIGGER {name} BEFORE {act} ON {table} BEGIN SELECT RAISE(ABORT, '{REFUSED}'); END")
        else:
            op.execute(
                "CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS "
                f"$$ BEGIN RAISE EXCEPTION '{REFUSED}'; END $$"
            )
            op.execute(f"CREATE TRIGGER {name} BEFORE {act} ON {table} FOR EACH ROW EXECUTE FUNCTION refuse_change()")


def unguard(table: str, act: str) -> None:
    """Allow one kind of change, for a migration that must."""
    on = "" if op.get_bind().dialect.name == "sqlite" else f" ON {table}"
    op.execute(f"DROP TRIGGER {table}_no_{act.lower()}{on}")
