"""What a report says: words and figures, before they are set."""

import json
from datetime import date

import pytest

from dorrik.core.inspection import document
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.readiness import readiness
from dorrik.report.content import Issue, content
from tests.core.homes import cottage, spoilt

ISSUE = Issue(1, date(2026, 11, 23), "Ines Pector", "inspector", "Firm", "1 Test Quay", "0")


def said(home, issue=ISSUE):
    inspection = document.parse(home)
    return content(inspection, judge(inspection), issue)


def heads(data):
    """What stands over each column of the table of circuits."""
    return {column["key"]: column["head"] for column in data["columns"]}


def cells(data, index):
    """A row of the first board's table, by column."""
    return dict(zip(heads(data), (c["text"] for c in of_circuit(data, index)), strict=True))


def of_circuit(data, index):
    return data["boards"][0]["circuits"][index]["cells"]


def observed(*rows):
    names = ("code", "text", "catalogue_key", "mended")
    return spoilt(observations=[{"id": f"o{i}"} | dict(zip(names, row, strict=False)) for i, row in enumerate(rows)])


def test_a_sound_home():
    data = said(cottage())
    assert (data["outcome"], data["draft"]) == ("satisfactory", False)
    assert data["why"] == "No observation with code C1, C2 or FI is open."
    assert data["next"]["by"] == "3 November 2031 (5 years)"
    assert data["inspected_on"] == "3 November 2026"
    json.dumps(data)


def test_page_one_tells_a_landlord_the_result_in_a_sentence():
    assert said(cottage())["plainly"].startswith("Nothing that is dangerous, or may become so, was found")
    serious = observed(("C2", "No RCD"), ("C2", "Hot terminal"), ("FI", "Insulation low"), ("C3", "Cracked plate"))
    serious["inspection"]["declared_outcome"] = "unsatisfactory"
    assert said(serious)["plainly"] == (
        "Two things may become dangerous and one has to be looked into. When all three are cleared, that is confirmed "
        "in writing, without a new inspection."
    )
    one = observed(("C1", "Live part can be touched"))
    one["inspection"]["declared_outcome"] = "unsatisfactory"
    assert said(one)["plainly"].startswith("One thing is dangerous now. When it is cleared")
    improved = observed(("C3", "Cracked plate"), ("C3", "No labels"))
    assert "Two improvements are recommended; they do not make the result unsatisfactory." in said(improved)["plainly"]


@pytest.mark.parametrize("worse", [{"zs_ohm": "9.5"}, {"insulation_lne_mohm": "0.2"}, {"zs_ohm": None}])
def test_page_one_never_comforts_over_what_is_open(worse):
    """Declared satisfactory with a failure that nobody coded, or with a test missing: page one says so."""
    home = spoilt("c2", **worse)
    home["inspection"] |= {"declared_outcome": "satisfactory", "outcome_reason": "Seen it often."}
    data = said(home)
    assert "Nothing that is dangerous" not in data["plainly"]
    assert "not decided" in data["plainly"] and "gives the reason below" in data["plainly"]
    assert data["outcome_reason"] == "Seen it often."


def test_a_line_of_time_has_the_law_s_days_and_no_work_where_nothing_is_to_be_done():
    let = {"tenure": "let dwelling", "nation": "England", "next_years": 5, "declared_outcome": "unsatisfactory"}
    home = observed(("C1", "Live part"), ("C2", "Hot terminal"))
    home["inspection"] |= let
    # 28 days from 3 November 2026, as duties.csv has it for England; a danger waits for no day.
    assert [(one["on"], one["what"]) for one in said(home)["timeline"]] == [
        ("3 Nov 2026", "inspected"),
        ("at once", "danger put right"),
        ("1 Dec 2026", "copy to the occupier, work done"),
        ("3 Nov 2031", "next inspection"),
    ]
    sound = cottage()
    sound["inspection"] |= let | {"declared_outcome": "satisfactory"}
    assert [one["what"] for one in said(sound)["timeline"]] == ["inspected", "copy to the occupier", "next inspection"]
    # Where no law sets a day, what is to be done still stands on the line.
    own = observed(("FI", "Insulation low"))
    own["inspection"] |= {"tenure": "owner-occupied dwelling", "declared_outcome": "unsatisfactory", "next_years": 5}
    assert [(one["on"], one["what"]) for one in said(own)["timeline"]][1] == ("without delay", "looked into")


