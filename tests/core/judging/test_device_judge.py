"""The judge of a device: after whatever was entered, heard or refused it says what one says that begins from nothing,
and what the server would refuse it leaves out with the reason."""

import json
import random
from datetime import datetime, timedelta, timezone
from typing import Any

import pytest

from dorrik.core.inspection.document import parse
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.judging.delta import applied
from dorrik.core.judging.device_judge import DeviceJudge, OtherEditionError
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.wire.judgement import as_json
from dorrik.practice.whole_home_draw import draw
from tests.core.homes import cottage
from tests.core.judging.on_device import NOW, changed, new_id, opened, text, with_uuids
from tests.core.judging.test_lasting_judge import RULES, value
from tests.examples import examples
from tests.report import full_homes


class Tablet:
    """A device that puts the answers of its judge together, as the page does."""

    def __init__(self, document: dict[str, Any], **more: Any) -> None:
        self.judge = DeviceJudge()
        self.judgement: dict[str, Any] = {}
        self.ask("open", opened(document, **more))

    def ask(self, what: str, given: Any) -> list[dict[str, Any]]:
        told = json.loads(self.judge.answer(what, json.dumps(given)))
        self.judgement = told["judgement"] or applied(self.judgement, told["change"])
        return told["refused"]

    def enter(self, *changes: dict[str, Any], now: str = NOW) -> list[str]:
        return [one["reason"] for one in self.ask("write", {"changes": changes, "now": now})]

    def from_nothing(self) -> dict[str, Any]:
        return json.loads(self.judge.answer("whole", "{}"))["judgement"]


def home() -> dict[str, Any]:
    return with_uuids(cottage())


def statuses(tablet: Tablet, circuit: str) -> list[str]:
    """What is said of a circuit's Zs."""
    return [n["status"] for n in tablet.judgement["notes"] if (n["id"], n["field"]) == (circuit, "zs_ohm")]


def board_of(document: dict[str, Any]) -> dict[str, Any]:
    return document["inspection"]["boards"][0]


@pytest.mark.parametrize(
    "document", [cottage(), full_homes.everything(), draw(23).document], ids=["cottage", "all", "drawn"]
)
def test_what_is_opened_is_judged_as_the_document_is(document):

    found = with_uuids(document)
    assert text(Tablet(found).judgement) == text(json.loads(json.dumps(as_json(judge(parse(found))))))


def as_typed(kind: str, name: str, kept: Any) -> Any:
    """A value as somebody may have entered what is kept like this: blanks round it, a number as text, a time to the
    millisecond in another zone."""
    spec = KINDS[kind].fields[name]
    if kept is None:
        return "" if spec.kind in ("text", "reading") else None
    match spec.kind:
        case "text" | "reading":
            return f"  {kept} "
        case "number":
            return f" {kept:.12f}".replace(".", ",")
        case "instant":
            moment = datetime.fromisoformat(kept).astimezone(timezone(timedelta(hours=1)))
            return moment.replace(microsecond=721_000).isoformat(timespec="milliseconds")
        case _:
            return kept


@pytest.mark.parametrize(
    "document", [cottage(), full_homes.everything(), *(draw(seed).document for seed in range(examples(6)))]
)
def test_what_the_page_has_as_it_was_typed_is_judged_as_the_server_keeps_it(document):
    """A page that sent an entry goes on with what was typed, until it opens the inspection anew."""
    kept = with_uuids(document)
    asked = opened(kept)
    changed_values = 0
    for entity in asked["entities"]:
        typed = {name: as_typed(entity["kind"], name, value) for name, value in entity["values"].items()}
        changed_values += sum(typed[name] != value for name, value in entity["values"].items())
        entity["values"] = typed
    assert changed_values > 20
    here = json.loads(DeviceJudge().answer("open", json.dumps(asked)))["judgement"]
    assert text(here) == text(json.loads(json.dumps(as_json(judge(parse(kept))))))


