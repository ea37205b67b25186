"""4 The Ropewalk: a home that is simulated too, so that its testing can be done with the instrument that is linked."""

from datetime import timedelta
from typing import Any

from dorrik.demo import tables
from dorrik.demo.scribe import Scribe
from dorrik.practice import homes
from dorrik.practice.home import Circuit, Home
from dorrik.store.database.engine import now

#: Its description, for `python -m dorrik meter`.
NAME = "ropewalk_4"
_KINDS = {"sockets": "socket", "lighting": "light", "fixed": "fixed equipment"}
_APPLIANCES = {"Cooker": "cooker", "Shower": "shower"}


def ropewalk_4(scribe: Scribe) -> None:
    """Walked round and isolated; nothing is measured yet."""
    home = homes.load(NAME)
    scribe.origin(
        reference="K-0148",
        property_address="4 The Ropewalk, Kelder Haven",
        client_name="Kelder Haven Harbour Trust",
        client_address="Harbour Office, The Mole, Kelder Haven",
        occupier_name="Jory Penhallow",
        tenure="let dwelling",
        purpose="periodic",
        inspected_on=tables.day(0),
        extent="The whole fixed installation of the cottage, tested with the simulated instrument of the bench.",
        earthing=home.supply.earthing,
        phases="1",
        service_fuse_standard="BS 1361 type II",
        service_fuse_a=home.service_fuse_a,
        isolator="present",
        isolator_a=100,
        tails_mm2=home.tails_mm2,
        earthing_conductor_mm2=home.earthing_mm2,
        bonding_mm2=10,
    )
    board = scribe.add(
        "board",
        "inspection",
        scribe.inspection,
        name="Board 1",
        location="Under the stair",
        ways=len(home.circuits) + 2,
        main_switch_a=100,
        conditional_ka=16,
        isolated_at=(now() - timedelta(minutes=20)).isoformat(timespec="seconds") + "Z",
        isolated_lock="Lock 7",
    )
    rcds = {
        name: scribe.add(
            "rcd", "board", board, position=n, name=name, place="its circuits", standard=device.standard, kind="A",
            rating_a=80, rated_ma=device.rated_ma, delay="none",
        )
        for n, (name, device) in enumerate(home.rcds.items())
    }  # fmt: skip
    for n, circuit in enumerate(home.circuits, 1):
        _circuit(scribe, board, n, circuit, rcds)
    _bonds(scribe, home)


def _bonds(scribe: Scribe, home: Home) -> None:
    for bond in home.bonds:
        scribe.add(
            "bond", "inspection", scribe.inspection, service=bond.service, state="present", csa_mm2=bond.csa_mm2,
            length_m=bond.length_m,
        )  # fmt: skip


def _circuit(scribe: Scribe, board: str, n: int, circuit: Circuit, rcds: dict[str, str]) -> None:
    standard, type_, rating = circuit.device
    more: dict[str, Any] = {"rcd_id": rcds[circuit.rcd]} if circuit.rcd else {}
    if circuit.name in _APPLIANCES:
        more["appliance"] = _APPLIANCES[circuit.name]
    way = scribe.add(
        "circuit", "board", board, position=n, way=str(n), designation=circuit.name,
        form="ring" if circuit.is_ring else "radial", serves=circuit.serves, cable_method=circuit.method,
        line_csa_mm2=circuit.wiring.line_csa_mm2, cpc_csa_mm2=circuit.wiring.cpc_csa_mm2,
        device_standard=standard, device_type=type_, device_rating_a=rating, device_breaking_ka=6, **more,
    )  # fmt: skip
    for number in range(len(circuit.wiring.walk)):
        scribe.add(
            "point", "circuit", way, position=number, name=circuit.point_name(number), kind=_KINDS[circuit.serves]
        )