def test_page_one_lists_what_counts_first_and_says_how_much_follows():
    many = observed(*(("C3", f"Improvement {n}") for n in range(30)), *(("C2", f"Serious {n}") for n in range(12)))
    data = said(many)
    assert {row["code"] for row in data["first"][:5]} == {"C2"}
    left = 42 - len(data["first"])
    assert left > 0 and data["first_more"].endswith("see “What was found”.")
    assert said(observed(("C3", "One")))["first_more"] == ""


def test_observations_stand_most_pressing_first_in_plain_words():
    data = said(
        observed(
            ("C3", "Cracked plate", "accessory-cracked"),
            ("note", "Old but sound"),
            ("FI", "Insulation low", "insulation-low"),
            ("C1", "Live part can be touched", "live-part-reachable"),
        )
    )
    assert [o["code"] for o in data["observations"]] == ["C1", "FI", "C3", "note"]
    first = data["observations"][0]
    assert "Someone could touch live metal" in first["plain"]
    assert first["means"] == "danger present"
    assert data["observations"][3]["plain"] == ""


def test_why_it_is_unsatisfactory():
    home = observed(("C2", "a"), ("C2", "b"), ("FI", "c"), ("C3", "d"))
    home["inspection"]["declared_outcome"] = "unsatisfactory"
    assert "2 × C2 (potentially dangerous), 1 × FI" in said(home)["why"]


def test_what_was_made_good_on_the_day_stays_in_the_report_and_asks_for_no_remedy():
    home = observed(("C2", "Cracked plate", "accessory-cracked", True))
    (one,) = said(home)["observations"]
    assert (one["mended"], one["remedy"]) == (True, "")
    assert said(home)["outcome"] == "satisfactory"


def test_another_outcome_than_the_codes_lead_to_is_said_with_its_reason():
    home = observed(("C2", "Cracked plate"))
    home["inspection"] |= {"declared_outcome": "satisfactory", "outcome_reason": "Out of anybody's reach."}
    data = said(home)
    assert (data["outcome"], data["outcome_reason"]) == ("satisfactory", "Out of anybody's reach.")
    assert said(cottage())["outcome_reason"] is None


def test_readings_stand_as_they_were_written():
    data = said(spoilt("c2", zs_ohm="LIM no access", insulation_lne_mohm="> 200", r1_r2_ohm="0,12"))
    row = cells(data, 1)
    # Why something was not tested stands below the table, not in the cell.
    assert (row["zs_ohm"], row["insulation_lne_mohm"], row["r1_r2_ohm"]) == ("LIM", "> 200", "0,12")
    assert data["boards"][0]["notes"] == [{"number": 1, "says": "no access"}]
    assert (row["r1_ohm"], row["polarity"], row["cable"]) == ("–", "OK", "6/2.5")
    assert row["zs_limit"] == "1.10"


def test_spare_ways_and_wrong_polarity():
    assert said(spoilt("c3", spare=True))["boards"][0]["circuits"][2]["spare"]
    assert cells(said(spoilt("c3", polarity="incorrect")), 2)["polarity"] == "DEFECT"


def test_the_board_as_a_whole():
    sums = said(cottage())["boards"][0]["sums"]
    # 310, 460 and 240 MΩ together: 1 / (1/310 + 1/460 + 1/240) = 104.5 MΩ
    assert [s["value"] for s in sums] == ["105 MΩ"]
    # L–N was measured at one of three only: no sum is made of a part, and the report says so.
    assert "L–N was not measured" in said(cottage())["boards"][0]["said"]


