"""The harbour trust's eighteen homes before one deadline: who goes, where the keys are, who lets in and when.

One of them does not fit: its tenant is at home on Mondays alone, and gone before a visit is over.
"""

from datetime import timedelta
from random import Random
from typing import Any

from dorrik.demo.register import Registrar, day_ahead, working_day_ahead
from dorrik.store.database.engine import now

#: The day by which all of the trust's homes are to be inspected, in days from today.
DEADLINE = 9

#: Where each home of the trust is (degrees).
PLACES = {
    "1 Lookout Row, Kelder Haven": (50.3318, -4.7541),
    "3 Lookout Row, Kelder Haven": (50.3319, -4.7538),
    "5 Lookout Row, Kelder Haven": (50.3320, -4.7535),
    "7 Lookout Row, Kelder Haven": (50.3321, -4.7532),
    "Flat 1, The Net Loft, Capstan Lane, Kelder Haven": (50.3352, -4.7488),
    "Flat 2, The Net Loft, Capstan Lane, Kelder Haven": (50.3352, -4.7488),
    "Flat 3, The Net Loft, Capstan Lane, Kelder Haven": (50.3352, -4.7488),
    "4 The Ropewalk, Kelder Haven": (50.3344, -4.7517),
    "The Pilot's House, Signal Hill, Kelder Haven": (50.3391, -4.7569),
}
#: The other half: address, occupier, where it is, keys, rings and radials, when somebody lets in.
OTHERS: tuple[tuple[str, str, tuple[float, float], str, tuple[int, int], tuple[dict[str, Any], ...]], ...] = (
    ("4 Slip Road, Kelder Haven", "Cass Trembath", (50.3362, -4.7455), "agent", (2, 5), ()),
    ("7 Slip Road, Kelder Haven", "Nat Orchard", (50.3363, -4.7451), "agent", (2, 6), ()),
    ("9 Slip Road, Kelder Haven", "Bea Lanyon", (50.3364, -4.7449), "agent", (1, 5), ()),
    ("Boathouse Cottage, The Slip, Kelder Haven", "Morwen Pike", (50.3371, -4.7436), "", (2, 7),
     ({"weekday": "Wednesday"},)),
    ("2 Quay Steps, Kelder Haven", "Ivo Tangye", (50.3339, -4.7470), "harbour", (2, 5), ()),
    ("6 Quay Steps, Kelder Haven", "Elowen Rooke", (50.3340, -4.7466), "harbour", (2, 6),
     ({"weekday": "Thursday"}, {"weekday": "Tuesday", "until_time": "13:00"})),
    ("8 Quay Steps, Kelder Haven", "Perran Hale", (50.3341, -4.7463), "harbour", (1, 6), ()),
    ("11 Mole End, Kelder Haven", "Senara Bolt", (50.3307, -4.7459), "lodge", (2, 7), ()),
    ("The Ropery, Ropery Yard, Kelder Haven", "Jago Fenn", (50.3349, -4.7523), "", (2, 6),
     ({"weekday": "Monday", "from_time": "08:00", "until_time": "11:00"},)),
)  # fmt: skip
#: Homes of the trust that are part of the batch, by address: their jobs are still to be planned.
_FLATS = ("Flat 1, The Net Loft, Capstan Lane, Kelder Haven", "Flat 3, The Net Loft, Capstan Lane, Kelder Haven")
_EARLIER_STREETS = ("Ferry Lane", "Osier Road", "Sluice Street", "Low Bank")


