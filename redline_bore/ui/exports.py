"""What can be written of an open job, and under which names."""

from __future__ import annotations

from pathlib import Path

from redline_bore.ui.session import Session

EXPORTS = {"PDF": "sheet.pdf", "HTML": "sheet.html", "Readings CSV": "readings.csv", "Job JSON": "job.json"}


def write_export(session: Session, name: str, path: Path) -> None:
    """Write one export of the open job. Raises BenchError."""
    from redline_bore.job.sign_off import sheet_of
    from redline_bore.store.exports import write_text
    from redline_bore.store.job_file import job_to_json
    from redline_bore.store.readings_csv import readings_to_csv
    from redline_bore.ui.paint.sheet_print import SheetPages, html_document, write_pdf

    sheet = sheet_of(session.job)
    if name == "PDF":
        write_pdf(SheetPages(sheet, session.show), path, f"Job {session.job.number}")
    elif name == "HTML":
        write_text(path, html_document(sheet, session.show))
    elif name == "Readings CSV":
        write_text(path, readings_to_csv(session.job))
    else:
        write_text(path, job_to_json(session.records, session.logbook.photos_of(session.records)))
