"""Drafts that a device makes by itself, without a server: the words of a report or a letter on the inspection that is
open there, ready for the template. It runs in the browser beside the judge (`core/judging/device_judge.py`).

Nothing here is issued or sent: that is the server's. What only the server knows (fonts of other scripts, what other
devices entered meanwhile) a draft does not say.
"""

import json
from collections.abc import Mapping
from datetime import date
from typing import Any

from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.device_judge import DeviceJudge
from dorrik.core.judging.judgement import Judgement
from dorrik.core.judging.readiness import readiness
from dorrik.pictures import drawn_marks
from dorrik.report.content import Issue, content
from dorrik.report.letters import danger_notice, network_operator, set_aside

#: Stands in a drawing where the data of its picture belong: the page has them, and no text is made of them here.
PICTURE = "data:picture"
#: Where nothing gives a reason to write.
_NOTHING = (danger_notice.NoDanger, set_aside.NothingSetAside, network_operator.NoCause)
#: Families that stand in for signs which the report's own has none of: those that ship with the application.
_FAMILIES = ("Noto Sans", "Noto Sans Math")


class DevicePapers:
    """Makes drafts of the inspection that a judge has in hand."""

    def __init__(self, judge: DeviceJudge) -> None:
        self._judge = judge

    def answer(self, text: str) -> str:
        """As `draft`, in JSON."""
        return json.dumps(self.draft(json.loads(text)), ensure_ascii=False, separators=(",", ":"))

    def draft(self, given: Mapping[str, Any]) -> dict[str, Any]:
        """The words of a paper.

        given: `paper` ('report', 'danger', 'set aside', 'operator'), `about` (id of the observation or call, None for
        none), `on` (its date, ISO 8601), `head` (the firm's paper and who writes, as `GET /api/paper-head` tells it),
        `sizes` (width and height of each photo whose picture is here, by its digest). The answer has `template` and
        `inputs` for the typesetter, `drawings` (name, SVG, digest, size, what is made unreadable) and `points` that
        stand in the way of issuing; or `nothing`, which says why there is nothing to write. Raises LookupError where
        no inspection is open or there is no such paper.
        """
        inspection, judgement = self._judge.in_hand()
        issue = Issue(number=0, issued_on=date.fromisoformat(given["on"]), **given["head"])
        drawings = _Drawings(given["sizes"])
        try:
            paper_words = _words(given["paper"], given["about"], inspection, judgement, issue, drawings)
        except _NOTHING as error:
            return {"nothing": str(error)}
        is_report = given["paper"] == "report"
        points = readiness(inspection, judgement) if is_report else ()
        return {
            "template": "condition_report" if is_report else "facts_letter",
            "inputs": {
                "data": json.dumps(drawings.into(paper_words), ensure_ascii=False),
                "fonts": json.dumps(_FAMILIES),
                "attachment": "{}",
            },
            "drawings": drawings.made,
            "points": [{"level": point.level, "stage": point.stage, "text": point.text} for point in points],
        }


def _words(
    paper: str, about: str | None, inspection: Inspection, judgement: Judgement, issue: Issue, drawings: "_Drawings"
) -> dict[str, Any]:
    match paper:
        case "report":
            return content(inspection, judgement, issue, drawings.fetch)
        case "danger":
            return danger_notice.words(inspection, _of(inspection.observations, about), issue)
        case "set aside":
            return set_aside.words(inspection, judgement, issue)
        case "operator" if about is None:
            return network_operator.of_ze(inspection, judgement, issue)
        case "operator":
            call = _of(inspection.operator_calls, about)
            return network_operator.of_call(inspection, judgement, issue, call, photos=drawings.fetch)
        case _:
            raise LookupError(f"There is no paper {paper!r}.")


def _of(entities: tuple[Any, ...], entity_id: str | None) -> Any:
    entity = next((entity for entity in entities if entity.id == entity_id), None)
    if entity is None:
        raise LookupError("What the letter is about is not there any more.")
    return entity


class _Drawings:
    """Photos of a paper as drawings, each in a place of its own for the template; the page fills in the pictures."""

    def __init__(self, sizes: Mapping[str, tuple[float, float]]) -> None:
        self._sizes = sizes
        self.made: list[dict[str, Any]] = []
        self._names: dict[str, str] = {}

    def fetch(self, sha256: str, size: str) -> str | None:
        """The name of a photo until it is drawn; None where its picture is not on this device."""
        return sha256 if sha256 in self._sizes else None

    def into(self, value: Any) -> Any:
        """The words with a drawing for every photo in them."""
        if isinstance(value, Mapping):
            if "jpeg" in value and "marks" in value:
                return {**value, "drawing": self._drawn(value)}
            return {name: self.into(part) for name, part in value.items()}
        return [self.into(part) for part in value] if isinstance(value, list | tuple) else value

    def _drawn(self, photo: Mapping[str, Any]) -> str:
        sha256 = photo["jpeg"]
        if not sha256:
            return ""
        # What is printed twice is drawn once.
        looks = json.dumps([sha256, photo["marks"], photo["words"]], default=str)
        if looks in self._names:
            return self._names[looks]
        width, height = self._sizes[sha256]
        name = self._names[looks] = f"/drawn/{len(self.made) + 1}.svg"
        self.made.append(
            {
                "name": name,
                "svg": drawn_marks.over(PICTURE, width, height, photo["marks"], photo["words"]),
                "sha256": sha256,
                "size": photo["size"],
                "unreadable": [mark for mark in photo["marks"] if mark["kind"] == "blur"],
            }
        )
        return name
