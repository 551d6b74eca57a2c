"""Traces in and out, and files that mean harm: refused with the reason, memory bounded."""

import io
import tracemalloc
import zipfile

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from redline_bore.core.errors import BenchError, EnvironmentTrouble, InputError
from redline_bore.core.texture.profile import MOST_POINTS, even_trace
from redline_bore.store.traces import files
from redline_bore.store.traces.files import read_trace, trace_of_bytes, write_trace
from redline_bore.store.traces.text import UnitsWanted
from tests.vectors.texture_cases import HERE

POINTS = 9701
PLACES = [i * 0.0005 for i in range(POINTS)]


def rows(separator=",", decimal=".", head="x_mm,z_um", places=PLACES, height=lambda i: 0.3 * (i % 7)):
    body = [f"{x:.6f}{separator}{height(i):.4f}".replace(".", decimal) for i, x in enumerate(places)]
    return "\n".join([*([head] if head else []), *body]).encode()


# -- text ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    "data",
    [
        rows(),
        rows(";", ",", "x [mm];z [um]"),
        rows("\t", ".", "station (mm)\theight (µm)"),
        rows(" ", ".", "x_mm z_um"),
        rows(";", ",", "a trace\nUnit X;mm\nUnit Z;um\nplace;height"),
        rows(";", ".", "place, mm; height, um").replace(b"\n", b"\r\n"),
        b"\xef\xbb\xbf" + rows(),
        rows(head="x (mm),z (\u00b5m)").decode().encode("cp1252"),
    ],
    ids=["comma", "decimal comma", "tab", "blanks", "named units", "dos", "bom", "one-byte micro"],
)
def test_text_in_every_dress_is_one_trace(data):
    trace = trace_of_bytes(data, ".csv")
    assert trace.step_um == pytest.approx(0.5) and len(trace.heights_um) == POINTS
    assert trace.heights_um[:3] == pytest.approx([0.0, 0.3, 0.6])


def test_units_that_are_not_stated_are_asked_for_and_never_guessed():
    bare = rows(head="place,height")
    with pytest.raises(UnitsWanted, match="does not state its units"):
        trace_of_bytes(bare, ".txt")
    assert trace_of_bytes(bare, ".txt", ("mm", "um")).heights_um[1] == pytest.approx(0.3)
    assert trace_of_bytes(bare, ".txt", ("mm", "uin")).heights_um[1] == pytest.approx(0.3 * 0.0254)
    with pytest.raises(InputError, match="no unit of a trace"):
        trace_of_bytes(bare, ".txt", ("mm", "furlong"))
    with pytest.raises(InputError, match="which is it"):
        trace_of_bytes(rows(), ".csv", ("mm", "mm"))


@pytest.mark.parametrize("cell", ["", "nan", "BAD", "---", "inf", "-inf", "NA"])
def test_a_point_that_is_missing_is_counted_and_not_filled_in(cell):
    lines = rows().decode().splitlines()
    lines[500] = lines[500].split(",")[0] + "," + ("***" if cell == "---" else cell)
    with pytest.raises(InputError, match="1 points are missing"):
        trace_of_bytes("\n".join(lines).encode(), ".csv")


@pytest.mark.parametrize(
    "data, words",
    [
        (b"", "No points"),
        (b"x_mm,z_um\n1,2", "No points"),
        (b"PK\x03\x04\x00\x00", "no text file"),
        (rows() + b"\nend of trace", "Line 9703 is no point"),
        (b"words\n" * 300, "first 200 lines"),
        (rows(places=PLACES[:4000]), "too short"),
        (rows(places=[*PLACES[:-1], 99.0]), "not evenly spaced"),
        (rows(height=lambda i: 1e300), "their unit"),
        (b"1,1\n" * (MOST_POINTS + 5), "more than 400000 points"),
    ],
)  # fmt: skip
def test_text_that_is_no_trace_is_refused(data, words):
    with pytest.raises(InputError, match=words):
        trace_of_bytes(data, ".csv", None if data.startswith(b"x_mm") else ("mm", "um"))


@given(st.binary(max_size=400), st.sampled_from(files.ENDINGS))
@settings(max_examples=200)
def test_no_bytes_whatever_bring_it_down(data, kind):
    with pytest.raises(BenchError):
        trace_of_bytes(data, kind)


