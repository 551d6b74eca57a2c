"""Every kind of entry that a ledger may hold, one declaration each, in a module a step. Importing this package declares them all."""

from redline_bore.job.kinds import (  # noqa: F401  (importing declares)
    book_in,
    bore,
    call,
    defects,
    finish,
    gauge,
    hone,
    opinions,
    plate,
    sign_off,
    sleeve,
    strikes,
)
