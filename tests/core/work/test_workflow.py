"""Who may what: the table against the words of the house."""

import re

import pytest

from dorrik.core.inspection.kinds import KINDS
from dorrik.core.work import workflow
from dorrik.core.work.register import begun
from dorrik.core.work.workflow import ROLES, STATES, action_of, allowed, may, state_of, why_not


def test_every_role_reads_and_writes_in_every_state():
    assert all(may(role, action, state) for role in ROLES for state in STATES for action in ("read", "write"))


@pytest.mark.parametrize(
    ("action", "roles"),
    [
        ("decide", {"inspector", "supervisor"}),
        ("submit", {"inspector", "supervisor"}),
        ("certify", {"inspector", "supervisor"}),
        ("issue", {"supervisor"}),
        ("review", {"supervisor"}),
        ("settle rules of an inspection", {"supervisor"}),
        ("settle house rules", {"supervisor"}),
        ("settle rates", {"supervisor", "office"}),
        ("manage people", {"supervisor"}),
        ("read the audit log", {"supervisor"}),
        ("erase data", {"supervisor"}),
    ],
)
def test_the_office_decides_nothing_and_an_inspector_settles_nothing(action, roles):
    assert {role for role in ROLES if may(role, action)} == roles


def test_nothing_is_issued_while_it_is_on_hold():
    assert not may("supervisor", "issue", "on hold")
    assert "on hold" in why_not("supervisor", "issue", "on hold")
    assert not may("inspector", "submit", "on hold")
    assert why_not("inspector", "submit", "in hand") is None
    assert "supervisor" in why_not("inspector", "issue", "in hand")


def test_whether_a_report_was_issued_opens_and_closes_nothing():
    """The answer to a change does not ask for it."""
    assert all(allowed(role, "in hand") == allowed(role, "issued") for role in ROLES)


def test_a_role_that_nobody_knows_may_nothing():
    assert not any(may("owner", action) for action in workflow.allowed("supervisor"))
    assert allowed("") == []


def test_what_settles_how_an_inspection_is_judged_is_told_apart_from_what_is_typed():
    rules = {f for f in KINDS["inspection"].fields if action_of("inspection", f) == "settle rules of an inspection"}
    assert rules == {"rule_book", "house_rules", "table_corrections", "catalogue"}
    assert action_of("inspection", "declared_outcome") == action_of("observation", "code") == "decide"
    assert action_of("overruling", "reason") == action_of("isolation", "proved_at") == "decide"
    assert action_of("circuit", "zs_ohm") == action_of("inspection", "client_name") == "write"


#: Moments that tell of no act that a competent person answers for.
OF_THE_DAY = {
    ("inspection", "held_at"): "anybody says that something is waited for",
    ("inspection", "operator_called_at"): "the office calls the network operator as well",
    ("operator_call", "called_at"): "the office calls the network operator as well",
    ("operator_call", "promised_by"): "what somebody else promised",
    ("operator_call", "closed_at"): "of the diary: what came of a call is read, and no rule leans on it",
    ("room", "walked_at"): "follows from what was typed of the room; the walk rests on its checks",
    ("observation", "opinion_asked_at"): "asks, and answers nothing",
    ("attendance", "arrived_at"): "of the diary",
    ("attendance", "left_at"): "of the diary",
    ("lead_null", "nulled_at"): "of the reading of a null, which is typed as any reading",
    ("photo", "taken_at"): "of the file",
}
#: Words of fields that say that something was done and not what was found.
ACTS = re.compile(r"isolated|proved|retest|mended|made_safe|consent|told_|restored|given_at|declared|lock")


def test_that_something_was_done_is_a_competent_persons_to_say():
    """Proved dead, tested again, told, made safe: a rule believes it, so the right to say it is about the fact."""
    open_to_all = {
        (kind, field)
        for kind, declared in KINDS.items()
        for field, spec in declared.fields.items()
        if (spec.kind == "instant" or ACTS.search(field)) and action_of(kind, field) == "write"
    }
    assert open_to_all == set(OF_THE_DAY)


def test_every_field_that_makes_a_board_count_as_proved_dead_is_decided():
    fields = {("board", "isolated_at"), *(("isolation", field) for field in KINDS["isolation"].fields)}
    assert {action_of(kind, field) for kind, field in fields} == {"decide"}


def test_the_state_of_an_inspection():
    assert state_of(held=False, issued=False) == "in hand"
    assert state_of(held=False, issued=True) == "issued"
    assert state_of(held=True, issued=True) == "on hold"


@pytest.mark.parametrize(
    ("state", "after"),
    [("asked", "booked"), ("confirmed", "booked"), ("booked", None), ("on hold", None), ("done", None), (None, None)],
)
def test_work_that_begins_moves_a_job_forward_and_never_back(state, after):
    assert begun(state) == after
