"""Signatures on paper: typed, or drawn by hand, with who, as what and when."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from dorrik.report.content import Signature
from dorrik.report.content.words import moment

#: What a hand draws on, in its own units.
WIDE, HIGH = 1000, 300
INSPECTED, AUTHORISED = "Inspected, tested and reported by", "Authorised by"


def signature(says: str, name: str, role: str, at: datetime, kept: Mapping[str, Any]) -> Signature:
    """A signature for paper. at: when it arrived, universal time; kept: as `SignatureIn` gives it, with the moment in
    which it was given where that was before."""
    when = moment(kept.get("signed_at") or f"{at.isoformat()}Z")
    strokes = kept.get("strokes")
    if strokes:
        return Signature(says, name, role, when, drawn=drawing(strokes))
    return Signature(says, name, role, when, typed=True)


def drawing(strokes: Sequence[Sequence[Sequence[int]]]) -> str:
    """Strokes of a pen as SVG. Each is a list of points across and down (0 to WIDE, 0 to HIGH)."""
    paths = "".join(f'<path d="M{" L".join(f"{x} {y}" for x, y in stroke)}"/>' for stroke in strokes if len(stroke) > 1)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDE} {HIGH}" fill="none" stroke="#17272b" '
        f'stroke-width="7" stroke-linecap="round" stroke-linejoin="round">{paths}</svg>'
    )
