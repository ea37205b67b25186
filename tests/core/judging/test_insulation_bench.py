"""A board's insulation as it adds up, and what is told of it (rules 6.2 to 6.6)."""

import pytest

from tests.core.whole_homes import board, circuit, judged


def bench(**mohm):
    """A board whose circuits read so to earth; None: not measured."""
    circuits = [
        circuit(n, name, **({"insulation_lne_mohm": text} if text else {}))
        for n, (name, text) in enumerate(mohm.items(), 1)
    ]
    found = judged(board(*circuits)).insulation
    return found[0] if found else None


def test_the_whole_is_the_parallel_of_its_circuits_and_each_has_its_part():
    found = bench(A="3", B="6", C="6")
    # 1/3 + 1/6 + 1/6 = 2/3.
    assert float(found.combined) == pytest.approx(1.5)
    assert [row.part for row in found.rows] == pytest.approx([0.5, 0.25, 0.25])
    assert not any(row.first for row in found.rows)
    assert found.without == ""


def test_what_spoils_the_whole_is_opened_first_and_what_is_left_without_it_is_told():
    found = bench(A="0.9", B="40", C="60", D="30")
    assert [row.name for row in found.rows if row.first] == ["1 A"]
    # 1/40 + 1/60 + 1/30 = 0.075.
    assert float(found.without) == pytest.approx(13.3, abs=0.1)
    assert found.causes[0].startswith("equipment still plugged in")
    assert found.causes[-1].startswith("then the cable")


def test_several_that_pass_alone_can_fail_together():
    found = bench(A="2", B="2", C="2")
    assert found.status == "fail"
    assert any(row.first for row in found.rows)
    assert not any(row.low for row in found.rows)
    assert "sound" in found.client


def test_the_client_is_told_what_to_renew_what_to_watch_and_what_to_keep():
    found = bench(A="0.5", B="4", C="150", D="180", E="200", F=None)
    assert "1 A (0.5 MΩ) no longer keeps current in" in found.client
    assert "2 B (4 MΩ) still passes but is far below its neighbours" in found.client
    assert "3 circuits are sound and can stay" in found.client
    assert "1 circuit was not measured whole, and nothing is said of it" in found.client
    assert found.missing == ("6 F",)


def test_nothing_is_called_sound_that_was_not_measured():
    assert bench(A=None, B=None) is None
    found = bench(A="200", B=None)
    assert found.status != "pass"
    assert "All" not in found.client
    assert bench(A="200", B="150").client == "All 2 circuits are sound and can stay."


def test_l_e_and_n_e_apart_stand_together_and_half_of_them_is_missing():
    both = {"insulation_le_mohm": "4", "insulation_ne_mohm": "4"}
    found = judged(board(circuit(1, "A", **both), circuit(2, "B", insulation_le_mohm="4"))).insulation[0]
    # 4 and 4 in parallel.
    assert float(found.rows[0].text) == pytest.approx(2.0)
    assert found.missing == ("2 B",)


def test_a_spare_way_and_a_limitation_are_no_part_of_it():
    found = judged(
        board(
            circuit(1, "A", insulation_lne_mohm="90"),
            circuit(2, "B", insulation_lne_mohm="LIM not agreed"),
            {"id": "c3", "spare": True},
        )
    ).insulation[0]
    assert [row.name for row in found.rows] == ["1 A"]
    assert found.missing == ("2 B",)


def test_between_line_and_neutral_the_board_has_its_own_table():
    read = [("90", ">200"), ("80", "120"), ("0.6", ">200")]
    earth, between = judged(
        board(
            *(
                circuit(n, f"C{n}", insulation_ln_mohm=ln, insulation_lne_mohm=lne, loads_removed=True)
                for n, (ln, lne) in enumerate(read, 1)
            )
        )
    ).insulation
    assert (earth.pairing, between.pairing) == ("L+N–E", "L–N")
    assert [row.text for row in between.rows] == ["90", "80", "0.6"]
    assert [row.low for row in between.rows] == [False, False, True]
    assert between.rows[2].first
    assert between.client == ""


@pytest.mark.parametrize(("loads_removed", "said"), [(True, "no longer keeps current in"), (None, "to be settled")])
def test_nothing_is_called_sound_whose_line_to_neutral_is_not(loads_removed, said):
    """Sound to earth is half of it: the other pairing was measured too, and is low."""
    first = circuit(1, "A", insulation_lne_mohm="200", insulation_ln_mohm="0.4", loads_removed=loads_removed)
    client = judged(board(first, circuit(2, "B", insulation_lne_mohm="200"))).insulation[0].client
    assert client.startswith("1 circuit is sound and can stay") or said in client.split(". ")[0]
    assert "All" not in client
    assert said in client
    assert "1 circuit is sound" in client


def test_nothing_is_called_sound_of_which_a_part_was_switched_off_between_line_and_neutral():
    first = circuit(1, "A", insulation_lne_mohm="200", insulation_ln_mohm=">200")
    home = board(first, circuit(2, "B", insulation_lne_mohm="200"))
    stood = {"id": "s", "about_id": first["id"], "field": "insulation_ln_mohm", "of_reading": ">200"}
    client = judged(home, positions=[stood | {"stood": "light switches off"}]).insulation[0].client
    assert client.startswith("1 circuit is sound")
    assert judged(home).insulation[0].client == "All 2 circuits are sound and can stay."


def test_what_stands_out_in_one_pairing_apart_is_told_there():
    apart = [("150", "180"), ("160", "5"), ("140", "170"), ("150", "160")]
    (earth,) = judged(
        board(
            *(circuit(n, f"C{n}", insulation_le_mohm=le, insulation_ne_mohm=ne) for n, (le, ne) in enumerate(apart, 1))
        )
    ).insulation
    assert [row.parts_apart for row in earth.rows] == [(), ("N–E",), (), ()]
    assert earth.rows[1].parts == "L–E 160 · N–E 5"
    assert judged(board(circuit(1, "A", insulation_lne_mohm="9"))).insulation[0].rows[0].parts == ""


def test_a_circuit_has_pairings_of_its_own_and_else_the_firms():
    def asked(house, own):
        home = board(circuit(1, "A", **({"insulation_pairings": own} if own else {})))
        judgement = judged(home, house_rules={"insulation_pairings": house})
        return {f for one in judgement.progress.asked if one.stage == "dead" for f in one.fields if "insulation" in f}

    three = {"insulation_ln_mohm", "insulation_le_mohm", "insulation_ne_mohm"}
    assert asked("L+N–E", None) == asked("all three", "L+N–E") == {"insulation_lne_mohm"}
    assert asked("all three", None) == asked("L+N–E", "all three") == three
