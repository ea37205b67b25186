"""Searching 20,000 properties by parts of address, client and job number, beside a read by primary key in the same run.

Aim: the median search within 5 × the median primary-key read.
"""

import random
import statistics
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from sqlalchemy import Connection, insert

from dorrik.store.database import migrate
from dorrik.store.database.engine import make_engine, new_id
from dorrik.store.database.mariadb import PrivateMariaDB
from dorrik.store.database.tables import ENTRIES
from dorrik.store.people import people
from dorrik.store.register import register, search

PROPERTIES = 20_000
ROUNDS = 400
_FIRST = ("Lookout", "Capstan", "Anchor", "Mole", "Tide", "Harbour", "Beacon", "Keel", "Gannet", "Rope", "Sluice")
_SECOND = ("Row", "Lane", "Street", "Steps", "Quay", "Terrace", "Walk", "Court", "Hill", "Gardens", "Close", "Rise")
_TOWN = ("Kelder Haven", "Low Ferry", "Saltmarsh", "Gullstone", "Norrick", "Eastmole", "Brackwater", "Cray Point")


def _fill(connection: Connection, firm: str, draw: random.Random) -> list[tuple[str, str]]:
    """Properties of 800 clients; returns id and address of each."""
    clients = [(new_id(), f"{draw.choice(_FIRST)} {draw.choice(_SECOND)} Homes {n}") for n in range(800)]
    connection.execute(insert(ENTRIES["client"]), [{"id": one, "firm_id": firm, "name": name} for one, name in clients])
    made: list[tuple[str, str]] = []
    rows, subjects = [], []
    for n in range(PROPERTIES):
        client, name = draw.choice(clients)
        address = f"{draw.randint(1, 240)} {draw.choice(_FIRST)} {draw.choice(_SECOND)}, {draw.choice(_TOWN)}"
        one = new_id()
        made.append((one, address))
        rows.append({"id": one, "firm_id": firm, "parent_id": client, "address": address})
        subjects.append(search.Subject("property", one, address, name, (address, f"Occupier {n}", name)))
    for at in range(0, PROPERTIES, 1000):
        connection.execute(insert(ENTRIES["property"]), rows[at : at + 1000])
        search.keep(connection, firm, subjects[at : at + 1000])
    return made


def _median_ms(ask: Callable[[], Any], rounds: int = ROUNDS) -> float:
    taken = []
    for _ in range(rounds):
        start = time.perf_counter()
        ask()
        taken.append(time.perf_counter() - start)
    return statistics.median(taken) * 1000


def run() -> None:
    """Print the medians."""
    draw = random.Random(4)
    with tempfile.TemporaryDirectory() as folder, PrivateMariaDB(Path(folder)) as server:
        migrate.upgrade(server.url)
        engine = make_engine(server.url)
        with engine.begin() as connection:
            firm = people.add_firm(connection, "Breakwater Inspections", "4 Rope Walk", "0")
            homes = _fill(connection, firm, draw)
        with engine.connect() as connection:
            read = _median_ms(lambda: register.get(connection, firm, "property", draw.choice(homes)[0]))
            print(f"search, {PROPERTIES} properties: primary-key read {read:.2f} ms")

            def asked(make: Callable[[str], str]) -> Callable[[], Any]:
                return lambda: search.find(connection, firm, make(draw.choice(homes)[1]))

            kinds: dict[str, Callable[[str], str]] = {
                "number and street": lambda a: a.split(",")[0],
                "part of a street": lambda a: a.split()[1][1:5],
                "street and town": lambda a: " ".join(a.replace(",", "").split()[1:4]),
                "words apart": lambda a: f"{a.split()[1]} {a.split(',')[1].split()[0]}",
                "number alone": lambda a: a.split()[0],
                "an occupier's number": lambda a: f"occupier {draw.randrange(PROPERTIES)}",
                "nothing there": lambda a: "zebra crossing",
                "one letter": lambda a: a.split()[1][0],
            }
            for name, make in kinds.items():
                took = _median_ms(asked(make))
                print(f"  {name:22} {took:6.2f} ms, {took / read:4.1f} x")
