"""Traces as X3P (ISO 5436-2, ISO 25178-72): a zip of main.xml and the points, lengths in metres.

Nothing of the archive is trusted: members are read up to what a trace can need, entities and document types are refused,
sizes and checksums are checked before anything is made of them.
"""

from __future__ import annotations

import hashlib
import io
import lzma
import re
import zipfile
import zlib
from typing import Any
from xml.etree.ElementTree import ParseError

import numpy as np

from redline_bore.core.errors import InputError
from redline_bore.core.texture.profile import MOST_POINTS, Trace, even_trace, trace_from

MOST_MEMBERS, MOST_XML, MOST_NODES = 64, 4_000_000, 300_000
DEEPEST_XML = 40
TYPES = {"D": "<f8", "F": "<f4", "L": "<i4", "I": "<i2"}
NAMESPACE = "http://www.opengps.eu/2008/ISO5436_2"


def trace_of_x3p(data: bytes) -> Trace:
    """The trace of an X3P file. Raises InputError with the reason."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            if len(archive.infolist()) > MOST_MEMBERS:
                raise InputError("This X3P holds far more files than a trace has")
            xml = _member(archive, "main.xml", MOST_XML)
            root = _parsed(xml)
            _check_main(archive, root, xml)
            return _trace(archive, root)
    except (
        zipfile.BadZipFile,
        zlib.error,
        lzma.LZMAError,
        NotImplementedError,
        RuntimeError,
        EOFError,
        ValueError,
        OSError,
        OverflowError,
    ) as error:
        raise InputError(f"This is no X3P file, or it is damaged ({error})") from error


def _member(archive: zipfile.ZipFile, name: str, most: int) -> bytes:
    """A member, read up to ``most`` bytes whatever its header says."""
    try:
        info = archive.getinfo(name)
    except KeyError:
        raise InputError(f"The X3P file has no {name[:60]}") from None
    if info.file_size > most:
        raise InputError(f"{name[:60]} would unpack to {info.file_size} bytes; no trace needs so much")
    with archive.open(info) as member:
        found = member.read(most + 1)
    if len(found) > most:
        raise InputError(f"{name[:60]} unpacks to more than it says; it is not taken")
    return found


def _parsed(xml: bytes) -> Any:
    from defusedxml import ElementTree
    from defusedxml.common import DefusedXmlException

    if xml.count(b"<") > MOST_NODES:
        raise InputError("main.xml is far longer than that of a trace")
    if _deep(xml) > DEEPEST_XML:
        raise InputError("main.xml is nested deeper than that of any trace")
    try:
        return ElementTree.fromstring(xml, forbid_dtd=True)
    except DefusedXmlException as error:
        raise InputError("main.xml defines entities or a document type; it is not taken") from error
    except (ParseError, LookupError, ValueError) as error:  # LookupError: an encoding that nobody knows
        raise InputError(f"main.xml cannot be read: {error}") from error


def _deep(xml: bytes) -> int:
    """How deep the elements are nested, at the most."""
    now = most = 0
    for sign in re.finditer(rb"<(/?)[A-Za-z_][^<>]*?(/?)>", xml):
        now += -1 if sign[1] else 0 if sign[2] else 1
        most = max(most, now)
    return most


def _find(root: Any, path: str) -> str | None:
    """Text at a path of plain names, whatever the namespace."""
    node = root
    for name in path.split("/"):
        node = next((child for child in node if child.tag.rpartition("}")[2] == name), None)
        if node is None:
            return None
    return (node.text or "").strip()


def _wanted(root: Any, path: str) -> str:
    found = _find(root, path)
    if not found:
        raise InputError(f"main.xml does not say {path}")
    return found


def _check_main(archive: zipfile.ZipFile, root: Any, xml: bytes) -> None:
    name = _find(root, "Record4/ChecksumFile")
    if name and name in archive.namelist():
        told = _member(archive, name, 4096).split()
        if told and told[0].decode("ascii", "replace").lower() != hashlib.md5(xml, usedforsecurity=False).hexdigest():
            raise InputError("main.xml is not what its checksum says; the file is damaged")


def _trace(archive: zipfile.ZipFile, root: Any) -> Trace:
    kind = _wanted(root, "Record1/FeatureType")
    if kind != "PRF":
        raise InputError(f"This X3P holds a {kind[:20]}, not a profile (PRF)")
    sizes = [_size(root, axis) for axis in "XYZ"]
    if sizes[1] != 1 or sizes[2] != 1 or not 3 <= sizes[0] <= MOST_POINTS:
        told = " by ".join(str(s) for s in sizes)
        raise InputError(f"{told} points cannot be one trace; 3 to {MOST_POINTS} in a row can")
    count = sizes[0]
    link = _find(root, "Record3/DataLink/PointDataLink")
    if link:
        x, z = None, _binary(archive, root, link, count)
    else:
        x, z = _listed(root, count)
    z = z * _factor(root, "CZ") + _offset(root, "CZ")
    if _find(root, "Record1/Axes/CX/AxisType") == "A" and x is not None:
        return trace_from(x * 1000.0, z * 1e6)
    return even_trace(_factor(root, "CX") * 1e6, z * 1e6)


def _size(root: Any, axis: str) -> int:
    text = _wanted(root, f"Record3/MatrixDimension/Size{axis}")
    try:
        return int(text)
    except ValueError:
        raise InputError(f"Size{axis} is “{text[:20]}”, no whole number") from None


def _factor(root: Any, axis: str) -> float:
    value = _float(root, f"Record1/Axes/{axis}/Increment", 1.0)
    if not (np.isfinite(value) and value > 0.0):
        raise InputError(f"The increment of {axis} cannot be {value:g}")
    return value


def _offset(root: Any, axis: str) -> float:
    return _float(root, f"Record1/Axes/{axis}/Offset", 0.0)


def _float(root: Any, path: str, usual: float) -> float:
    text = _find(root, path)
    try:
        return float(text) if text else usual
    except ValueError:
        raise InputError(f"{path} is “{text[:20] if text else ''}”, no figure") from None


def _binary(archive: zipfile.ZipFile, root: Any, link: str, count: int) -> Any:
    """Heights of the binary member; an absolute x axis cannot be in it with a profile."""
    kind = TYPES.get(_find(root, "Record1/Axes/CZ/DataType") or "D")
    if kind is None:
        raise InputError("The heights are of a type that X3P does not know")
    if _find(root, "Record1/Axes/CX/AxisType") == "A":
        raise InputError("A profile with its own places in a binary part is not read; save it with even steps")
    raw = _member(archive, link, MOST_POINTS * 8)
    told = _find(root, "Record3/DataLink/MD5ChecksumPointData")
    if told and told.lower() != hashlib.md5(raw, usedforsecurity=False).hexdigest():
        raise InputError("The points are not what their checksum says; the file is damaged")
    if len(raw) != count * np.dtype(kind).itemsize:
        raise InputError(f"{count} points are announced, {len(raw)} bytes are there; the file is damaged")
    heights = np.frombuffer(raw, kind).astype(float)
    valid = _find(root, "Record3/DataLink/ValidPointsLink")
    if valid:
        bits = np.unpackbits(np.frombuffer(_member(archive, valid, MOST_POINTS), np.uint8), bitorder="little")
        if len(bits) < count or not bits[:count].all():
            missing = count - int(bits[:count].sum())
            raise InputError(f"{missing} points are missing in this trace; nothing is filled in, trace it again")
    return heights


def _listed(root: Any, count: int) -> tuple[Any, Any]:
    """Places and heights of a list in main.xml; an empty datum is a missing point."""
    record = next((c for c in root if c.tag.rpartition("}")[2] == "Record3"), None)
    listed = None if record is None else next((c for c in record if c.tag.rpartition("}")[2] == "DataList"), None)
    if listed is None:
        raise InputError("The X3P file holds no points")
    rows = []
    for datum in listed:
        cells = (datum.text or "").split(";")
        try:
            rows.append(
                (
                    float(cells[0]) if len(cells) > 1 and cells[0] else 0.0,
                    float(cells[-1]) if cells[-1].strip() else np.nan,
                )
            )
        except ValueError:
            raise InputError(f"A point is no figure: “{(datum.text or '')[:30]}”") from None
    if len(rows) != count:
        raise InputError(f"{count} points are announced, {len(rows)} are there; the file is damaged")
    table = np.array(rows)
    return table[:, 0], table[:, 1]


def x3p_of(trace: Trace, when: str = "") -> bytes:
    """A trace as X3P, heights as doubles in metres."""
    points = (trace.heights_um * 1e-6).astype("<f8").tobytes()
    at = (when or "1970-01-01T00:00:00")[:19]
    axis = "<{0}><AxisType>{1}</AxisType><DataType>D</DataType><Increment>{2:.10g}</Increment><Offset>0</Offset></{0}>"
    step = trace.step_um * 1e-6
    axes = axis.format("CX", "I", step) + axis.format("CY", "I", step) + axis.format("CZ", "A", 1.0)
    xml = (
        '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n'
        f'<p:ISO5436_2 xmlns:p="{NAMESPACE}"><Record1><Revision>ISO5436 - 2000</Revision><FeatureType>PRF</FeatureType>'
        f"<Axes>{axes}</Axes></Record1><Record2><Date>{at}</Date><Instrument><Manufacturer>none</Manufacturer>"
        "<Model>trace kept in a logbook</Model><Serial>none</Serial><Version>1</Version></Instrument>"
        f"<CalibrationDate>{at}</CalibrationDate><ProbingSystem><Type>Contacting</Type><Identification>profilometer"
        "</Identification></ProbingSystem></Record2><Record3><MatrixDimension>"
        f"<SizeX>{len(trace.heights_um)}</SizeX><SizeY>1</SizeY><SizeZ>1</SizeZ></MatrixDimension><DataLink>"
        "<PointDataLink>bindata/data.bin</PointDataLink><MD5ChecksumPointData>"
        f"{hashlib.md5(points, usedforsecurity=False).hexdigest().upper()}</MD5ChecksumPointData></DataLink></Record3>"
        "<Record4><ChecksumFile>md5checksum.hex</ChecksumFile></Record4></p:ISO5436_2>\n"
    ).encode()
    checksum = f"{hashlib.md5(xml, usedforsecurity=False).hexdigest()} *main.xml\n".encode()
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, part in (("main.xml", xml), ("bindata/data.bin", points), ("md5checksum.hex", checksum)):
            info = zipfile.ZipInfo(name, date_time=(1980, 1, 1, 0, 0, 0))
            info.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(info, part)
    return made.getvalue()
