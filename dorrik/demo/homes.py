"""The homes of the demo, circuit by circuit."""

from datetime import timedelta
from functools import partial
from typing import Any

from dorrik.demo import bench_home, drawn_photos, open_questions, tables, walks
from dorrik.demo.scribe import Scribe
from dorrik.store.database.engine import now

_: None = None
OK = "correct"
_MCB = {"device_standard": "BS EN 60898", "device_type": "B"}
_RCBO = {"device_standard": "BS EN 61009", "device_type": "B", "rcd_standard": "BS EN 61009"}
_TRUST = {
    "client_name": "Kelder Haven Harbour Trust",
    "client_address": "Harbour Office, The Mole, Kelder Haven",
    "tenure": "let dwelling",
    "purpose": "periodic",
}


def lookout_row_1(scribe: Scribe) -> None:
    """A coastguard cottage rewired a few years ago: satisfactory with one recommendation."""
    scribe.origin(
        reference="K-0144",
        property_address="1 Lookout Row, Kelder Haven",
        occupier_name="Wynn Tarrant",
        inspected_on=tables.day(20),
        extent="The whole fixed installation of the cottage; one socket and one switch in each room opened.",
        earthing="TN-C-S",
        phases="1",
        service_fuse_standard="BS 1361 type II",
        meter_number="HM-204417",
        meter_seals="whole",
        isolator="present",
        isolator_a=100,
        tails_protected=False,
        service_fuse_a=80,
        tails_mm2=25,
        earthing_conductor_mm2=16,
        bonding_mm2=10,
        bonding_to="Water at the stop tap; gas at the meter",
        ze_ohm="0.19",
        ze_parallel_removed=True,
        pscc_ka="1.24",
        pefc_ka="1.19",
        supply_polarity=OK,
        condition="Rewired about 2018 in one hand, tidy, dry and little altered since.",
        declared_outcome="satisfactory",
        next_years=5,
        next_reason="Let dwelling; nothing found that asks for a shorter time.",
        **_TRUST,
    )
    board = scribe.add(
        "board",
        "inspection",
        scribe.inspection,
        name="Board 1",
        location="Hall cupboard",
        ways=8,
        main_switch_a=100,
        conditional_ka=16,
        zdb_ohm="0.19",
        isolated_at=tables.at(20, "09:40:00"),
        isolated_lock="Lock 7",
    )
    rows: list[tuple[Any, ...]] = [
        ("Cooker", "radial", "fixed", 1, 6, 2.5, 32, 30, _, _, _, "0.12", ">500", "460", OK, "0.31", "24", OK),
        ("Sockets down", "ring", "sockets", 11, 2.5, 1.5, 32, 30, "0.41", "0.41", "0.68", "0.27", ">500", "310", OK, "0.46", "22", OK),
        ("Sockets up", "ring", "sockets", 9, 2.5, 1.5, 32, 30, "0.46", "0.47", "0.76", "0.31", ">500", ">500", OK, "0.49", "23", OK),
        ("Immersion", "radial", "fixed", 1, 2.5, 1.5, 16, 30, _, _, _, "0.28", ">500", ">500", OK, "0.47", "26", OK),
        ("Lights down", "radial", "lighting", 9, 1.5, 1, 6, 30, _, _, _, "0.84", ">500", "240", OK, "1.04", "25", OK),
        ("Lights up", "radial", "lighting", 8, 1.5, 1, 6, 30, _, _, _, "0.92", ">500", "265", OK, "1.10", "24", OK),
        ("Alarms", "radial", "fixed", 3, 1.5, 1, 6, 30, _, _, _, "0.66", ">500", ">500", OK, "0.86", "23", OK),
        ("spare",),
    ]  # fmt: skip
    ids = tables.circuits(scribe, board, rows, rcd_delay="none", rcd_kind="A", **_RCBO)
    scribe.set("board", board, spd_state="none")
    walks.look_at_board(scribe, board)
    walks.walk(scribe, walks.LOOKOUT_ROW_1, tables.named(rows, ids), tables.at(20, "09:20:00"))
    scribe.origin(**_WALK, records="good", condition_on_sight="good", sampling_seed=441_207)
    scribe.add(
        "observation",
        "inspection",
        scribe.inspection,
        about_entity="board",
        about_id=board,
        place="Board 1, hall cupboard",
        text="No surge protection",
        code="C3",
        catalogue_key="no-surge-protection",
    )
    scribe.add(
        "limitation",
        "inspection",
        scribe.inspection,
        what="Loft space above the back bedroom",
        reason="Boarded and full of stores",
        agreed_with="Harbour Office",
    )