# -- round trips ---------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("ending", files.WRITTEN)
def test_what_is_written_is_read_again(tmp_path, ending):
    z = np.cumsum(np.random.default_rng(9).normal(size=POINTS)) * 0.02
    path = tmp_path / f"wall{ending}"
    write_trace(even_trace(0.5, z), path, "2026-11-24T08:30:00+00:00")
    again = read_trace(path)
    assert again.step_um == pytest.approx(0.5, rel=1e-6) and np.allclose(again.heights_um, z, atol=0.6e-4)
    assert [p.name for p in tmp_path.iterdir()] == [path.name]  # no half-written file beside it


def test_files_that_cannot_be_are_said(tmp_path, monkeypatch):
    trace = even_trace(0.5, np.zeros(POINTS))
    with pytest.raises(InputError, match="does not say what to write"):
        write_trace(trace, tmp_path / "x.doc")
    with pytest.raises(EnvironmentTrouble, match="cannot be written"):
        write_trace(trace, tmp_path / "none" / "x.csv")
    with pytest.raises(EnvironmentTrouble, match="cannot be read"):
        read_trace(tmp_path / "none.csv")
    with pytest.raises(InputError, match="no trace that is known"):
        read_trace(tmp_path / "x.docx")
    monkeypatch.setattr(files, "MOST_BYTES", 100)
    (tmp_path / "big.csv").write_bytes(b"1,1\n" * 100)
    with pytest.raises(InputError, match="larger than"):
        read_trace(tmp_path / "big.csv")


# -- X3P -----------------------------------------------------------------------------------------------------------


def parts(path=HERE / "everyday.x3p"):
    with zipfile.ZipFile(path) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def packed(members, compression=zipfile.ZIP_DEFLATED):
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", compression) as archive:
        for name, data in members.items():
            archive.writestr(name, data)
    return made.getvalue()


def changed(old, new, drop_checksum=True):
    members = parts()
    xml = members["main.xml"].decode()
    assert old in xml
    members["main.xml"] = xml.replace(old, new, 1).encode()
    if drop_checksum:
        members = {n: d for n, d in members.items() if "md5" not in n}
    return packed(members)


def test_the_reference_file_unpacked_and_packed_again_is_read():
    assert len(trace_of_bytes(packed(parts()), ".x3p").heights_um) == 11201


BOMB = packed({"main.xml": b"<a>" + b" " * 30_000_000 + b"</a>"})
LAUGHS = "<!DOCTYPE a [" + "".join(f'<!ENTITY l{i + 1} "{f"&l{i};" * 10}">' for i in range(9)) + "]><a>&l9;</a>"


@pytest.mark.parametrize(
    "data, words",
    [
        (b"PK\x03\x04 damaged", "no X3P file"),
        (packed({"other.xml": b"<a/>"}), "has no main.xml"),
        (packed({f"{i}.txt": b"" for i in range(70)}), "far more files"),
        (BOMB, "no trace needs so much"),
        (packed({"main.xml": LAUGHS.encode()}), "entities or a document type"),
        (packed({"main.xml": b'<!DOCTYPE a SYSTEM "file:///etc/passwd"><a/>'}), "entities or a document type"),
        (packed({"main.xml": b"<a><b></a>"}), "cannot be read"),
        (packed({"main.xml": b"<a/>"}), "does not say Record1/FeatureType"),
        (changed("<SizeX>11201</SizeX>", "<SizeX>999999999999</SizeX>"), "cannot be one trace"),
        (changed("<SizeX>11201</SizeX>", "<SizeX>-5</SizeX>"), "cannot be one trace"),
        (changed("<SizeX>11201</SizeX>", "<SizeX>many</SizeX>"), "no whole number"),
        (changed("<SizeX>11201</SizeX>", "<SizeX>11200</SizeX>"), "announced"),
        (changed("<FeatureType>PRF<", "<FeatureType>SUR<"), "holds a SUR"),
        (changed("5e-07<", "nan<"), "increment of CX"),
        (changed("5e-07<", "-1<"), "increment of CX"),
        (changed("5e-07<", "half<"), "no figure"),
        (changed("<SizeY>1<", "<SizeY>2<", drop_checksum=False), "checksum"),
    ],
)  # fmt: skip
def test_hostile_x3p_is_refused_with_the_reason(data, words):
    with pytest.raises(InputError, match=words):
        trace_of_bytes(data, ".x3p")


def test_points_that_are_not_what_their_checksum_says():
    members = parts()
    name = next(n for n in members if n.endswith(".bin"))
    members[name] = members[name][:-8] + b"\x00" * 8
    with pytest.raises(InputError, match="checksum"):
        trace_of_bytes(packed(members), ".x3p")


