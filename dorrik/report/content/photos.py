"""Photos beside the observations they show: which are printed, how large, and in which words."""

from collections.abc import Callable
from pathlib import Path
from typing import Any

from dorrik.core.inspection.records import Inspection, Observation, Photo

#: Where what is printed of a photo lies, as a file, by the digest of its content and the size that it is printed in
#: ('small', 'large'); None where it has not arrived yet.
Fetch = Callable[[str, str], str | None]
AS_LEFT = "as left"


def put_into(folder: Path, get: Callable[[str, str], bytes | None]) -> Fetch:
    """Puts what is printed of photos into a folder as it is asked for. get: its content, by the digest of the photo and
    the size."""

    def fetch(sha256: str, size: str) -> str | None:
        path = folder / f"{sha256}.{size}.jpg"
        if not path.exists():
            content = get(sha256, size)
            if content is None:
                return None
            path.write_bytes(content)
        return str(path)

    return fetch


def none_kept(sha256: str, size: str) -> str | None:
    """Where no photos are kept."""
    return None


def printed(inspection: Inspection) -> dict[str, list[Photo]]:
    """The photos that are printed, by what they are pinned to."""
    pinned: dict[str, list[Photo]] = {}
    for photo in inspection.photos:
        if photo.about_id and photo.sha256 and photo.print_size != "not":
            pinned.setdefault(photo.about_id, []).append(photo)
    return pinned


def beside(observation: Observation, pinned: list[Photo], fetch: Fetch) -> list[dict[str, Any]]:
    """Photos pinned to an observation, as found before as left, as `shown` has them."""
    return [
        shown(photo, f"{_when(photo)}: {photo.caption or observation.text or 'photo'}", fetch)
        for photo in sorted(pinned, key=lambda p: p.shows == AS_LEFT)
    ]


def of_the_supply(inspection: Inspection, fetch: Fetch, most: int) -> list[dict[str, Any]]:
    """Photos of the origin and of observations on it, as `shown` has them, no more than so many."""
    pinned = printed(inspection)
    photos = [(photo, photo.caption or "At the origin of the supply") for photo in pinned.get(inspection.id, [])]
    for observation in inspection.observations:
        if observation.about_id in (None, inspection.id):
            photos += [
                (photo, photo.caption or observation.text or "photo") for photo in pinned.get(observation.id, [])
            ]
    return [shown(photo, f"{_when(photo)}: {words}", fetch) for photo, words in photos[:most]]


def shown(photo: Photo, words: str, fetch: Fetch) -> dict[str, Any]:
    """File, marks, size, caption and words of a photo. It is drawn where it is typeset (`report.pdf`): there may be
    hundreds."""
    size = photo.print_size if photo.print_size == "large" else "small"
    jpeg = fetch(photo.sha256, size) if photo.sha256 else None
    return {
        "jpeg": jpeg or "",
        "marks": photo.marks or (),
        "size": size,
        "caption": words if jpeg else f"{words} (the photo has not arrived yet)",
        "words": words,
    }


def _when(photo: Photo) -> str:
    return "As left" if photo.shows == AS_LEFT else "As found"