_TEN_YEARS_AGO = (
    ("240", "0.16", "0.54"),
    ("320", "0.24", "0.61"),
    ("190", "0.42", "0.80"),
    ("140", "1.02", "1.41"),
    ("64", "1.33", "1.58"),
    (_, "0.11", "0.49"),
)
_FIVE_YEARS_AGO = (
    ("225", "0.16", "0.55"),
    ("180", "0.25", "0.62"),
    ("185", "0.41", "0.81"),
    ("130", "1.02", "1.42"),
    ("9.5", "1.34", "1.66"),
    (">500", "0.11", "0.50"),
)


def net_loft_flat_2(scribe: Scribe) -> None:
    """A flat in the old net loft: unsatisfactory, with faults of several families."""
    scribe.origin(
        reference="K-0145",
        property_address="Flat 2, The Net Loft, Capstan Lane, Kelder Haven",
        occupier_name="Davy Marlin",
        inspected_on=tables.day(13),
        extent="The whole fixed installation of the flat; half of the points opened.",
        earthing="TN-S",
        phases="1",
        service_fuse_standard="BS 1361 type II",
        meter_seals="none seen",
        isolator="none",
        service_fuse_a=60,
        tails_mm2=16,
        earthing_conductor_mm2=10,
        bonding_mm2=6,
        bonding_to="Water under the sink",
        ze_ohm="0.38",
        ze_parallel_removed=True,
        pscc_ka="0.92",
        pefc_ka="0.63",
        supply_polarity=OK,
        condition="Several hands over forty years. Sound in the main run, poor where the kitchen was moved.",
        declared_outcome="unsatisfactory",
        next_years=3,
        next_reason="Shorter than usual: insulation of the outside lights is falling and the board is old.",
        **_TRUST,
    )
    board = scribe.add(
        "board",
        "inspection",
        scribe.inspection,
        name="Board 1",
        location="Over the flat's only door",
        ways=6,
        main_switch_a=80,
        zdb_ohm="0.39",
        isolated_at=tables.at(13, "10:05:00"),
        isolated_lock="Lock 7",
    )
    rows: list[tuple[Any, ...]] = [
        ("Cooker", "radial", "fixed", 1, 6, 2.5, 32, _, _, _, _, "0.16", ">500", "210", OK, "0.55", _, _),
        ("Kitchen ring", "ring", "sockets", 8, 2.5, 1.5, 32, 30, "0.36", "OL", "0.60", "0.25", ">500", "96", OK, "0.63", "31", OK),
        ("Sockets", "radial", "sockets", 7, 2.5, 1.5, 20, 30, _, _, _, "0.42", ">500", "180", OK, "0.82", "33", OK),
        ("Lights", "radial", "lighting", 8, 1.5, 1, 6, _, _, _, _, "1.02", ">500", "120", OK, "1.42", _, _),
        ("Outside lights", "radial", "lighting", 3, 1.5, 1, 6, 30, _, _, _, "1.35", "14", "1.4", OK, "1.76", "34", OK),
        ("Shower", "radial", "fixed", 1, 10, 4, 40, 30, _, _, _, "0.11", ">500", ">500", OK, "LIM RCD trips on test", "340", OK),
    ]  # fmt: skip
    ids = tables.circuits(scribe, board, rows, rcd_delay="none", rcd_kind="A", **_MCB)
    scribe.set("board", board, spd_state="none")
    walks.look_at_board(scribe, board, wanting=("enclosure",))
    walked = walks.walk(scribe, walks.NET_LOFT_FLAT_2, tables.named(rows, ids), tables.at(13, "09:40:00"))
    scribe.origin(**_WALK, records="fair", condition_on_sight="fair", sampling_seed=90_113)
    scribe.add(
        "bond",
        "inspection",
        scribe.inspection,
        service="water",
        state="present",
        place="Under the sink",
        csa_mm2=6,
        length_m=7,
        at_clamp_ohm="0.02",
        at_pipe_ohm="0.02",
    )
    # Ten years by the reports of the time: sound cables stay as they were, the one outdoors is on its way down.
    for years, readings in ((10, _TEN_YEARS_AGO), (5, _FIVE_YEARS_AGO)):
        for circuit_id, figures in zip(ids, readings, strict=True):
            for figure, reading in zip(("insulation_lne_mohm", "r1_r2_ohm", "zs_ohm"), figures, strict=True):
                if reading is not _:
                    scribe.add(
                        "earlier",
                        "circuit",
                        circuit_id,
                        measured_on=tables.day(13 + round(365.25 * years)),
                        figure=figure,
                        reading=reading,
                        source="Report of that year",
                    )

    def observe(about: str, entity: str, place: str, text: str, code: str, key: str, **more: Any) -> str:
        return scribe.add(
            "observation",
            "inspection",
            scribe.inspection,
            about_entity=entity,
            about_id=about,
            place=place,
            text=text,
            code=code,
            catalogue_key=key,
            **more,
        )

    observe(
        scribe.inspection,
        "inspection",
        "Intake",
        "Earthing and bonding conductors smaller than today's sizes, no sign of heat",
        "C3",
        "bond-undersized",
    )
    observe(ids[1], "circuit", "2 Kitchen ring", "Ring open in the neutral", "C2", "ring-open")
    observe(ids[5], "circuit", "6 Shower", "RCD too slow: 340 ms", "C2", "rcd-slow")
    observe(ids[4], "circuit", "5 Outside lights", "Insulation low, 1.4 MΩ", "FI", "insulation-low")
    over_the_door = observe(
        board,
        "board",
        "Board 1",
        "Enclosure of combustible material over the only way out",
        "C2",
        "combustible-enclosure",
        code_reason="Over the sole escape route.",
    )
    plate = observe(
        walked["Bedroom/window socket"],
        "point",
        "Bedroom, window socket",
        "Cracked plate",
        "C3",
        "accessory-cracked",
        mended=True,
        as_left="Plate replaced.",
        retest="R1+R2 0.38 Ω, polarity correct.",
    )
    scribe.opinions += [
        (over_the_door, "C2", "Nobody gets out past a burning board."),
        (plate, "C2", "It is beside the bed, where children reach it."),
    ]
    crack = {"kind": "arrow", "x": 0.84, "y": 0.16, "x2": 0.64, "y2": 0.36}
    wood = {"kind": "ring", "x": 0.16, "y": 0.14, "x2": 0.84, "y2": 0.7}
    scribe.photos += [
        (drawn_photos.board, ("observation", over_the_door),
         {"shows": "defect", "caption": "Wooden enclosure over the door", "marks": [wood], "print_size": "large"}),
        (partial(drawn_photos.socket, True), ("observation", plate),
         {"shows": "defect", "caption": "Crack from the edge", "marks": [crack]}),
        (partial(drawn_photos.socket, False), ("observation", plate), {"shows": "as left", "caption": "New plate"}),
    ]  # fmt: skip


