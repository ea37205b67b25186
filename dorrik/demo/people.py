"""The people of the demo. Every name, firm and address is made up."""

from dataclasses import dataclass

from dorrik.core.work.workflow import Role

PASSWORD = "harbour-light-7"


@dataclass(frozen=True, slots=True)
class DemoFirm:
    """A firm of the demo."""

    name: str
    address: str
    phone: str


@dataclass(frozen=True, slots=True)
class DemoPerson:
    """Somebody who can sign in."""

    name: str
    email: str
    role: Role
    firm: str


FIRMS = (
    DemoFirm("Breakwater Inspections", "4 Rope Walk, Kelder Haven", "01632 960 147"),
    DemoFirm("Saltmarsh Testing", "The Sluice House, Low Ferry", "01632 960 188"),
)

PEOPLE = (
    DemoPerson("Ruth Pellow", "ruth@breakwater.example", "inspector", "Breakwater Inspections"),
    DemoPerson("Idris Quill", "idris@breakwater.example", "supervisor", "Breakwater Inspections"),
    DemoPerson("Bet Tresco", "bet@breakwater.example", "office", "Breakwater Inspections"),
    DemoPerson("Maren Oake", "maren@saltmarsh.example", "inspector", "Saltmarsh Testing"),
)
