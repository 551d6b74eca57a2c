"""The quote sheet for the owner as HTML, and the order list as CSV."""

from __future__ import annotations

import csv
import io

from redline_bore.core.show import Show
from redline_bore.job.words.fares import fares_words
from redline_bore.job.words.quote import Quote
from redline_bore.store.exports import cell
from redline_bore.store.templating import template


def quote_html(quote: Quote, show: Show, printing: bool = False) -> str:
    """The quote: what is proposed, why in plain words, what was weighed, what is ordered."""
    return template("quote.html").render(
        quote=quote, state=quote.state, show=show, printing=printing, fares=fares_words
    )


def orders_csv(quote: Quote) -> str:
    """The order list: what, count, size, remark."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["what", "count", "size", "remark"])
    writer.writerows([cell(line.what), str(line.count), cell(line.size), cell(line.remark)] for line in quote.orders)
    return out.getvalue()
