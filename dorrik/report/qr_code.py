"""An address as a square code that a phone reads, for paper."""

import io


def drawing(address: str) -> str:
    """The code as SVG, '' for no address."""
    if not address:
        return ""
    # A draft has no code, and a device that makes one has no such library.
    import segno

    out = io.BytesIO()
    segno.make(address, error="m").save(out, kind="svg", xmldecl=False, svgns=True, border=2, scale=4, dark="#17272b")
    return out.getvalue().decode()
