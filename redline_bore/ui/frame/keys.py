"""Every key, in one table: the menu and the help panel are both made from it."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Key:
    """A command: its name in the code, its words, its keys, and the group it stands in."""

    name: str
    words: str
    keys: tuple[str, ...]
    group: str


KEYS = (
    Key("enter", "Book, or what the button says", ("Return", "Enter"), "At the bench"),
    Key("read", "Take a reading (field empty, or after a blank)", ("Space",), "At the bench"),
    Key("press", "Press the simulated gauge's own button", ("G",), "At the bench"),
    Key("strike", "Strike out the last entry", ("Backspace", "Ctrl+Z"), "At the bench"),
    Key("restore", "Let a struck entry count again", ("Ctrl+Y",), "At the bench"),
    Key("plate", "Plate on or off", ("P",), "At the bench"),
    Key("units", "Millimetres or inches", ("U",), "At the bench"),
    Key("field", "Letters go to the field: a word, a piston", ("M",), "At the bench"),
    Key("next_place", "Gauge: to the next place not read", ("Home",), "At the bench"),
    Key("quick_plan", "Gauge: quick, full or race plan", ("L",), "At the bench"),
    Key("next_page", "The next page of this step", ("V",), "At the bench"),
    Key("page_before", "The page before", ("Shift+V",), "At the bench"),
    Key("defect", "Gauge: mark a defect where the maps are read", ("D",), "At the bench"),
    Key("swept", "Gauge: the map by sweeps, or by two points", ("T",), "At the bench"),
    Key("keep_study", "Bore and Sleeve: stamp the next check; gauge study: keep its U", ("K",), "At the bench"),
    Key("sleeve", "Call: sleeve this cylinder, or not", ("S",), "At the bench"),
    Key("beside", "Call: keep this call to compare with", ("B",), "At the bench"),
    Key("axis", "Call: bored about which axis", ("A",), "At the bench"),
    Key("wear_share", "Call: wear on the worse side", ("Y",), "At the bench"),
    Key("hone_allowance", "Call: what is left for the hone", ("H",), "At the bench"),
    Key("odd_cylinder", "Call: what one odd cylinder does", ("O",), "At the bench"),
    Key("next_step", "Hone: on to its next step", ("N",), "At the bench"),
    Key("stroke", "Hone set-up: let the stone move, or stop it", ("J",), "At the bench"),
    Key("practice", "Whose clearance leads; honing practice; Ra or the family", ("C",), "At the bench"),
    Key("working", "Show working", ("W", "F2"), "Looking"),
    Key("ledger", "The ledger, struck entries too", ("Ctrl+L",), "Looking"),
    Key("keys", "All keys", ("?", "F1"), "Looking"),
    Key("previous", "The step before", ("PgUp",), "Looking"),
    Key("following", "The step after", ("PgDown",), "Looking"),
    Key("night", "Night shift or day", ("Ctrl+D",), "Looking"),
    Key("larger", "Everything larger", ("Ctrl++", "Ctrl+="), "Looking"),
    Key("smaller", "Everything smaller", ("Ctrl+-",), "Looking"),
    Key("jobs", "Jobs in the logbook", ("Ctrl+J",), "Jobs and files"),
    Key("new", "Book in a new job", ("Ctrl+N",), "Jobs and files"),
    Key("take_in", "Readings, a trace or a job from a file", ("Ctrl+O",), "Jobs and files"),
    Key("pdf", "The customer's sheet as PDF", ("Ctrl+P",), "Jobs and files"),
    Key("export", "Sheets, readings, finish and job to a folder", ("Ctrl+E",), "Jobs and files"),
    Key("half_page", "Second opinion: the half page", ("Ctrl+H",), "Jobs and files"),
    Key("quote", "Call: the quote, or the order list; Hone: the bench sheet", ("Ctrl+B",), "Jobs and files"),
    Key("pictures", "Pictures as PNG and SVG", ("Ctrl+Shift+E",), "Jobs and files"),
    Key("photo", "A photo of the defect; Finish: of the crosshatch", ("Ctrl+I",), "Jobs and files"),
    Key("figures", "Shop figures", ("Ctrl+F",), "Jobs and files"),
    Key("simulated", "Connect the simulated gauge", ("Ctrl+G",), "Instruments"),
    Key("simulated_three", "Connect the simulated three-point gauge", ("Ctrl+3",), "Instruments"),
    Key("simulated_spindle", "Connect the simulated spindle indicator", ("Ctrl+4",), "Instruments"),
    Key("simulated_hone", "Connect the simulated hone's load", ("Ctrl+5",), "Instruments"),
    Key("simulated_profilometer", "Connect the simulated profilometer", ("Ctrl+6",), "Instruments"),
    Key("simulated_thermometer", "Connect the simulated thermometer", ("Ctrl+T",), "Instruments"),
    Key("port", "Connect a gauge at a port", ("Ctrl+Shift+G",), "Instruments"),
    Key("leave", "Close a panel, empty the field", ("Esc",), "Looking"),
    Key("quit", "Leave the program", ("Ctrl+Q",), "Jobs and files"),
)

TYPED = (
    ("22.9 C  ·  73 F", "the block's temperature, in any step"),
    ("strike 123 wrong cylinder  ·  restore 123", "any entry of the ledger, in any step"),
    ("who RM", "the initials on what is booked from now on"),
    ("105.214  ·  +0.214  ·  +21", "gauge: a size, a distance from the gauge's zero, an oversize"),
    ("plan race  ·  levels 10 24 60 as tall  ·  clocks 0 45 90 135", "gauge: which places are read"),
    ("zero 105.000 20.4 C  ·  master +0.001", "gauge: the zero on a master, and a look at it afterwards"),
    ("spindle mains", "gauge: an indicator is set up on a spindle; sweeps from now on share its axis"),
    ("plate fastener 12 torque 110 lubricant engine oil  ·  head same", "gauge: what holds plate and head down"),
    ("other Marigold plate off block 58 F  ·  other 1 3.2699 at 2.0 clock 0", "gauge: a second opinion"),
    ("photo scratch.jpg", "gauge: a picture for the defect that is lit"),
    ("port /dev/ttyUSB0 two-point in {skip} {value}", "a real gauge by its own line pattern"),
    ("gap 0.56 at 14", "gauge: a ring's end gap, 14 down"),
    (
        "rust 0.18 at 60 to 75 clock 250 wide 60",
        "gauge: a score, pit, rust, crack, heat mark, smear or groove; or catches, can feel, catches hard in place of the depth",
    ),
    ("wall 4.6 at 60 clock 90", "gauge: wall thickness by ultrasound"),
    ("105.92  ·  105.92 21 C", "call: the piston of this cylinder at its gauge point"),
    ("sheet 0.065 0.085", "call: a clearance window; also manual, habit"),
    (
        "chamber 62 dish 4.5 gasket 107 x 1.2 deck 0.35",
        "call: what lies above the piston, volumes in cm³; for the compression",
    ),
    (
        "bar TPG 321  ·  bar radius 0.4 positive plain feed 0.1 rpm 900 deck",
        "bore: the insert by its inch code or by hand; feed and speed are proposed where they are not typed",
    ),
    ("insert TPG 321 coated 5  ·  turn worn", "bore: five inserts come onto the shelf; an edge is used up"),
    ("machine north thick 60 reach 250 speeds 110 150 210", "bore: the bar and the steps of its gearbox"),
    (
        "105.612 105.610 105.611 across 105.611 105.609 105.610  ·  set 105.600 105.612",
        "bore: what the hole came out at, top to bottom, at two angles; with the setting where it was another",
    ),
    ("note hit and skip at 120  ·  note web at 190", "bore: what was heard or seen at the cut"),
    ("old 3.682  ·  parent 3.680 3.681 3.680 3.679 at 1.5", "sleeve: the old sleeve's outside; a ring of the parent"),
    ("sleeve 3.6833 x 3.470 flange 0.250 long 6.3 20 C", "sleeve: outside and bore of the sleeve that goes in"),
    (
        "outside 110 to 118  ·  cold -75 C  ·  protrusion 0.001 0.003",
        "sleeve: the parent's outside; how cold; the flange",
    ),
    (
        "deck 0 0.002 / 0.004 0.006  ·  faced 0.004  ·  counterbore 0.2484",
        "sleeve: heights front to back; what came off",
    ),
    ("after 3.4862 3.4860 3.4861", "sleeve: its bore once it sits and is cold"),
    (
        "42 106.012 106.010  ·  taken 0.045",
        "hone: double strokes, then sizes from the top down; what the machine says it took",
    ),
    (
        "stones vitrified 150 4 x 10 long 70 new  ·  angle 30  ·  angle 15 flat",
        "hone: the stones; the crosshatch, included or from the horizontal",
    ),
    (
        "hone vertical rpm 170 strokes 50 over 20 20 dwell 0 0.5 load 20  ·  hone drill rpm 150",
        "hone: vertical, manual, drill or ball; what is not typed is proposed",
    ),
    (
        "steps rough 0.05 vitrified 150, plateau 0 brush 600  ·  note pin hole at 150",
        "hone: steps of one's own; an opening in the wall",
    ),
    (
        "trace wall.csv mm um at top before  ·  picture wall.png  ·  window Rvk 1.2 2.0",
        "finish: a trace from a file; the crosshatch; the ring maker's own window, µm",
    ),
    (
        "final 83.066 83.067 across 83.067 83.068  ·  rings 0.40 0.45  ·  washed  ·  oiled",
        "sign off: the finished hole, its ring gaps, the care taken",
    ),
    (
        "accept 1 the owner knows  ·  reopen to file a ring",
        "sign off: an open point is taken on; a signed job is opened again",
    ),
)


def keys_html(size_px: int, grey: str) -> str:
    """The help panel: keys by group, and what may be typed."""
    parts = []
    for group in dict.fromkeys(k.group for k in KEYS):
        rows = "".join(
            f"<tr><td style='padding-right:18px; white-space:nowrap'><b>{' '.join(k.keys)}</b></td><td>{k.words}</td></tr>"
            for k in KEYS
            if k.group == group
        )
        parts.append(f"<p style='color:{grey}'>{group}</p><table cellpadding='2'>{rows}</table>")
    arrows = "<p>Arrows walk the reading ring, or move the redline; Shift and arrows read the maps, or move one cylinder alone in the call. Alt+1 to 9 and 0 pick a cylinder, Alt+Shift goes on from 11; in the call and at sign-off plain digits do.</p>"
    typed = "".join(
        f"<tr><td style='padding-right:18px; white-space:nowrap'><b>{t}</b></td><td>{w}</td></tr>" for t, w in TYPED
    )
    bench, looking, files, instruments = parts
    left, right = bench + instruments, looking + files
    return (
        f"<table width='100%'><tr><td width='50%' valign='top'>{left}</td><td valign='top'>{right}</td></tr></table>{arrows}"
        f"<p style='color:{grey}'>What may be typed; M first where it begins with a letter, or in the call with a figure</p><table cellpadding='2' style='font-size:{size_px}px'>{typed}</table>"
    )