#: Which way round every home is walked.
_WALK = {"walk_direction": "left hand to the wall"}
#: The one whose name does not say its room.
_ROOM_OF = {"loft hatch": "Net loft"}
#: Point, line to neutral, line to cpc (Ω).
_SOCKETS_UP = (
    ("landing socket", "0.23", "0.29"),
    ("large bedroom window", "0.23", "0.30"),
    ("large bedroom bed", "0.23", "0.30"),
    ("large bedroom door", "0.23", "0.31"),
    ("small bedroom desk", "0.24", "0.31"),
    ("loft hatch", "0.41", "0.54"),
    ("small bedroom door", "0.23", "0.30"),
    ("study window", "0.23", "0.30"),
    ("study door", "0.23", "0.29"),
)


def lookout_row_3(scribe: Scribe) -> None:
    """A coastguard cottage half done: the ring and the net loft lights wait for an answer."""
    scribe.origin(
        reference="K-0147",
        property_address="3 Lookout Row, Kelder Haven",
        occupier_name="Hester Vane",
        inspected_on=tables.day(0),
        extent="The whole fixed installation of the cottage and its pump shed; a quarter of the points opened.",
        earthing="TN-C-S",
        phases="1",
        service_fuse_standard="BS 1361 type II",
        meter_number="HM-118802",
        meter_seals="whole",
        isolator="present",
        isolator_a=100,
        service_fuse_a=80,
        tails_mm2=25,
        earthing_conductor_mm2=16,
        bonding_mm2=10,
        bonding_to="Water at the stop tap",
        ze_ohm="0.21",
        ze_parallel_removed=True,
        pscc_ka="1.12",
        pefc_ka="1.08",
        supply_polarity=OK,
        **_TRUST,
    )
    board = scribe.add(
        "board",
        "inspection",
        scribe.inspection,
        name="Board 1",
        location="Hall cupboard",
        ways=12,
        main_switch_a=100,
        conditional_ka=16,
        zdb_ohm="0.21",
        isolated_at=(now() - timedelta(hours=2)).isoformat(timespec="seconds") + "Z",
        isolated_lock="Lock 7",
    )
    rows: list[tuple[Any, ...]] = [
        ("Shower", "radial", "fixed", 1, 10, 4, 40, _, _, _, _, "0.09", ">500", ">500", OK, _, _, _),
        ("Cooker", "radial", "fixed", 1, 6, 2.5, 32, _, _, _, _, "0.19", ">500", "412", OK, _, _, _),
        ("Kitchen ring", "ring", "sockets", 8, 2.5, 1.5, 32, _, "0.38", "0.38", "1.02", _, _, _, _, _, _, _),
        ("Lights down", "radial", "lighting", 9, 1.5, 1, 6, _, _, _, _, "1.12", ">500", "188", OK, _, _, _),
        ("Sockets up", "ring", "sockets", 9, 2.5, 1.5, 32, _, "0.46", "0.46", "0.76", _, ">500", ">500", _, _, _, _),
        ("Net loft lights", "radial", "lighting", 5, 1.5, 1, 6, _, _, _, _, "0.74", "38", "0.6", OK, _, _, _),
        ("Immersion", "radial", "fixed", 1, 2.5, 1.5, 16, _, _, _, _, "0.28", _, _, _, _, _, _),
        ("Lights up", "radial", "lighting", 8, 1.5, 1, 6, _, _, _, _, "0.97", _, _, _, _, _, _),
        ("Pump shed", "radial", "distribution", 2, 4, 1.5, 20, _, _, _, _, _, _, _, _, _, _, _),
        ("Alarms", "radial", "fixed", 3, 1.5, 1, 6, _, _, _, _, _, _, _, _, _, _, _),
        ("spare",),
        ("spare",),
    ]  # fmt: skip
    # Two RCDs share the ways between them; each is tested once for all that is behind it.
    marked = {
        "place": "its circuits",
        "standard": "BS EN 61008",
        "kind": "A",
        "rating_a": 80,
        "rated_ma": 30,
        "delay": "none",
    }
    rcds = [scribe.add("rcd", "board", board, position=n, name=f"RCD {n}", **marked) for n in (1, 2)]
    ids = tables.circuits(scribe, board, rows, **_MCB)
    for n, circuit in enumerate(ids[:10]):
        scribe.set("circuit", circuit, rcd_id=rcds[n >= 5])
    scribe.add(
        "bond", "inspection", scribe.inspection, service="water", state="present", csa_mm2=10, at_pipe_ohm="0.01"
    )
    # The pump shed across the yard: a board of its own behind way 9, with an electrode.
    shed = scribe.add(
        "board",
        "inspection",
        scribe.inspection,
        name="Pump shed",
        position=2,
        location="Shed, beside the door",
        ways=4,
        main_switch_a=63,
        fed_by=ids[8],
        earthing="own electrode",
        outbuilding=True,
        extraneous="none",
        electrode_ohm="84",
        electrode_alone=True,
    )
    shed_rows: list[tuple[Any, ...]] = [
        ("Pump", "radial", "fixed", 1, 2.5, 1.5, 16, _, _, _, _, _, _, _, _, _, _, _),
        ("Shed lights", "radial", "lighting", 2, 1.5, 1, 6, _, _, _, _, _, _, _, _, _, _, _),
    ]  # fmt: skip
    tables.circuits(scribe, shed, shed_rows, **_MCB)
    scribe.add("rcd", "board", shed, name="Shed RCD", **(marked | {"place": "whole board", "rating_a": 63}))
    for item in ("enclosure", "openings", "heat", "tight", "main-switch"):
        scribe.add("check", "board", board, item=item, state="good")
    scribe.add("attendance", "inspection", scribe.inspection, who="Ruth Pellow", purpose="inspection",
               arrived_at=(now() - timedelta(hours=3)).isoformat(timespec="seconds") + "Z")  # fmt: skip
    walked = walks.walk(scribe, walks.LOOKOUT_ROW_3, tables.named(rows, ids), tables.at(0, "00:00:00"), seen=3)
    scribe.origin(**_WALK, records="good", condition_on_sight="fair", other_hands=False, sampling_seed=20_447)
    observation = {"about_entity": "point", "code": "C3"}
    cracked = scribe.add(
        "observation", "inspection", scribe.inspection, **observation, about_id=walked["Kitchen/socket by the sink"],
        place="Kitchen, socket by the sink", text="Accessory cracked", catalogue_key="accessory-cracked",
    )  # fmt: skip
    open_questions.left_open(scribe, ids, walked)
    open_questions.follows(scribe, board, walked["Kitchen/socket by the sink"])
    arrow = {"kind": "arrow", "x": 0.84, "y": 0.16, "x2": 0.64, "y2": 0.36}
    bare = {"kind": "ring", "x": 0.34, "y": 0.16, "x2": 0.66, "y2": 0.6}
    scribe.photos += [
        (partial(drawn_photos.socket, True), ("observation", cracked), {"shows": "defect", "marks": [arrow]}),
        (drawn_photos.bath_light, ("point", walked["Bathroom/light over the bath"]),
         {"shows": "defect", "caption": "No mark of its protection to be found", "marks": [bare]}),
        (drawn_photos.pull_cord, ("point", walked["Bathroom/pull cord"]), {"shows": "overview"}),
    ]  # fmt: skip
    # The upstairs ring, ends cross-connected: the sixth point hangs off it on a dozen metres.
    for n, (name, line_neutral, line_cpc) in enumerate(_SOCKETS_UP):
        scribe.add(
            "point",
            "circuit",
            ids[4],
            position=n,
            name=name,
            kind="socket",
            room_id=walked[_ROOM_OF.get(name, name.rpartition(" ")[0].capitalize())],
            line_neutral_ohm=line_neutral,
            line_cpc_ohm=line_cpc,
        )
    scribe.add(
        "observation",
        "inspection",
        scribe.inspection,
        about_entity="inspection",
        about_id=scribe.inspection,
        place="Stop tap, kitchen",
        text="Earth connection label missing",
        code="C3",
        catalogue_key="safety-label-missing",
        opinion_asked_at=(now() - timedelta(hours=1)).isoformat(timespec="seconds") + "Z",
    )


