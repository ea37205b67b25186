"""In which building something is: the home itself, or the outbuilding of its board."""

from collections.abc import Mapping

from dorrik.core.inspection.records import Inspection

HOME = ""


def buildings(inspection: Inspection) -> Mapping[str, str]:
    """The outbuilding of everything that hangs on a board of one, by its id: a board's name. What is not listed is of
    the home."""
    building_of: dict[str, str] = {}
    for number, board in enumerate(inspection.boards, 1):
        if not board.outbuilding:
            continue
        name = board.name or f"Outbuilding {number}"
        things = [board.id, *(check.id for check in board.checks), *(rcd.id for rcd in board.rcds)]
        for circuit in board.circuits:
            things += [circuit.id, *(point.id for point in circuit.points)]
        building_of |= dict.fromkeys(things, name)
    return building_of
