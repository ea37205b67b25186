"""What client and occupier asked about, each with what was found."""

from typing import Any

from dorrik.core.inspection.records import Concern, Inspection


def section(inspection: Inspection) -> dict[str, Any]:
    """Questions in their order with their answers. One answered by an observation names its code and its place."""
    observations = {observation.id: observation for observation in inspection.observations}

    def row(concern: Concern) -> dict[str, str]:
        seen = observations.get(concern.observation_id or "")
        answers = [concern.answer or ""]
        if seen is not None:
            words = ": ".join(part for part in (seen.place, seen.text) if part)
            answers.append(f"{seen.code or 'Observation'}, {words}")
        return {
            "asked": concern.what or "",
            "by": concern.asked_by or "",
            "found": " ".join(part for part in answers if part),
        }

    return {"concerns": [row(concern) for concern in inspection.concerns if concern.what]}
