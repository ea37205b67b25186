"""No Zs because the RCD trips: where its half test has shown that it holds, the observation of rule 7.4 is known before
the reason is chosen, and both are one tap."""

from collections.abc import Iterator

from dorrik.core.basics.record import record
from dorrik.core.inspection.circuit import TRIPS
from dorrik.core.judging.topics.context import Context
from dorrik.core.judging.topics.loops import trips
from dorrik.core.judging.topics.rcds import leaks_too_much

#: What is raised of a device that holds at half its rating and trips on loop tests.
KEY = "rcd-trips-on-test"


@record
class NotPossible:
    """A reason for which there is no Zs of these circuits, and the catalogue entry that it raises of which device."""

    reason: str
    key: str
    entity: str
    entity_id: str
    name: str
    circuit_ids: tuple[str, ...]


def not_possible(context: Context) -> Iterator[NotPossible]:
    """One for each device, as long as none of its circuits says so: it is observed once for each (rule 7.4)."""
    noted = {o.about_id for o in context.inspection.observations if o.catalogue_key == KEY}
    for device in context.rcds:
        if device.half != "correct" or device.id in noted or any(trips(circuit) for circuit in device.circuits):
            continue
        if leaks_too_much(device):
            # That has said why it trips, and has an observation of its own.
            continue
        open_still = tuple(c.id for c in device.circuits if c.zs_ohm is None and c.zs_not_possible is None)
        if open_still:
            yield NotPossible(TRIPS, KEY, device.entity, device.id, device.name, open_still)