def test_supply_and_house_rules():
    data = said(spoilt(house_rules={"zs_basis": 1.0}))
    supply = {fact["label"]: fact["value"] for fact in data["supply"]}
    assert supply["Prospective fault current recorded"] == "1.24 kA"
    assert (supply["Service fuse"], supply["Main bonding to"]) == ("80 A", "–")
    # Only what differs from the usual is told, with the usual beside it.
    assert data["house_rules"] == [{"label": "Zs compared with", "value": "1", "usual": "0.8"}]
    assert said(cottage())["house_rules"] == []


def test_what_could_not_be_measured_is_a_limitation_with_its_reason():
    home = cottage()
    board = home["inspection"]["boards"][0]
    names = [" ".join((circuit["way"], circuit["designation"])) for circuit in board["circuits"]]
    board["circuits"][0]["zs_ohm"] = "LIM RCD trips on test"
    board["circuits"][1]["zs_ohm"] = "LIM RCD trips on test"
    board["circuits"][2]["insulation_lne_mohm"] = "N/V"
    board["circuits"][2]["zs_ohm"] = "LIM"
    found = {one["what"]: one["reason"] for one in said(home)["limited"]}
    assert found == {
        f"Zs: {names[0]}, {names[1]}": "RCD trips on test",
        f"Zs: {names[2]}": "No reason was given",
        f"Insulation L+N–E: {names[2]}": "Not verified",
    }
    assert said(cottage())["limited"] == []


@pytest.mark.parametrize(
    ("on", "years", "due"),
    [("2024-02-29", 1, "28 February 2025 (1 year)"), ("2024-02-29", 4, "29 February 2028 (4 years)")],
)
def test_a_leap_day_comes_round(on, years, due):
    assert said(spoilt(inspected_on=on, next_years=years))["next"]["by"] == due


def test_a_draft_and_a_correction():
    assert said(cottage(), Issue(0, date(2026, 11, 23), "I", "", "F", "", ""))["draft"] is True
    corrected = Issue(2, date(2026, 11, 24), "I", "", "F", "", "", replaces=1, reason="Name misspelt.")
    assert said(cottage(), corrected)["issue"]["replaces"] == 1


def test_bonds_overrulings_samples_and_corrections_are_said():
    home = spoilt(
        "c2",
        zs_ohm="2.10",
        r1_r2_ohm="1.90",
        points=[{"id": f"p{i}", "opened": i < 3, "kind": "socket"} for i in range(9)],
    )
    home["inspection"] |= {
        "bonds": [{"id": "w", "service": "water", "state": "present", "csa_mm2": 10, "at_pipe_ohm": "0.02"}],
        "overrulings": [{"id": "v", "about_id": "c2", "field": "zs_ohm", "status": "pass", "reason": "Wrong socket."}],
        "table_corrections": [
            {"table": "conductors", "row": "2.5", "column": "milliohm_per_m", "value": "7.4", "why": "maker's sheet"}
        ],
    }
    data = said(home)
    assert data["bonds"] == [
        {"service": "water", "state": "present", "size": "10 mm²", "at_clamp": "–", "at_pipe": "0.02 Ω"}
    ]
    assert "Wrong socket." in data["overrulings"][0] and "above the device's limit" in data["overrulings"][0]
    assert data["sampling"].startswith("3 of the 9 points drawn from 9 were opened, 6 were not and 0 had a defect.")
    assert data["corrections"] == ["conductors, 2.5, milliohm_per_m: 7.4 (maker's sheet)"]


def test_the_irish_report_speaks_its_own_words():
    home = spoilt("c2", r1_r2_ohm="OL")
    home["inspection"]["rule_book"] = "is10101-2020"
    data = said(home)
    assert heads(data)["r1_r2_ohm"] == "RP+RE Ω"
    assert data["title"].startswith("Periodic inspection report")
    assert data["test_order"][1] == "insulation resistance"


