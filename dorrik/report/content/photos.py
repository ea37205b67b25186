"""Photos beside the observations they show: which are printed, how large, and in which words."""

from collections.abc import Callable
from typing import Any

from dorrik.core.inspection import Inspection, Observation
from dorrik.pictures import marked

#: What is shown of a photo by the digest of its content; None where it has not arrived yet.
Fetch = Callable[[str], bytes | None]
AS_LEFT = "as left"


def none_kept(sha256: str) -> bytes | None:
    """Where no photos are kept."""
    return None


def beside(inspection: Inspection, observation: Observation, fetch: Fetch) -> list[dict[str, Any]]:
    """Photos pinned to an observation, as found before as left: drawing, size, caption and words for each."""
    pinned = [p for p in inspection.photos if p.about_id == observation.id and p.sha256 and p.print_size != "not"]
    found = []
    for photo in sorted(pinned, key=lambda p: p.shows == AS_LEFT):
        when = "As left" if photo.shows == AS_LEFT else "As found"
        words = f"{when}: {photo.caption or observation.text or 'photo'}"
        size = photo.print_size or "small"
        jpeg = fetch(photo.sha256) if photo.sha256 else None
        if jpeg is None:
            found.append(
                {"svg": "", "size": size, "caption": f"{words} (the photo has not arrived yet)", "words": words}
            )
        else:
            svg = marked.svg(jpeg, photo.marks or (), size, words)
            found.append({"svg": svg, "size": size, "caption": words, "words": words})
    return found