def test_a_figure_is_judged_as_it_is_left_and_its_loss_too():
    document = home()
    circuit = board_of(document)["circuits"][0]["id"]
    tablet = Tablet(document)
    assert tablet.enter(changed("circuit", circuit, "zs_ohm", "9.99")) == []
    assert "fail" in statuses(tablet, circuit)
    tablet.enter(changed("circuit", circuit, "zs_ohm", None))
    assert not [
        n for n in tablet.judgement["notes"] if (n["id"], n["field"], n["status"]) == (circuit, "zs_ohm", "fail")
    ]


@pytest.mark.parametrize(
    ("kind", "field", "value", "says"),
    [
        ("circuit", "zs_ohm", "1..4", ""),
        ("circuit", "no_such_field", "x", "is not a field of circuit"),
        ("circuit", "rcd_id", "{other}", "has no such RCD"),
        ("inspection", "inspected_on", "2027-06-01", "still to come"),
        ("board", "fed_by", "{own}", "cannot be fed from itself"),
    ],
)
def test_what_the_server_would_refuse_is_told_and_stays_out(kind, field, value, says):
    document = home()
    board = board_of(document)
    places = {"circuit": board["circuits"][0]["id"], "board": board["id"], "inspection": document["inspection"]["id"]}
    tablet = Tablet(document)
    before = text(tablet.judgement)
    value = {"{own}": board["circuits"][0]["id"], "{other}": new_id()}.get(value, value)
    (reason,) = tablet.enter(changed(kind, places[kind], field, value))
    assert says in reason and reason.endswith(".")
    assert text(tablet.judgement) == before == text(tablet.from_nothing())


def test_what_the_server_refused_is_put_back_unless_something_was_entered_since():
    document = home()
    circuit = board_of(document)["circuits"][0]["id"]
    tablet = Tablet(document)
    tablet.enter(changed("circuit", circuit, "zs_ohm", "0.40"))
    before = text(tablet.judgement)
    wrong, right = changed("circuit", circuit, "zs_ohm", "9.99"), changed("circuit", circuit, "zs_ohm", "0.50")
    tablet.enter(wrong)
    tablet.ask("settled", {"kept": [], "refused": [wrong["id"]]})
    assert text(tablet.judgement) == before
    again = changed("circuit", circuit, "zs_ohm", "8.88")
    tablet.enter(again)
    tablet.enter(right)
    tablet.ask("settled", {"kept": [], "refused": [again["id"]]})
    assert "fail" not in statuses(tablet, circuit)
    # That one is refused as well: what stood before both comes back.
    tablet.ask("settled", {"kept": [], "refused": [right["id"]]})
    assert text(tablet.judgement) == before


def test_an_inspection_that_so_far_is_only_here_is_judged_with_its_pairings():
    tablet = Tablet({"inspection": {"id": (inspection := new_id())}})
    board = new_id()
    tablet.enter(
        changed("inspection", inspection, "firm", "firm"), changed("board", board, "inspection", inspection),
        changed("board", board, "ways", 6),
    )  # fmt: skip
    (state,) = tablet.judgement["boards"]
    assert state["board_id"] == board and state["pairings"]


def test_what_is_of_a_later_edition_is_not_judged_on_part_of_it():
    document = home()
    told = opened(document)
    told["entities"].append({"kind": "drone", "id": new_id(), "parent_id": document["inspection"]["id"], "values": {}})
    with pytest.raises(OtherEditionError, match="drone"):
        DeviceJudge().open(told)
    told = opened(document)
    told["entities"][0]["values"]["hologram"] = "x"
    with pytest.raises(OtherEditionError, match="hologram"):
        DeviceJudge().open(told)


def test_a_code_that_may_not_be_seen_is_not_told():
    document = with_uuids(full_homes.everything())
    one = document["inspection"]["observations"][0]["id"]
    tablet = Tablet(document, blind=[one])
    assert tablet.judgement["blind"] == [one]


def trainee(document: dict[str, Any]) -> tuple[Tablet, str, str]:
    """A tablet in a home with a trainee; the attendance and a circuit."""
    piet = new_id()
    tablet = Tablet(document)
    inspection = document["inspection"]["id"]
    tablet.enter(
        changed("attendance", piet, "inspection", inspection), changed("attendance", piet, "who", "Piet Rook"),
        changed("attendance", piet, "purpose", "trainee"),
    )  # fmt: skip
    return tablet, piet, board_of(document)["circuits"][0]["id"]