def test_who_was_there_with_what_and_what_nobody_confirmed():
    home = spoilt(
        attendances=[
            {"id": "a", "who": "Ines Pector", "arrived_at": "2026-11-03T08:30:00Z", "left_at": "2026-11-03T12:00:00Z",
             "purpose": "inspection"},
            {"id": "z", "who": "Sol Visor", "arrived_at": "2026-11-03T09:00:00Z", "purpose": "second inspector"},
            {"id": "zt", "who": "Piet Rook", "arrived_at": "2026-11-03T09:00:00Z", "left_at": "2026-11-03T12:00:00Z",
             "purpose": "trainee", "countersigned_at": "2026-11-03T11:50:00Z", "countersigned_by": "Ines Pector"},
        ],
        instruments_used=[{"id": "m", "name": "Tester", "serial": "MF-1", "calibration_due": "2027-03-01"}],
        limitations=[{"id": "l", "what": "Loft", "agreed_with": "Harbour Office", "agreed_on": "2026-10-30"}],
        installation_name="Boat shed",
    )  # fmt: skip
    home["inspection"]["boards"][0]["circuits"][1]["unconfirmed"] = True
    data = said(home)
    assert data["visits"] == [
        "Ines Pector: 3 November 2026, 08:30 to 12:00 (inspection)",
        "Sol Visor: 3 November 2026, 09:00 to – (second inspector)",
        "Piet Rook: 3 November 2026, 09:00 to 12:00 (trainee, readings countersigned by Ines Pector, "
        "3 November 2026, 11:50)",
    ]
    assert data["instruments"] == [
        {"name": "Tester", "kind": "", "serial": "MF-1", "calibration": "1 March 2027"},
    ]
    assert data["limitations"][0]["agreed_with"] == "Harbour Office, 30 October 2026"
    assert data["property"].startswith("Boat shed, ")
    assert data["unconfirmed"] == ["Board 1, 2 Cooker"]


def test_a_board_says_what_feeds_it_and_what_earth_it_has():
    home = cottage()
    feeding = home["inspection"]["boards"][0]["circuits"][1]["id"]
    shed = {"id": "shed", "name": "Shed", "fed_by": feeding, "earthing": "own electrode", "electrode_ohm": "140"}
    home["inspection"]["boards"].append(shed | {"phases": "3", "circuits": []})
    boards = said(home)["boards"]
    assert boards[0]["feed"] == ""
    assert boards[1]["feed"] == "Fed from Board 1, way 2 Cooker, three phases, electrode of its own, RA 140 Ω"


def test_how_switches_stood_at_a_reading_is_said_and_what_was_cut_off_is_a_limitation():
    home = spoilt("c2", zs_ohm="0.81", afdd_button="correct")
    stood = {"about_id": "c2", "field": "zs_ohm", "of_reading": "0.81", "stood": "other ways off, local isolator off"}
    # What was said of a reading that was replaced is said no more.
    home["inspection"]["positions"] = [{"id": "p"} | stood, {"id": "q"} | stood | {"field": "r1_r2_ohm"}]
    data = said(home)
    words = data["boards"][0]["said"]
    assert words.count("other ways off, local isolator off") == 1
    assert "Zs 0.81 Ω, other ways off, local isolator off" in words
    assert "AFDD test button:" in words
    assert "Measured with local isolator off" in json.dumps(data, ensure_ascii=False)
    assert "How it stood" not in said(spoilt("c2", zs_ohm="0.81"))["boards"][0]["said"]


def test_what_was_left_out_by_agreement_is_printed_with_what_it_means():
    home = cottage()
    circuit = home["inspection"]["boards"][0]["circuits"][1]
    about = {"about_entity": "circuit", "about_id": circuit["id"], "state": "left disconnected"}
    home["inspection"]["set_asides"] = [{"id": "s", "agreed_with": "Hester Vane", **about}, {"id": "t", **about}]
    (told,) = said(home)["set_aside"]
    assert circuit["designation"] in told["name"] and "Nobody else reconnects it" in told["means"]
    assert told["says"] == "left disconnected, agreed with Hester Vane"


def test_what_people_asked_about_is_answered_in_the_report():
    home = observed(("C2", "Neutral loose", "accessory-loose"))
    home["inspection"]["concerns"] = [
        {"id": "a", "position": 1, "asked_by": "occupier", "what": "Lights dim", "observation_id": "o0"},
        {"id": "b", "position": 2, "asked_by": "client", "what": "Room for a charge point?", "answer": "Yes."},
    ]
    assert said(home)["concerns"] == [
        {"asked": "Lights dim", "by": "occupier", "found": "C2, Neutral loose"},
        {"asked": "Room for a charge point?", "by": "client", "found": "Yes."},
    ]


