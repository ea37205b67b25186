from datetime import UTC, datetime

import pytest

from dorrik.core.inspection.field_spec import FieldError
from dorrik.core.inspection.kinds import KINDS

INSPECTION = KINDS["inspection"].fields
CIRCUIT = KINDS["circuit"].fields
ISOLATION = KINDS["isolation"].fields


@pytest.mark.parametrize(
    ("fields", "name", "given", "kept"),
    [
        (INSPECTION, "client_name", "  Harbour Trust ", "Harbour Trust"),
        (INSPECTION, "client_name", "", None),
        (INSPECTION, "earthing", "TT", "TT"),
        (INSPECTION, "tails_mm2", "25", 25.0),
        (INSPECTION, "tails_mm2", "2,5", 2.5),
        (INSPECTION, "ze_ohm", " 0,21 ", "0,21"),
        (INSPECTION, "ze_ohm", "-", None),
        (INSPECTION, "inspected_on", "2026-11-03", "2026-11-03"),
        (INSPECTION, "next_years", "5", 5),
        (INSPECTION, "house_rules", {"zs_basis": 1.0}, {"zs_basis": 1.0}),
        (KINDS["board"].fields, "isolated_at", "2026-11-03T10:40:00.123+01:00", "2026-11-03T09:40:00Z"),
        (CIRCUIT, "polarity", "correct", "correct"),
        (ISOLATION, "pairings", {"busbar L–N": "dead"}, {"busbar L–N": "dead"}),
        (ISOLATION, "pairings", {}, None),
    ],
)
def test_what_is_kept(fields, name, given, kept):
    assert fields[name].clean(given) == kept


@pytest.mark.parametrize(
    ("fields", "name", "given", "told"),
    [
        (INSPECTION, "client_name", "x" * 121, "121 characters long; at most 120"),
        (INSPECTION, "client_name", "a\x00b", "cannot be kept"),
        (INSPECTION, "client_name", 7, "takes text"),
        (ISOLATION, "pairings", {"busbar L–N": "warm"}, "busbar L–N is either dead or live"),
        (ISOLATION, "pairings", {"": "dead"}, "no usable name"),
        (ISOLATION, "pairings", {"x" * 41: "dead"}, "no usable name"),
        (ISOLATION, "pairings", ["busbar"], "takes pairings"),
        (ISOLATION, "pairings", {f"way {n} L–N": "dead" for n in range(401)}, "takes pairings"),
        (INSPECTION, "earthing", "IT", "one of: TN-C-S, TN-S, TT"),
        (INSPECTION, "earthing", ["TT"], "one of"),
        (INSPECTION, "tails_mm2", "thick", "enter a number"),
        (INSPECTION, "tails_mm2", "1e999", "enter a number"),
        (INSPECTION, "tails_mm2", 1000, "at most 240 mm²"),
        (INSPECTION, "tails_mm2", True, "enter a number"),
        (INSPECTION, "tails_mm2", float("nan"), "enter a number"),
        (INSPECTION, "next_years", "2.5", "enter a whole number"),
        (INSPECTION, "next_years", 0, "at least 1"),
        (INSPECTION, "inspected_on", "1890-05-01", "1890 is before"),
        (INSPECTION, "inspected_on", "2999-01-01", "still to come"),
        (INSPECTION, "inspected_on", "3 May", "enter a date"),
        (INSPECTION, "ze_parallel_removed", "yes", "yes or no"),
        (INSPECTION, "ze_ohm", 0.21, "as text"),
        (INSPECTION, "house_rules", {"zs_basis": 0.9}, "one of 0.8, 1"),
        (INSPECTION, "house_rules", {"mood": 1}, "no house rule"),
        (INSPECTION, "house_rules", "0.8", "named options"),
        (KINDS["board"].fields, "isolated_at", "2026-11-03T09:40:00", "with its zone"),
        (KINDS["board"].fields, "isolated_at", "1890-11-03T09:40:00Z", "out of reach"),
    ],
)
def test_what_is_refused_and_why(fields, name, given, told):
    with pytest.raises(FieldError, match=told):
        fields[name].clean(given, datetime.now(UTC))
