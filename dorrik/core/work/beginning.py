"""What an inspection begins with: the words of its job, so that no report changes with the register; its rule book."""

from collections.abc import Mapping
from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.book import rule_book

Values = Mapping[str, Any]


@record
class JobBeginning:
    """Fields of a new inspection, and those of each limitation that was agreed beforehand."""

    fields: dict[str, Any]
    limitations: tuple[dict[str, Any], ...]


def from_job(
    job: Values, property: Values, client: Values, installation: Values | None, firm_rule_book: str | None
) -> JobBeginning:
    """What an inspection takes over from its job; each mapping has the fields of its entry, with its id.

    installation: the one of the property that is inspected, None for the whole of it; firm_rule_book: the firm's own
    choice, None for the one of the nation where the property stands.
    """
    keys = property.get("key_place")
    access = ". ".join(part for part in (property.get("access"), f"Keys: {keys}" if keys else None) if part)
    fields = {
        "client_name": client.get("name"),
        "client_address": client.get("address"),
        "property_address": property.get("address"),
        "installation_name": installation and installation.get("name"),
        "occupier_name": property.get("occupier_name"),
        "tenure": property.get("tenure"),
        "nation": property.get("nation"),
        "must_stay_on": property.get("must_stay_on"),
        "access": access or None,
        "purpose": job.get("purpose"),
        "extent": job.get("extent"),
        "power_off": job.get("power_off"),
        "earthing": installation and installation.get("earthing"),
        "property_id": property.get("id"),
        "installation_id": installation and installation.get("id"),
        "job_id": job.get("id"),
        "rule_book": firm_rule_book or rule_book.of_nation(property.get("nation")),
    }
    agreed = {"reason": "leave_out_reason", "agreed_with": "agreed_with", "agreed_on": "agreed_on"}
    more = {name: job[source] for name, source in agreed.items() if job.get(source)}
    left_out = (line.strip() for line in (job.get("leave_out") or "").splitlines())
    return JobBeginning(
        {name: value for name, value in fields.items() if value},
        tuple({"what": line[:1000], **more} for line in left_out if line),
    )