def test_nan_in_the_points_is_a_missing_point():
    members = {n: d for n, d in parts().items() if "md5" not in n}
    xml = members["main.xml"].decode()
    start, end = xml.find("<MD5ChecksumPointData>"), xml.find("</MD5ChecksumPointData>")
    members["main.xml"] = (xml[:start] + xml[end + len("</MD5ChecksumPointData>") :] if start >= 0 else xml).encode()
    name = next(n for n in members if n.endswith(".bin"))
    heights = np.frombuffer(members[name], "<f8").copy()
    heights[40] = np.nan
    members[name] = heights.tobytes()
    with pytest.raises(InputError, match="missing"):
        trace_of_bytes(packed(members), ".x3p")


def test_points_listed_in_the_xml_are_read_too():
    step, count = 5e-7, 9701
    data = "".join(f"<Datum>{i * step:.9f};;{(i % 5) * 1e-7:.9e}</Datum>" for i in range(count))
    xml = (
        "<p><Record1><FeatureType>PRF</FeatureType><Axes><CX><AxisType>A</AxisType></CX><CZ><AxisType>A</AxisType></CZ></Axes>"
        f"</Record1><Record3><MatrixDimension><SizeX>{count}</SizeX><SizeY>1</SizeY><SizeZ>1</SizeZ></MatrixDimension>"
        f"<DataList>{data}</DataList></Record3></p>"
    )
    trace = trace_of_bytes(packed({"main.xml": xml.encode()}), ".x3p")
    assert trace.step_um == pytest.approx(0.5) and trace.heights_um[4] == pytest.approx(0.4)
    empty = xml.replace(";0.000000000e+00<", ";<", 1)
    with pytest.raises(InputError, match="1 points are missing"):
        trace_of_bytes(packed({"main.xml": empty.encode()}), ".x3p")


def x3p(count=9701, kind="D", axes="", heights=None, more="", members=None):
    """A small X3P of our own, without checksums."""
    z = np.zeros(count) if heights is None else heights
    xml = (
        "<p><Record1><FeatureType>PRF</FeatureType><Axes><CX><AxisType>I</AxisType><Increment>5e-07</Increment></CX>"
        f"<CZ><AxisType>A</AxisType><DataType>{kind}</DataType>{axes}</CZ></Axes></Record1>"
        f"<Record3><MatrixDimension><SizeX>{count}</SizeX><SizeY>1</SizeY><SizeZ>1</SizeZ></MatrixDimension>"
        f"<DataLink><PointDataLink>b.bin</PointDataLink>{more}</DataLink></Record3></p>"
    )
    form = {"D": "<f8", "F": "<f4", "L": "<i4", "I": "<i2"}.get(kind, "<f8")
    return packed({"main.xml": xml.encode(), "b.bin": np.asarray(z).astype(form).tobytes()} | (members or {}))


@pytest.mark.parametrize("kind", ["D", "F", "L", "I"])
def test_every_type_of_point_is_read_with_its_scale(kind):
    steps = np.arange(9701) % 7
    scale = "<Increment>1e-7</Increment><Offset>1e-6</Offset>"
    trace = trace_of_bytes(x3p(kind=kind, axes=scale, heights=steps), ".x3p")
    assert trace.heights_um[:8] == pytest.approx(1.0 + 0.1 * (np.arange(8) % 7), abs=1e-6)


def test_points_marked_as_not_valid_are_missing_points():
    bits = np.packbits(np.ones(9701, dtype=bool), bitorder="little")
    link = "<ValidPointsLink>v.bin</ValidPointsLink>"
    assert len(trace_of_bytes(x3p(more=link, members={"v.bin": bits.tobytes()}), ".x3p").heights_um) == 9701
    bits[10] = 0b11110011
    with pytest.raises(InputError, match="2 points are missing"):
        trace_of_bytes(x3p(more=link, members={"v.bin": bits.tobytes()}), ".x3p")
    with pytest.raises(InputError, match="missing"):
        trace_of_bytes(x3p(more=link, members={"v.bin": b"\xff"}), ".x3p")
    with pytest.raises(InputError, match="has no v.bin"):
        trace_of_bytes(x3p(more=link), ".x3p")


