"""Every declared field has a place where it is entered: a screen that names it, or a list that is served to one."""

import re
from pathlib import Path

import pytest

from dorrik.core.home import gangs
from dorrik.core.inspection import circuit_columns
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.judging.topics import bench

WEB = Path(__file__).parents[1] / "web" / "src"
#: Not typed: the programs write it, or it comes with something else that is chosen.
BY_ITSELF = {
    "removed": "taking a thing out",
    "continuity_percent": "the instrument's own, from the register",
    "continuity_digits": "the instrument's own, from the register",
    "insulation_percent": "the instrument's own, from the register",
    "insulation_digits": "the instrument's own, from the register",
    "loop_percent": "the instrument's own, from the register",
    "loop_digits": "the instrument's own, from the register",
    "trip_percent": "the instrument's own, from the register",
    "trip_digits": "the instrument's own, from the register",
    "certified_at": "issuing the certificate",
    "zs_not_possible": "the reason of a Zs that is a limitation",
    "loads_removed": "the answer to the margin's question at a low L–N",
}
#: What the bench of a circuit is served.
ON_THE_BENCH = {
    *bench.FIRST.values(), *gangs.SECOND.values(), *bench.LEGS_INSULATION, *bench.SWAP, *bench.FLAGS,
}  # fmt: skip


@pytest.fixture(scope="module")
def written() -> str:
    files = [p for p in WEB.rglob("*.ts*") if not p.name.endswith("gen.ts") and ".test." not in p.name]
    assert len(files) > 150
    return "\n".join(file.read_text() for file in files)


@pytest.mark.parametrize("kind", KINDS)
def test_every_field_is_entered_somewhere(kind, written):
    of = {"circuit", "rcd", "board"}
    columns = {column.key for column in circuit_columns.BY_KIND[kind]} if kind in of else set()
    served = columns | (ON_THE_BENCH if kind in ("circuit", "point") else set()) | set(BY_ITSELF)
    assert [n for n in KINDS[kind].fields if n not in served and not re.search(rf"\b{n}\b", written)] == []


def test_what_is_not_typed_is_declared():
    declared = {name for kind in KINDS.values() for name in kind.fields}
    assert set(BY_ITSELF) <= declared