def test_findings_stand_building_by_building_the_home_first():
    home = observed(("C3", "Label missing"))
    i = home["inspection"]
    i["boards"].append({"id": "shed", "name": "Pump shed", "outbuilding": True, "circuits": []})
    about = {"about_entity": "board", "about_id": "shed"}
    i["observations"] += [{"id": "s", "code": "C2", "text": "Gland open", **about}]
    told = said(home)["observations"]
    # The more serious one is in the shed, and comes after the home.
    assert [(one["text"], one["building"]) for one in told] == [("Label missing", ""), ("Gland open", "Pump shed")]


def test_whom_it_was_told_and_what_they_said_is_printed_of_any_code():
    home = observed(("C3", "Label missing"))
    home["inspection"]["observations"][0] |= {
        "told_to": "Hester Vane", "told_at": "2026-11-03T11:00:00Z", "told_said": "The Trust will see to it.",
    }  # fmt: skip
    (told,) = said(home)["observations"]
    assert told["told"] == "Told Hester Vane on 3 November 2026, 11:00: “The Trust will see to it.”"


def test_a_home_without_photos_says_so_and_asks_for_none():
    home = observed(("C2", "Label missing", "labels-missing", True))
    home["inspection"]["observations"][0] |= {"as_left": "Fitted", "retest": "seen"}
    asked = [h.text for h in readiness(document.parse(home), judge(document.parse(home))) if "photo" in h.text]
    assert asked
    home["inspection"]["no_photos"] = True
    inspection = document.parse(home)
    assert not [h.text for h in readiness(inspection, judge(inspection)) if "photo" in h.text]
    assert said(home)["no_photos"] is True


def test_only_tests_that_were_made_are_explained():
    assert [one["test"] for one in said(cottage())["tests_tell"]][:2] == ["Continuity", "Insulation"]
    bare = cottage()
    for board in bare["inspection"]["boards"]:
        for circuit in board["circuits"]:
            for field in [name for name in circuit if name.endswith(("_ohm", "_mohm", "_ms")) or name == "polarity"]:
                circuit.pop(field)
        for rcd in board.get("rcds", ()):
            rcd.pop("trip_ms", None)
    assert said(bare)["tests_tell"] == []


@pytest.mark.parametrize(
    ("text", "code", "hinted"),
    [
        ("The board is obsolete", "C2", True),
        ("Old wiring throughout", "C2", True),
        ("Old wiring throughout", "note", False),
        ("Insulation perished, copper bare at the lamp", "C2", False),
        ("Label updated", "C2", False),
    ],
)
def test_words_that_call_age_unsafe_are_pointed_out_and_decide_nothing(text, code, hinted):
    judgement = judge(document.parse(observed((code, text))))
    (one,) = judgement.recorded
    assert bool(one.hint) is hinted
    assert judgement.outcome == judge(document.parse(observed((code, "Something else")))).outcome


def test_labels_and_a_shared_supply_are_printed():
    home = cottage()
    i = home["inspection"]
    i["supply_shared_with"] = "K-0152"
    board = i["boards"][0]["id"]
    i["labels"] = [
        {"id": "l1", "about_entity": "board", "about_id": board, "kind": "rcd-test", "state": "found"}
        | {"interval": "quarterly"},
        {"id": "l2", "about_entity": "board", "about_id": board, "kind": "next-inspection", "state": "fitted"},
        {"id": "l3", "about_entity": "inspection", "about_id": i["id"], "kind": "earth", "state": "fitted"},
    ]
    told = said(home)
    supply = {row["label"]: row["value"] for row in told["supply"]}
    assert supply["Supply shared with inspection"] == "K-0152"
    assert supply["Labels at the origin"] == "Safety label at the earth connection: fitted"
    wanted = "Labels: RCD test notice: found (quarterly); Date of the next inspection: fitted."
    assert wanted in told["boards"][0]["said"]
