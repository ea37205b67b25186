"""Loading the demo into an empty database; a database that has a firm already is left as it is."""

import tempfile
from datetime import timedelta
from pathlib import Path

from sqlalchemy import Engine

from dorrik.core.inspection.field_spec import DEAD
from dorrik.core.inspection.kept_inspection import KeptInspection, assemble
from dorrik.core.judging.judgement import Judgement, judge
from dorrik.demo import cleared, drawn_photos, drawn_signatures, homes, portfolio, register, tables
from dorrik.demo.people import FIRMS, PASSWORD, PEOPLE
from dorrik.demo.scribe import Scribe
from dorrik.journal.change import Author
from dorrik.office import after_report, review
from dorrik.report import issue as issuing
from dorrik.report.content.photos import Fetch, none_kept, put_into
from dorrik.store.database.engine import now
from dorrik.store.files.photos import PhotoStore
from dorrik.store.firm import repair_rates
from dorrik.store.inspections import inspections
from dorrik.store.people import passwords, people
from dorrik.store.people.people import Person

#: What the firm takes for repairs where that is not the usual, and how it means its prices.
_RATES = {"rcd": {"price": 118.0}, "accessory": {"price": 46.0}, "board": {"price": 290.0, "each": 35.0}}
_TERMS = "Value added tax is added to these prices."


def load(engine: Engine, photos: PhotoStore | None = None) -> bool:
    """Enter firms, people and homes; returns False where there was something already. photos: where their photos go;
    without it they have none."""
    with engine.begin() as connection:
        if people.firms(connection, demo=None):
            return False
        firms = {
            demo_firm.name: people.add_firm(connection, demo_firm.name, demo_firm.address, demo_firm.phone, demo=True)
            for demo_firm in FIRMS
        }
        password_hash = passwords.hash_password(PASSWORD)
        who = {
            person.email: Person(
                people.add_person(
                    connection, firms[person.firm], person.name, person.email, person.role, password_hash
                ),
                firms[person.firm],
                person.firm,
                person.name,
                person.email,
                person.role,
            )
            for person in PEOPLE
        }
        ruth = who[PEOPLE[0].email]
        keeper = register.Registrar(connection, ruth.firm_id, ruth.id)
        register.load(keeper)
        portfolio.load(keeper, {person.name: person.id for person in who.values()})
        repair_rates.settle(connection, ruth.firm_id, _RATES, _TERMS, now().date() - timedelta(days=29))
    for home in homes.ISSUED:
        scribe = Scribe(engine, ruth.firm_id, Author(ruth.id, ruth.role))
        home(scribe)
        _of_the_register(scribe, keeper)
        _nulled(scribe, keeper)
        _photographed(scribe, photos, ruth)
        scribe.send()
        _opened(engine, scribe, ruth, keeper)
        _second_opinions(scribe, ruth, who[PEOPLE[1].email])
        idris = who[PEOPLE[1].email]
        _issue(engine, scribe, (ruth, idris), None, photos)
        if home is homes.net_loft_flat_2:
            scribe.origin(occupier_name="Davy Marlow")
            scribe.send()
            _issue(engine, scribe, (ruth, idris), "The occupier's name was misspelt.", photos)
            cleared.some_of_it(engine, scribe.inspection, ruth)
    for home in homes.IN_HAND:
        scribe = Scribe(engine, ruth.firm_id, Author(ruth.id, ruth.role))
        home(scribe)
        _of_the_register(scribe, keeper)
        _photographed(scribe, photos, ruth)
        scribe.send()
    return True


def open_doors(engine: Engine) -> bool:
    """The demo's people sign in with the published password again, after `serve` has shut it out.

    False where the database has no demo.
    """
    password_hash = passwords.hash_password(PASSWORD)
    with engine.begin() as connection:
        firms = {firm.name: firm.id for firm in people.firms(connection, demo=True)}
        for person in PEOPLE:
            row = people.by_address(connection, person.email)
            if row is None and person.firm in firms:
                # An earlier demo had fewer people.
                people.add_person(connection, firms[person.firm], person.name, person.email, person.role, password_hash)
            elif row is not None and row.password_hash is None:
                people.set_password(connection, row.id, password_hash)
        return bool(firms)


def _of_the_register(scribe: Scribe, keeper: register.Registrar) -> None:
    """Say which property of the register the inspection is of."""
    property_id, installation_id = keeper.properties[scribe.address]
    scribe.origin(property_id=property_id, installation_id=installation_id, nation="England")


