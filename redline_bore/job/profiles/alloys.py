"""Piston alloys by their key in the figures, as they are said."""

ALLOYS = {
    "piston_cast": "cast",
    "piston_hypereutectic": "hypereutectic",
    "piston_forged_4032": "forged, high silicon",
    "piston_forged_2618": "forged, low silicon",
}
