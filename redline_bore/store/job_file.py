"""A job in and out as JSON: its whole ledger, with a published JSON Schema (docs/job.schema.json)."""

from __future__ import annotations

import base64
import binascii
import json
from collections.abc import Sequence
from functools import lru_cache
from typing import Annotated, Any, Literal, Union

from pydantic import BaseModel, ConfigDict, Field, ValidationError, create_model

from redline_bore.core.errors import BenchError, Fault, FaultyInput, InputError
from redline_bore.core.figures import Figures
from redline_bore.core.frozen import frozen
from redline_bore.job.kinds.codec import record_to_plain
from redline_bore.job.kinds.entry import Record
from redline_bore.job.kinds.fold import fold
from redline_bore.job.kinds.kind import KINDS
from redline_bore.job.words.trial import trial
from redline_bore.store.ledger_faults import ledger_faults
from redline_bore.store.photos import PhotoBytes, photo_of

FORMAT = "redline-bore-job"
MOST_ENTRIES = 60_000
STRICT = ConfigDict(extra="forbid", allow_inf_nan=False)


@lru_cache(maxsize=1)
def job_model() -> type[BaseModel]:
    """The pydantic model of a job file."""
    every: Any = Union[tuple(kind.entry for kind in KINDS.values())]  # noqa: UP007  (made from the declarations)
    record_fields: dict[str, Any] = {
        "seq": (Annotated[int, Field(ge=1)], ...),
        "at": (Annotated[str, Field(description="ISO 8601 with zone")], ...),
        "person": (str, ...),
        "entry": (Annotated[every, Field(discriminator="kind")], ...),
        "instrument": (str, ""),
        "block_c": (float | None, None),
        "typed": (str, ""),
        "version": (Literal[1], 1),
    }
    photo_fields: dict[str, Any] = {
        "sha256": (Annotated[str, Field(pattern="^[0-9a-f]{64}$")], ...),
        "media": (Literal["image/png", "image/jpeg"], ...),
        "data": (Annotated[str, Field(description="base64")], ...),
    }
    record: Any = create_model("LedgerRecord", __config__=STRICT, **record_fields)
    photo: Any = create_model("LedgerPhoto", __config__=STRICT, **photo_fields)
    job_fields: dict[str, Any] = {
        "format": (Literal["redline-bore-job"], ...),
        "version": (Literal[1], ...),
        "ledger": (Annotated[list[record], Field(min_length=1)], ...),
        "photos": (list[photo], []),
    }
    made: type[BaseModel] = create_model("RedlineBoreJob", __config__=STRICT, **job_fields)
    return made


def job_schema() -> dict[str, Any]:
    """The JSON Schema of a job file: lengths in mm, temperatures in C, angles in degrees."""
    return job_model().model_json_schema()


@frozen(often=True)
class JobFile:
    """A job as a file holds it: its ledger, and the photos the ledger names."""

    ledger: tuple[Record, ...]
    photos: tuple[PhotoBytes, ...] = ()


def job_to_json(ledger: tuple[Record, ...], photos: Sequence[PhotoBytes] = ()) -> str:
    """A job as JSON text."""
    table: dict[str, Any] = {"format": FORMAT, "version": 1, "ledger": [record_to_plain(r) for r in ledger]}
    if photos:
        table["photos"] = [
            {"sha256": p.sha256, "media": p.media, "data": base64.b64encode(p.data).decode("ascii")} for p in photos
        ]
    return json.dumps(table, indent=1, allow_nan=False)


def job_from_json(text: str, shipped: Figures) -> JobFile:
    """The job of a file. Raises FaultyInput with every fault and its path; nothing half is taken in."""
    if text.count('"kind"') > MOST_ENTRIES:
        raise FaultyInput([Fault("file", f"it holds more than {MOST_ENTRIES} entries; no job does")])
    try:
        model: Any = job_model().model_validate_json(text)
    except ValidationError as error:
        raise FaultyInput([Fault(_path(e["loc"]), _reason(e)) for e in error.errors()[:50]]) from error
    ledger = tuple(
        Record(r.seq, r.at, r.person, r.entry, r.instrument, r.block_c, r.typed, r.version) for r in model.ledger
    )
    photos, faults = _photos(model.photos)
    if faults := faults + ledger_faults(ledger):
        raise FaultyInput(faults)
    try:
        trial(fold(ledger, shipped))
    except BenchError as error:
        raise FaultyInput([Fault("ledger", str(error))]) from error
    except Exception as error:  # what no page can be made of is no job, whatever is wrong with it
        raise FaultyInput([Fault("ledger", f"it cannot be shown: {type(error).__name__}: {error}"[:300])]) from error
    return JobFile(ledger, photos)


def _photos(rows: Sequence[Any]) -> tuple[tuple[PhotoBytes, ...], list[Fault]]:
    found, faults = [], []
    for i, row in enumerate(rows):
        try:
            photo = photo_of(base64.b64decode(row.data, validate=True), "this photo")
        except (binascii.Error, InputError) as error:
            faults.append(Fault(f"photos[{i}].data", str(error)))
            continue
        if photo.sha256 != row.sha256:
            faults.append(Fault(f"photos[{i}].sha256", "is not the hash of its data: the photo is damaged"))
        found.append(photo)
    return tuple(found), faults


def _path(loc: tuple[int | str, ...]) -> str:
    parts = [f"[{p}]" if isinstance(p, int) else f".{p}" for p in loc if p not in KINDS]
    return "".join(parts).lstrip(".") or "file"


def _reason(error: Any) -> str:
    message = str(error["msg"])
    return message[0].lower() + message[1:]
