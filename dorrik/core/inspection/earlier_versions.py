"""What documents of earlier versions said in words is read as the fields of today, once, when such a document is read.

No rule searches a sentence for a word (rule 7.4); what was written before there was a field for it keeps its meaning.
"""

from dataclasses import replace

from dorrik.core.inspection.circuit import TRIPS, Circuit
from dorrik.core.inspection.records import Inspection

#: The first version that has a field for why there is no Zs, and whose limitations are only read by people.
FACTS_ARE_FIELDS = 3


def upgraded(inspection: Inspection, version: int) -> Inspection:
    """The inspection as a document of today's version would say it."""
    if version >= FACTS_ARE_FIELDS:
        return inspection
    boards = tuple(replace(b, circuits=tuple(map(_circuit, b.circuits))) for b in inspection.boards)
    return replace(inspection, boards=boards) if boards != inspection.boards else inspection


def _circuit(circuit: Circuit) -> Circuit:
    zs = circuit.zs_ohm
    words = (zs.limitation or "").lower() if zs is not None and zs.kind == "limitation" else ""
    if circuit.zs_not_possible is not None or "trip" not in words:
        return circuit
    return replace(circuit, zs_not_possible=TRIPS)
