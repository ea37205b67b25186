"""Who may what: actions × roles × states of an inspection, in one table that journal, API and screens all ask.

An inspector inspects, decides and signs; a supervisor does that too and settles what the house goes by; the office
keeps the register, the diary and the rates, and types what others found, but decides nothing that a competent person
answers for.
"""

from collections.abc import Iterable, Mapping
from types import MappingProxyType
from typing import Literal, get_args

Role = Literal["inspector", "supervisor", "office"]
#: In hand: begun, not issued; on hold: waiting for somebody; in review: signed and submitted, and not changed since;
#: issued: at least once, a correction is a new issue.
State = Literal["in hand", "on hold", "in review", "issued"]
Action = Literal[
    # of an inspection
    "read", "write", "decide", "settle rules of an inspection", "give a second opinion", "submit", "review", "issue",
    "certify",
    # of the firm
    "keep the register", "send letters", "settle house rules", "settle rates", "change the letterhead",
    "set up mail", "manage people", "read the audit log", "export data", "erase data",
]  # fmt: skip

ROLES: tuple[Role, ...] = get_args(Role)
STATES: tuple[State, ...] = get_args(State)

_EVERY: tuple[State, ...] = STATES
#: Not while somebody is waited for.
_AT_WORK: tuple[State, ...] = ("in hand", "in review", "issued")
_ALL, _COMPETENT = ROLES, ("inspector", "supervisor")

#: Action: who may, in which states (of an inspection; what is the firm's has none), and what somebody else is told.
_TABLE: Mapping[Action, tuple[tuple[str, ...], tuple[State, ...], str]] = MappingProxyType(
    {
        "read": (_ALL, _EVERY, ""),
        "write": (_ALL, _EVERY, ""),
        "decide": (_COMPETENT, _EVERY, "An inspector or a supervisor decides this: a competent person answers for it."),
        "settle rules of an inspection": (
            ("supervisor",),
            _EVERY,
            "Rule book, house rules and corrected tables come from the firm; a supervisor changes them.",
        ),
        "give a second opinion": (("supervisor",), (), "A second opinion is a supervisor's to give."),
        "submit": (_COMPETENT, _AT_WORK, "An inspector or a supervisor signs for what was inspected, and submits it."),
        "review": (("supervisor",), _EVERY, "A supervisor reviews a report, asks and sends it back."),
        "issue": (("supervisor",), _AT_WORK, "A supervisor authorises the report. Sign it and submit it for review."),
        "certify": (_COMPETENT, _AT_WORK, "A certificate is issued by an inspector or a supervisor."),
        "keep the register": (_ALL, (), ""),
        "send letters": (_ALL, (), ""),
        "settle house rules": (("supervisor",), (), "A supervisor of your firm settles this; you can read it."),
        "settle rates": (
            ("supervisor", "office"),
            (),
            "The office or a supervisor settles the rates; you can read them.",
        ),
        "change the letterhead": (("supervisor",), (), "A supervisor changes what is printed on the firm's paper."),
        "set up mail": (("supervisor",), (), "A supervisor sets up the firm's mail."),
        "manage people": (("supervisor",), (), "A supervisor invites people, gives them their roles and ends them."),
        "read the audit log": (("supervisor",), (), "The audit log is for supervisors."),
        "export data": (("supervisor", "office"), (), "The office or a supervisor exports what is kept of somebody."),
        "erase data": (("supervisor",), (), "A supervisor erases what is kept of somebody."),
    }
)

#: Fields of an inspection that settle by which rules it is judged.
RULES = frozenset(("rule_book", "house_rules", "table_corrections", "catalogue"))
#: What only issuing itself writes.
ISSUED: Mapping[str, frozenset[str]] = MappingProxyType({"repair": frozenset(("certificate", "certified_at"))})
_OF_AN_OBSERVATION = (
    "code", "code_reason", "answers", "told_to", "told_at", "told_said", "made_safe", "made_safe_how",
    "consent_of", "mended", "retest", "removed",
)  # fmt: skip
#: What a competent person answers for: kinds of entities whole (None), or fields of them. Judgements, and what only who
#: was there can say was done: proved dead, tested again, told, made safe. A rule believes these.
_DECIDED: Mapping[str, frozenset[str] | None] = MappingProxyType(
    {
        "inspection": frozenset(("declared_outcome", "outcome_reason", "next_years", "next_reason")),
        "observation": frozenset(_OF_AN_OBSERVATION),
        "board": frozenset(("isolated_at", "isolated_lock", "zdb_retested")),
        "point": frozenset(("retested",)),
        "attendance": frozenset(("countersigned_at", "countersigned_by")),
        "declined": None,
        "overruling": None,
        "isolation": None,
        "put_back": None,
        # That something was put right, with which figures before, lowers what an observation counts.
        "repair": None,
        "as_found": None,
        # What is set aside by an agreement is not tested.
        "set_aside": None,
        # What is ticked off stands no longer against a satisfactory result.
        "come_back": frozenset(("done_at", "became", "became_id", "removed")),
    }
)


def may(role: str, action: Action, state: State | None = None) -> bool:
    """May somebody in that role do this, with an inspection in that state? A role that is unknown may nothing."""
    roles, states, _ = _TABLE[action]
    return role in roles and (state is None or not states or state in states)


def why_not(role: str, action: Action, state: State | None = None) -> str | None:
    """What somebody is told who may not; None where they may."""
    if may(role, action, state):
        return None
    roles, _, reason = _TABLE[action]
    if role in roles and state is not None:
        return f"Not while the inspection is {state}."
    return reason or "Your role does not allow this."


def allowed(role: str, state: State | None = None) -> list[Action]:
    """Every action that somebody may do: those of the firm, or those of an inspection in that state."""
    return [
        action for action, (_, states, _) in _TABLE.items() if bool(states) is bool(state) and may(role, action, state)
    ]


def action_of(entity: str, field: str) -> Action:
    """What a change of that field is."""
    if entity == "inspection" and field in RULES:
        return "settle rules of an inspection"
    if entity == "opinion":
        return "give a second opinion"
    if (entity, field) == ("come_back", "asked_by"):
        return "review"
    decided = _DECIDED.get(entity, frozenset())
    return "decide" if decided is None or field in decided else "write"


def decided_fields(entity: str, fields: Iterable[str]) -> list[str]:
    """Those of the fields that only a competent person sets, for screens."""
    return [field for field in fields if action_of(entity, field) == "decide"]


def state_of(*, held: bool, issued: bool, in_review: bool = False) -> State:
    """The state of an inspection. On hold comes first: it says what is waited for, also of one that was issued."""
    if held:
        return "on hold"
    if in_review:
        return "in review"
    return "issued" if issued else "in hand"