def test_what_x3p_does_not_know_is_refused():
    with pytest.raises(InputError, match="of a type that X3P does not know"):
        trace_of_bytes(x3p(kind="Q"), ".x3p")
    members = parts_of(x3p())
    members["main.xml"] = members["main.xml"].replace(b"<AxisType>I</AxisType>", b"<AxisType>A</AxisType>", 1)
    with pytest.raises(InputError, match="its own places"):
        trace_of_bytes(packed(members), ".x3p")
    members = parts_of(x3p())
    members["main.xml"] = members["main.xml"].replace(b"<PointDataLink>b.bin</PointDataLink>", b"")
    with pytest.raises(InputError, match="holds no points"):
        trace_of_bytes(packed(members), ".x3p")


def parts_of(data):
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


@pytest.mark.parametrize(
    "rows, words",
    [("<Datum>0;;x</Datum>" * 3, "no figure"), ("<Datum>0;;1</Datum>" * 2, "3 points are announced, 2 are there")],
)
def test_a_list_of_points_that_is_wrong_is_refused(rows, words):
    members = parts_of(x3p(count=3))
    xml = members["main.xml"].decode()
    start, end = xml.index("<DataLink>"), xml.index("</DataLink>") + len("</DataLink>")
    members["main.xml"] = (xml[:start] + f"<DataList>{rows}</DataList>" + xml[end:]).encode()
    with pytest.raises(InputError, match=words):
        trace_of_bytes(packed(members), ".x3p")


def test_a_member_that_unpacks_to_more_than_it_says_is_not_taken():
    data = bytearray(packed({"main.xml": b"<a>" + b" " * 20_000_000 + b"</a>"}))
    for signature, at in ((b"PK\x03\x04", 22), (b"PK\x01\x02", 24)):
        place = data.index(signature) + at
        data[place : place + 4] = (100).to_bytes(4, "little")  # the header lies about the size
    with pytest.raises(InputError):
        trace_of_bytes(bytes(data), ".x3p")


# -- SDF -----------------------------------------------------------------------------------------------------------

SDF = (HERE / "everyday.sdf").read_bytes()


def sdf(name, value):
    import re

    made, count = re.subn(rf"(?m)^(\s*{name}\s*=).*$", rf"\1 {value}", SDF.decode("latin-1"))
    assert count == 1
    return made.encode("latin-1")


@pytest.mark.parametrize(
    "data, words",
    [
        (b"bISO-1.0" + bytes(80), "binary"),
        (b"hello", "no SDF file"),
        (b"aISO-1.0\nNumPoints = 5", "no end"),
        (sdf("NumPoints", 10**12), "cannot be a trace"),
        (sdf("NumPoints", -3), "cannot be a trace"),
        (sdf("NumPoints", 11200), "damaged"),
        (sdf("NumPoints", "all"), "whole number"),
        (sdf("NumProfiles", 40), "40 profiles"),
        (sdf("Xscale", "nan"), "cannot be"),
        (sdf("Xscale", "0"), "cannot be"),
        (sdf("Zscale", "-1"), "cannot be"),
        (sdf("Zscale", "tall"), "does not say zscale"),
        (sdf("Compression", 1), "compressed"),
    ],
)  # fmt: skip
def test_hostile_sdf_is_refused_with_the_reason(data, words):
    with pytest.raises(InputError, match=words):
        trace_of_bytes(data, ".sdf")


def test_a_bad_point_in_sdf_is_a_missing_point():
    head, _, body = SDF.decode("latin-1").partition("\n*")
    words = body.split()
    bad = head + "\n*\n" + "\n".join(["BAD", *words[1:]]) + "\n"
    with pytest.raises(InputError, match="missing"):
        trace_of_bytes(bad.encode("latin-1"), ".sdf")
    odd = head + "\n*\n" + "\n".join(["x1", *words[1:]]) + "\n"
    with pytest.raises(InputError, match="no figure"):
        trace_of_bytes(odd.encode("latin-1"), ".sdf")


@pytest.mark.parametrize(
    "data, kind",
    [(BOMB, ".x3p"), (packed({"main.xml": LAUGHS.encode()}), ".x3p"), (sdf("NumPoints", 10**12), ".sdf")],
    ids=["zip bomb", "entities", "a million million points"],
)  # fmt: skip
def test_a_hostile_file_does_not_take_the_memory(data, kind):
    tracemalloc.start()
    try:
        with pytest.raises(InputError):
            trace_of_bytes(data, kind)
        assert tracemalloc.get_traced_memory()[1] < 150_000_000
    finally:
        tracemalloc.stop()