def open_of(tablet: Tablet) -> list[list[str]]:
    return [[figure["field"] for figure in one["figures"]] for one in tablet.judgement["to_countersign"]]


def test_what_a_trainee_read_here_waits_for_a_signature_by_the_order_of_entering():
    tablet, piet, circuit = trainee(home())
    tablet.enter(changed("circuit", circuit, "zs_ohm", "0.44", read_by=piet))
    assert open_of(tablet) == [["zs_ohm"]]
    tablet.enter(changed("attendance", piet, "countersigned_at", "2026-11-30T12:00:00Z"))
    assert open_of(tablet) == []
    # After the signature, whatever the clock says.
    tablet.enter(changed("circuit", circuit, "r1_r2_ohm", "0.21", read_by=piet, made_at="2026-01-01T00:00:00Z"))
    assert open_of(tablet) == [["r1_r2_ohm"]]
    tablet.enter(changed("circuit", circuit, "r1_r2_ohm", "0.22"))
    assert open_of(tablet) == []
    tablet.enter(changed("attendance", piet, "countersigned_at", None))
    assert open_of(tablet) == [["zs_ohm"]]


def test_readings_taken_with_leads_in_doubt_are_told_from_the_times_of_the_journal():
    document = home()
    circuit = board_of(document)["circuits"][0]["id"]
    facts = {
        "read_at": [{"id": circuit, "field": "r1_r2_ohm", "at": "2026-11-30T09:30:00+00:00"}],
        "read_by": [],
        "signed": {},
    }
    tablet = Tablet(document, facts=facts)
    tablet.enter(changed("circuit", circuit, "r1_r2_ohm", "0.31", made_at="2026-11-30T09:40:00.000Z"))
    told = [text([n for n in tablet.judgement["notes"] if n["id"] == circuit and n["field"] == "r1_r2_ohm"])]
    for hour, reading in ((9, "0.05"), (10, "0.90")):
        null = new_id()
        values = {
            "name": "Set A",
            "known_ohm": 0.05,
            "reading_ohm": reading,
            "nulled_at": f"2026-11-30T{hour:02}:00:00Z",
        }
        tablet.enter(changed("lead_null", null, "inspection", document["inspection"]["id"]))
        tablet.enter(*(changed("lead_null", null, name, given) for name, given in values.items()))
        told.append(text([n for n in tablet.judgement["notes"] if n["id"] == circuit and n["field"] == "r1_r2_ohm"]))
    assert told[0] == told[1] != told[2]
    assert text(tablet.judgement) == text(tablet.from_nothing())


@pytest.mark.parametrize("seed", range(examples(120)))
def test_after_anything_it_says_what_a_judge_from_nothing_says(seed):
    """Entered here, heard from others, refused by the server, in any order; then the same from nothing, and from what
    stands as another device would open it."""
    chance = random.Random(seed)
    document = with_uuids(chance.choice([cottage(), full_homes.everything(), draw(chance.randrange(60)).document]))
    tablet = Tablet(document)
    mine: list[dict[str, Any]] = []
    for _ in range(15):
        every = [(one["kind"], one["id"]) for one in opened(document)["entities"]]
        kind, entity_id = chance.choice(every)
        fields = [name for name in KINDS[kind].fields if name not in RULES]
        name = chance.choice(fields)
        given = value(chance, KINDS[kind].fields[name], [one for _, one in every])
        change = changed(kind, entity_id, name, given)
        match chance.randrange(4):
            case 0 | 1:
                if not tablet.enter(change):
                    mine.append(change)
            case 2 if mine:
                tablet.ask("settled", {"kept": [], "refused": [mine.pop(chance.randrange(len(mine)))["id"]]})
            case _:
                clean = changed(kind, entity_id, name, None)
                tablet.ask("heard", {"entries": [clean]})
                mine = [one for one in mine if (one["entity_id"], one["field"]) != (entity_id, name)]
    assert text(tablet.judgement) == text(tablet.from_nothing())
