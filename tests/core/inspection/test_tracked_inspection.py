"""A watched inspection reads as the one it is made of, and tells which fields became different."""

from dataclasses import replace

from dorrik.core.basics.cells import Cells
from dorrik.core.basics.readings import Reading
from dorrik.core.inspection.circuit import Circuit
from dorrik.core.inspection.document import parse
from dorrik.core.inspection.tracked_inspection import TrackedInspection
from tests.core.homes import cottage


def circuit_of(inspection):
    return inspection.boards[0].circuits[0]


def with_circuit(inspection, **fields):
    board = inspection.boards[0]
    circuits = (replace(board.circuits[0], **fields), *board.circuits[1:])
    return replace(inspection, boards=(replace(board, circuits=circuits), *inspection.boards[1:]))


def test_it_reads_as_the_inspection_and_stays_the_same_object():
    inspection = parse(cottage())
    watched = TrackedInspection(Cells())
    watched.becomes(inspection)
    top, circuit = watched.top, circuit_of(watched.top)
    assert (top.id, circuit.zs_ohm) == (inspection.id, circuit_of(inspection).zs_ohm)
    changed = with_circuit(inspection, zs_ohm=Reading.parse("0.77"))
    watched.becomes(changed)
    assert watched.top is top and circuit_of(top) is circuit
    assert circuit.zs_ohm == Reading.parse("0.77")
    assert circuit in {circuit} and circuit != circuit_of(changed)
    # A rule that asks what would be with another figure gets a plain circuit.
    other = replace(circuit, zs_ohm=Reading.parse("1.10"))
    assert type(other) is Circuit and other.designation == circuit.designation
    assert isinstance(circuit, Circuit)


def test_only_cells_that_read_a_field_are_worked_out_again():
    cells, runs = Cells(), []
    inspection = parse(cottage())
    watched = TrackedInspection(cells)
    watched.becomes(inspection)

    def zs(circuit):
        runs.append("zs")
        return circuit.zs_ohm

    def name(circuit):
        runs.append("name")
        return circuit.designation

    def count(top):
        runs.append("count")
        return sum(len(board.circuits) for board in top.boards)

    def said():
        circuit = circuit_of(watched.top)
        return cells.made(zs, circuit), cells.made(name, circuit), cells.made(count, watched.top)

    before = said()
    runs.clear()
    inspection = with_circuit(inspection, zs_ohm=Reading.parse("0.77"))
    watched.becomes(inspection)
    assert said() == (Reading.parse("0.77"), *before[1:])
    assert runs == ["zs"]
    runs.clear()
    board = inspection.boards[0]
    fewer = replace(inspection, boards=(replace(board, circuits=board.circuits[1:]), *inspection.boards[1:]))
    watched.becomes(fewer)
    assert cells.made(count, watched.top) == before[2] - 1
    # Put back, it is the circuit that it was.
    watched.becomes(inspection)
    assert said() == (Reading.parse("0.77"), *before[1:])


def test_what_is_the_same_written_anew_changes_nothing():
    cells, runs = Cells(), []
    watched = TrackedInspection(cells)
    watched.becomes(parse(cottage()))

    def everything(top):
        runs.append(1)
        return [circuit.zs_ohm for board in top.boards for circuit in board.circuits]

    cells.made(everything, watched.top)
    watched.becomes(parse(cottage()))
    cells.made(everything, watched.top)
    assert len(runs) == 1
