"""Every sign that is shown is in the type that ships: a machine without other fonts shows no boxes."""

from pathlib import Path

import pytest
from PyQt6.QtGui import QRawFont

import redline_bore

ROOT = Path(redline_bore.__file__).parent
FACES = sorted((ROOT / "ui" / "theme" / "fonts").glob("*.ttf"))
TOLD = [
    p for pattern in ("**/*.py", "**/*.toml", "**/*.json", "**/*.html", "**/*.md") for p in sorted(ROOT.glob(pattern))
]


@pytest.mark.parametrize("face", FACES, ids=lambda p: p.stem)
def test_every_sign_is_in_the_type(qapp, face):
    font, found = QRawFont(str(face), 14), set()
    for path in TOLD:
        found |= {sign for sign in path.read_text("utf-8") if ord(sign) > 126}
    assert len(TOLD) > 300 and font.isValid()
    assert not sorted(sign for sign in found if not font.supportsCharacter(ord(sign)))