def load(keeper: Registrar, people: dict[str, str]) -> None:
    """Weeks, key places, coordinates, access, jobs, and what earlier visits took. people: accounts by name."""
    trust = keeper.trust
    deadline = day_ahead(DEADLINE)
    ruth = keeper.add(
        "working_week", name="Ruth Pellow", person_id=people["Ruth Pellow"], latitude=50.3406, longitude=-4.7602,
        starts_at="08:00", ends_at="17:00", most_visits=2,
    )  # fmt: skip
    idris = keeper.add(
        "working_week", name="Idris Quill", person_id=people["Idris Quill"], latitude=50.3958, longitude=-4.7004,
        starts_at="08:30", ends_at="17:30", most_visits=2, not_monday=True,
    )  # fmt: skip
    keeper.add(
        "working_week", name="Pasco Reeve", by_request=True, latitude=50.4210, longitude=-4.8130, starts_at="07:30",
        ends_at="16:30", most_visits=2,
    )  # fmt: skip
    keeper.add("day_off", idris, first_day=working_day_ahead(6), reason="Course")
    keys = {
        "harbour": keeper.add(
            "key_holder", name="Harbour Office", address="The Mole, Kelder Haven", phone="01632 960 102",
            latitude=50.3312, longitude=-4.7478, opens_at="08:00", closes_at="17:00",
        ),
        "agent": keeper.add(
            "key_holder", name="Sorrel Lettings", address="1 Fore Street, Kelder Haven", phone="01632 960 119",
            latitude=50.3335, longitude=-4.7509, opens_at="09:00", closes_at="16:00",
        ),
        "lodge": keeper.add(
            "key_holder", name="Mole Lodge", address="Mole Head, Kelder Haven", phone="01632 960 164",
            latitude=50.3301, longitude=-4.7447, opens_at="07:30", closes_at="15:00",
        ),
    }  # fmt: skip
    done = {"1 Lookout Row, Kelder Haven", "3 Lookout Row, Kelder Haven", _FLATS[0].replace("1", "2", 1)}
    number = 211
    for address, (latitude, longitude) in PLACES.items():
        home = keeper.properties[address][0]
        fields: dict[str, Any] = {"latitude": latitude, "longitude": longitude}
        if "Lookout" in address or "Ropewalk" in address:
            fields["key_holder_id"] = keys["harbour"]
        if address not in done:
            fields |= {"due_on": deadline, "inspected_on": _years_ago(deadline)}
        keeper.change("property", home, **fields)
    for address in ("7 Lookout Row, Kelder Haven", *_FLATS):
        number = _job(keeper, keeper.properties[address][0], number, 2 if "Row" in address else 1, 5)
    for address, occupier, (latitude, longitude), key, (rings, radials), access in OTHERS:
        more = {"key_holder_id": keys[key]} if key else {}
        home = keeper.home(
            trust, address, {"House": "TN-C-S"}, built_year=1880, rewired_year=1998, occupier_name=occupier,
            occupier_email=f"{occupier.split()[0].lower()}@kelder.example", latitude=latitude, longitude=longitude,
            due_on=deadline, inspected_on=_years_ago(deadline), tenure="let dwelling", **more,
        )  # fmt: skip
        for window in access:
            keeper.add("access_window", home, access="possible", **window)
        # Five minutes longer than its tenant has, with the way there.
        number = _job(keeper, home, number, rings, radials, **({"visit_min": 180} if "Ropery" in address else {}))
    keeper.change("job", keeper.pilots_job, booked_with=ruth)
    _earlier(keeper, (ruth, idris))


def _years_ago(deadline: str) -> str:
    return (
        f"{int(deadline[:4]) - 5}{deadline[4:]}" if not deadline.endswith("02-29") else f"{int(deadline[:4]) - 5}-02-28"
    )


def _job(keeper: Registrar, home: str, number: int, rings: int, radials: int, **more: Any) -> int:
    keeper.add(
        "job", home, number=f"J-0{number}", state="confirmed", purpose="periodic", boards=1, rings=rings,
        radials=radials, points_opened=6, points_tested=24 + 2 * radials, agreed_with="Wilf Sorrel",
        agreed_on=day_ahead(-4), extent="Every board; a fifth of the points opened.", **more,
    )  # fmt: skip
    return number + 1


def _earlier(keeper: Registrar, inspectors: tuple[str, str]) -> None:
    """Homes that were inspected in the years before, on paper: how long each took."""
    random = Random(1878)
    agent = keeper.add(
        "client", name="Low Ferry Lettings", address="2 Ferry Lane, Low Ferry", contact="Hob Tresize",
        phone="01632 960 171", email="homes@lowferry.example",
    )  # fmt: skip
    for at in range(16):
        ago = 90 + 31 * at
        inspected = (now().date() - timedelta(days=ago)).isoformat()
        home = keeper.home(
            agent, f"{at // 4 * 2 + at % 2 + 3} {_EARLIER_STREETS[at % 4]}, Low Ferry", {"House": "TN-S"},
            latitude=50.385 + random.random() / 50, longitude=-4.72 + random.random() / 40, tenure="let dwelling",
            inspected_on=inspected, due_on=(now().date() + timedelta(days=1826 - ago)).isoformat(),
        )  # fmt: skip
        rings, radials = random.choice(((1, 4), (2, 5), (2, 6), (2, 9), (3, 11)))
        estimated = 65 + 14 * rings + 7 * radials + 24 + 1.5 * (24 + 2 * radials)
        took = estimated * random.uniform(0.86, 1.3) * (1.0 if at % 2 else 1.08)
        keeper.add(
            "job", home, number=f"J-0{150 + at}", state="done", purpose="periodic", boards=1, rings=rings,
            radials=radials, points_opened=6, points_tested=24 + 2 * radials, booked_with=inspectors[at % 2],
            booked_on=inspected, spent_min=round(took),
        )  # fmt: skip
