"""What the findings at 3 Lookout Row lead to: things to come back to, questions, a call, years, labels and a price."""

from collections.abc import Mapping
from datetime import timedelta

from dorrik.demo.scribe import Scribe
from dorrik.store.database.engine import now


def left_open(scribe: Scribe, ids: list[str], walked: Mapping[str, str]) -> None:
    """What is to come back to at half past ten, and what people asked about."""
    for about, about_id, place, what in (
        ("point", walked["Bathroom/fan"], "Bathroom, fan", "Runs on with its isolator off: fed from where?"),
        ("circuit", ids[10], "11 spare", "A cable lies in the way: not traced"),
        ("point", walked["Bathroom/light over the bath"], "Bathroom, light over the bath", "Photo is blurred"),
    ):
        fields = {"about_entity": about, "about_id": about_id, "place": place, "what": what}
        scribe.add("come_back", "inspection", scribe.inspection, **fields)
    for asked_by, what, answer in (
        ("occupier", "The lights dim when the kettle is on", None),
        ("client", "Is there room for a charge point in the yard?", None),
        ("occupier", "The shed pump trips in heavy rain", "The gland at the pump is open to the rain."),
    ):
        scribe.add("concern", "inspection", scribe.inspection, asked_by=asked_by, what=what, answer=answer)


def follows(scribe: Scribe, board: str, cracked: str) -> None:
    """What the findings led to so far: a call to the network operator, the years of its parts, labels, a price."""
    here = scribe.inspection
    promised = (now() + timedelta(hours=20)).isoformat(timespec="seconds") + "Z"
    scribe.add(
        "operator_call", "inspection", here, fault="looped", reference="48-221", spoke_with="Fault desk",
        what="A second cable leaves the head towards No. 5.", promised_by=promised,
        called_at=(now() - timedelta(hours=1)).isoformat(timespec="seconds") + "Z",
    )  # fmt: skip
    of_home = {"about_entity": "inspection", "about_id": here}
    for part, first, last, says in (
        (None, 2017, 2018, "Certificate of the rewire, March 2018"),
        ("Pump shed", 2020, 2020, "Certificate of 14 May 2020"),
    ):
        more = {} if part is None else {"part": part}
        years = {"from_year": first, "to_year": last, "known_by": "papers", "says": says}
        scribe.add("dating", "inspection", here, **of_home, **more, **years)
    for kind, state, interval in (
        ("main-switch", "found", None), ("circuits", "found", None), ("rcd-test", "found", "quarterly"),
    ):  # fmt: skip
        label = {"about_entity": "board", "about_id": board, "kind": kind, "state": state}
        scribe.add("label", "inspection", here, **label, **({"interval": interval} if interval else {}))
    for remedy, entity, about in (("accessory", "point", cracked), ("earth-label", "inspection", here)):
        line = {"remedy": remedy, "about_entity": entity, "about_id": about}
        scribe.add("offer_line", "inspection", here, alternative=1, **line)