def _nulled(scribe: Scribe, keeper: register.Registrar) -> None:
    """The leads were nulled on the day of the visit, morning and afternoon."""
    for name, ago, time, reading in homes.NULLS.get(scribe.address, ()):
        scribe.add(
            "lead_null", "inspection", scribe.inspection,
            name=name, leads_id=keeper.leads[name], known_ohm=0.06, reading_ohm=reading,
            nulled_at=f"{tables.day(ago)}T{time}Z",
        )  # fmt: skip


def _tested(scribe: Scribe, kept: KeptInspection, judgement: Judgement, keeper: register.Registrar) -> None:
    """Who was there when, with which instrument, and how each board was isolated for the dead tests."""
    day = kept.entities[scribe.inspection].values["inspected_on"]
    scribe.add(
        "attendance", "inspection", scribe.inspection, who="Ruth Pellow", purpose="inspection",
        arrived_at=f"{day}T08:52:00Z", left_at=f"{day}T15:55:00Z",
    )  # fmt: skip
    scribe.add("instrument_used", "inspection", scribe.inspection, **keeper.tester)
    for board in judgement.boards:
        scribe.add(
            "isolation", "board", board.board_id, by="Ruth Pellow", source="proving unit", proved_at=f"{day}T09:36:00Z",
            isolated_at=f"{day}T09:40:00Z", isolated_where="main switch", lock="P-14", key_with="Ruth Pellow",
            pairings={pairing.name: DEAD for pairing in board.pairings}, proved_again_at=f"{day}T09:52:00Z",
            restored_at=f"{day}T13:20:00Z",
        )  # fmt: skip


def _opened(engine: Engine, scribe: Scribe, who: Person, keeper: register.Registrar) -> None:
    """What was drawn was opened, and what the schedule still asked for was answered."""
    with engine.begin() as connection:
        kept = inspections.load(connection, scribe.inspection, who.firm_id)
    if kept is None:
        raise RuntimeError("The demo's inspection is not there.")
    judgement = judge(assemble(kept))
    _tested(scribe, kept, judgement, keeper)
    for point in judgement.sampling.still if judgement.sampling else ():
        if not kept.entities[point].values["not_reached"]:
            scribe.set("point", point, opened=True)
    for thing in judgement.putting_back:
        if thing.open:
            scribe.add(
                "put_back", "inspection", scribe.inspection, item=thing.item, about_id=thing.about_id,
                back_at=f"{kept.entities[scribe.inspection].values['inspected_on']}T15:40:00Z",
            )  # fmt: skip
    for line in judgement.schedule:
        if line.state == "left" and line.asked:
            scribe.add("check", "inspection", scribe.inspection, item=line.key, state="good")
    scribe.send()


def _second_opinions(scribe: Scribe, first: Person, second: Person) -> None:
    """What the supervisor thought of some codes before seeing them."""
    for observation, code, reason in scribe.opinions:
        scribe.signed(Author(second.id, second.role))
        fields = {"code": code, "reason": reason, "by": second.name, "given_at": f"{now():%Y-%m-%dT%H:%M:%SZ}"}
        scribe.add("opinion", "observation", observation, **fields)
        scribe.send()
    scribe.signed(Author(first.id, first.role))


def _photographed(scribe: Scribe, photos: PhotoStore | None, who: Person) -> None:
    """The photos of a home, drawn and pinned."""
    if photos is None:
        return
    for draw, (entity, entity_id), more in scribe.photos:
        drawn_photos.pinned(scribe, photos, who.firm_id, draw, entity, entity_id, **more)


def _issue(
    engine: Engine, scribe: Scribe, who: tuple[Person, Person], reason: str | None, photos: PhotoStore | None
) -> None:
    """The first signs and submits, the second authorises."""
    inspector, supervisor = who
    with engine.begin() as connection, tempfile.TemporaryDirectory() as folder:
        kept = inspections.load(connection, scribe.inspection, inspector.firm_id, lock=True)
        if kept is None:
            raise RuntimeError("The demo's inspection is not there.")
        fetch: Fetch = none_kept
        if photos is not None:
            firm_id = inspector.firm_id
            fetch = put_into(Path(folder), lambda sha256, size: photos.get(firm_id, sha256, f"printed-{size}"))
        review.submit(connection, kept, inspector, kept.seq, {"strokes": drawn_signatures.RUTH})
        authorised = {"strokes": drawn_signatures.IDRIS}
        signed = review.signatures(connection, kept, supervisor, authorised)
        fair = issuing.fair_copy(connection, kept, supervisor, kept.seq, reason, signed)
        made = issuing.typeset(fair, supervisor, fetch)
        issuing.keep(connection, kept.id, kept.seq, supervisor, fair, made)
        review.authorised(connection, kept, supervisor, authorised)
        after_report.remember(connection, supervisor.firm_id, kept.id)