def keepers_house(scribe: Scribe) -> None:
    """The lifeboat keeper's house, about to be sold: TT, just begun."""
    scribe.origin(
        reference="K-0146",
        property_address="Lifeboat Keeper's House, Slip Road, Kelder Haven",
        client_name="Orla Fenwick",
        client_address="Lifeboat Keeper's House, Slip Road, Kelder Haven",
        tenure="owner-occupied dwelling",
        purpose="purchase",
        inspected_on=tables.day(0),
        extent="The house without the boat shed; every point that can be reached.",
        earthing="TT",
        phases="1",
        ze_ohm="232",
        ze_parallel_removed=True,
    )
    scribe.add(
        "limitation",
        "inspection",
        scribe.inspection,
        what="Boat shed",
        reason="Separate owner, locked",
        agreed_with="Orla Fenwick",
    )


IN_HAND = (keepers_house, bench_home.ropewalk_4, lookout_row_3)
ISSUED = (lookout_row_1, net_loft_flat_2)
#: Nulls of the leads by the address of the visit: which set, days ago, when, and what it read.
NULLS = {
    "1 Lookout Row, Kelder Haven": (
        ("Blue pouch, probes", 20, "09:18:00", "0.06"),
        ("Blue pouch, probes", 20, "13:04:00", "0.05"),
    ),
    "Flat 2, The Net Loft, Capstan Lane, Kelder Haven": (
        ("Blue pouch, probes", 13, "09:31:00", "0.06"),
        ("Blue pouch, probes", 13, "11:47:00", "0.07"),
        ("Blue pouch, probes", 13, "13:22:00", "0.06"),
    ),
}
