"""The register of the demo's firm: who asks for work, where, what is booked, and with which instruments."""

from collections.abc import Mapping
from datetime import timedelta
from typing import Any

from sqlalchemy import Connection

from dorrik.store.database.engine import now
from dorrik.store.register import register

TRUST = "Kelder Haven Harbour Trust"


def day_ahead(days: int) -> str:
    """A date some days ahead: the demo is always of this month."""
    return (now().date() + timedelta(days=days)).isoformat()


def working_day_ahead(days: int) -> str:
    """The same, or the next day that is no Saturday or Sunday."""
    day = now().date() + timedelta(days=days)
    return (day + timedelta(days=max(0, 7 - day.weekday()) if day.weekday() > 4 else 0)).isoformat()


class Registrar:
    """Writes entries of one firm's register."""

    def __init__(self, connection: Connection, firm_id: str, author_id: str) -> None:
        self._connection = connection
        self._firm_id = firm_id
        self._author_id = author_id
        #: Properties by address, and the first installation of each.
        self.properties: dict[str, tuple[str, str]] = {}
        #: The client with a portfolio, and the job of the pilot's house, which is booked.
        self.trust = ""
        self.pilots_job = ""
        #: Lead sets by name.
        self.leads: dict[str, str] = {}
        #: The tester, as an inspection names it.
        self.tester: dict[str, Any] = {}

    def add(self, kind: str, /, parent: str | None = None, **values: Any) -> str:
        """Add an entry; returns its id."""
        made = register.add(self._connection, self._firm_id, self._author_id, kind, parent or self._firm_id, values)
        if made is None:
            raise RuntimeError(f"The demo's {kind} could not be added.")
        return made.id

    def change(self, kind: str, entry_id: str, /, **values: Any) -> None:
        """Change fields of an entry."""
        register.change(self._connection, self._firm_id, self._author_id, kind, entry_id, values)

    def home(self, client: str, address: str, installations: Mapping[str, str], **values: Any) -> str:
        """A property with its installations (name and earthing); returns its id."""
        home = self.add("property", client, address=address, nation="England", **values)
        made = [self.add("installation", home, name=name, earthing=e) for name, e in installations.items()]
        self.properties[address] = (home, made[0])
        return home


def load(keeper: Registrar) -> None:
    """Clients, properties, jobs, instruments and lead sets."""
    trust = keeper.add(
        "client", name=TRUST, address="Harbour Office, The Mole, Kelder Haven", contact="Wilf Sorrel, lettings",
        phone="01632 960 102", email="lettings@harbourtrust.example",
    )  # fmt: skip
    keeper.trust = trust
    owner = keeper.add(
        "client", name="Orla Fenwick", address="Lifeboat Keeper's House, Slip Road, Kelder Haven",
        phone="01632 960 131",
    )  # fmt: skip
    let = {"tenure": "let dwelling"}
    for number, occupier in ((1, "Wynn Tarrant"), (3, "Hester Vane"), (5, "Joss Adair"), (7, "Pim Lovell")):
        keeper.home(
            trust, f"{number} Lookout Row, Kelder Haven", {"House": "TN-C-S"}, built_year=1891, rewired_year=2018,
            occupier_name=occupier, key_place="Harbour Office, hook 14", parking="On the Mole, five minutes", **let,
        )  # fmt: skip
    for flat, occupier in ((1, "Tove Brand"), (2, "Davy Marlow"), (3, "Ines Holm")):
        keeper.home(
            trust, f"Flat {flat}, The Net Loft, Capstan Lane, Kelder Haven", {"Flat": "TN-S"}, built_year=1840,
            rewired_year=1986, occupier_name=occupier, access="Stair from the lane; the door sticks.", **let,
        )  # fmt: skip
    keeper.home(
        trust, "4 The Ropewalk, Kelder Haven", {"House": "TN-C-S"}, built_year=1878, rewired_year=2004,
        occupier_name="Jory Penhallow", key_place="Harbour Office, hook 9", **let,
    )  # fmt: skip
    pilot = keeper.home(
        trust, "The Pilot's House, Signal Hill, Kelder Haven", {"House": "TN-C-S", "Boat shed": "TT"},
        built_year=1867, rewired_year=1994, occupier_name="Bram Calder", occupier_phone="01632 960 155",
        must_stay_on="Freezer in the scullery", key_place="With the occupier", access="Shed key by the door",
        **let,
    )  # fmt: skip
    keeper.home(
        owner, "Lifeboat Keeper's House, Slip Road, Kelder Haven", {"House": "TT"}, built_year=1902,
        tenure="owner-occupied dwelling", occupier_name="Orla Fenwick",
    )  # fmt: skip
    keeper.pilots_job = keeper.add(
        "job", pilot, number="J-0209", state="booked", purpose="periodic",
        extent="House and boat shed, a report each; a quarter of the points opened, every board.",
        leave_out="Signal mast lighting", leave_out_reason="Belongs to the harbour", agreed_with="Wilf Sorrel",
        agreed_on=day_ahead(-6), booked_on=working_day_ahead(2), booked_at="08:30", power_off="09:30 to 12:30",
        boards=2, rings=3, radials=11, points_opened=14, points_tested=62, travel_km=6,
    )  # fmt: skip
    keeper.add(
        "job", keeper.properties["5 Lookout Row, Kelder Haven"][0], number="J-0210", state="asked",
        purpose="change of occupier", boards=1, rings=2, radials=6, points_opened=8, points_tested=36, travel_km=4,
    )  # fmt: skip
    keeper.tester = {
        "name": "Multifunction tester", "kind": "multifunction", "serial": "MF-20771",
        "calibration_due": day_ahead(155),
    }  # fmt: skip
    keeper.tester["register_id"] = keeper.add(
        "instrument", bought_on="2022-03-01", calibrated_on=day_ahead(-210), certificate="C-8841", **keeper.tester
    )
    keeper.add(
        "instrument", name="Leakage clamp", kind="clamp", serial="LC-0313", bought_on="2023-05-12",
        calibrated_on=day_ahead(-350), calibration_due=day_ahead(15),
    )  # fmt: skip
    for name, known_ohm in (("Blue pouch, probes", 0.06), ("Long lead, 25 m", 0.34)):
        keeper.leads[name] = keeper.add("leads", name=name, known_ohm=known_ohm)
