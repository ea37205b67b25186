"""What one device wrote and another sends for it: the author stays who wrote it, by the signature of their device."""

import base64

from fastapi import Request
from pydantic import ValidationError

from dorrik.api import inspections
from dorrik.api.change_types import Malformed
from dorrik.api.common_types import Problem
from dorrik.api.device_types import HandedOver, HandoverBundle, HandoverIn, NotTaken
from dorrik.api.problems import RESPONSES, ProblemError
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.api.worker_pool import WorkerPool
from dorrik.store.people import people, work_devices

router = make_router("/api/handovers", "devices", {**RESPONSES, 422: {"model": Problem}})

UNREADABLE = "This cannot be read as something handed over. Take it from the other device again."
UNSIGNED = (
    "It was not signed by a device that is known here, or that device was ended, or it was changed on its way. Nothing "
    "of it was taken; the other device still has it."
)


@router.post("")
async def take(request: Request, given: HandoverIn) -> HandedOver:
    """Take what another device of the firm wrote, under the name of who wrote it there. Sent again, or by the device
    itself later, each entry counts once."""
    pool: WorkerPool = request.app.state.changing
    return await pool.run(lambda: _take(request, given))


def _take(request: Request, given: HandoverIn) -> HandedOver:
    try:
        bundle = HandoverBundle.model_validate_json(given.bundle)
    except ValidationError:
        raise ProblemError(422, "unreadable", UNREADABLE) from None
    with work(request, only_reads=True) as (connection, me):
        author = people.of_firm(connection, me.firm_id, bundle.person)
        signature = base64.b64decode(given.signature)
        message = given.bundle.encode()
        if author is None or not work_devices.has_signed(
            connection, bundle.device, bundle.person, message, signature
        ):  # fmt: skip
            raise ProblemError(409, "not-signed", UNSIGNED)
    kept = already = 0
    refused: list[NotTaken] = []
    for inspection in bundle.inspections:
        sound = inspections.sound_changes(inspection.changes)
        done = inspections.take(request, inspection.inspection_id, sound, by=author) if sound else None
        malformed = [c for c in inspection.changes.changes if isinstance(c, Malformed)]
        refused += [NotTaken(id=c.id, inspection_id=inspection.inspection_id, reason=c.reason) for c in malformed]
        if done is None:
            refusal = "The server has no such inspection."
            refused += [NotTaken(id=c.id, inspection_id=inspection.inspection_id, reason=refusal) for c in sound]
            continue
        kept += sum(result.state == "kept" for result in done.results)
        already += sum(result.state == "already" for result in done.results)
        refused += [
            NotTaken(id=result.id, inspection_id=inspection.inspection_id, reason=result.reason or "It was refused.")
            for result in done.results
            if result.state == "refused"
        ]
    with work(request) as (connection, me):
        note(request, connection, me, "handed over", author.name, kept=kept, already=already, refused=len(refused))
    return HandedOver(author=author.name, kept=kept, already=already, refused=refused)
