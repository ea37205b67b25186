"""From the command line: `firm add`, `person add | reset | list`, `export`, `import`, `backup`, `restore`, `verify`."""

import argparse
import sys
from pathlib import Path
from typing import Any

from sqlalchemy import Connection, Engine

from dorrik import serving
from dorrik.core.book.rule_book import of_nation
from dorrik.core.work.workflow import ROLES
from dorrik.settings import settings
from dorrik.store.database.engine import make_engine
from dorrik.store.firm import firm_rules
from dorrik.store.people import audit, links, people
from dorrik.store.people.people import Unfit


def add_commands(commands: Any) -> None:
    """The commands and their arguments."""
    firms = commands.add_parser("firm", help="add a firm").add_subparsers(dest="what", required=True)
    adding = firms.add_parser("add", help="add a firm with its first supervisor, whose link is printed")
    adding.add_argument("name")
    for option, help_text in (("address", ""), ("phone", ""), ("email", ""), ("nation", "England, Ireland …")):
        adding.add_argument(f"--{option}", default="", help=help_text)
    adding.add_argument("--supervisor", required=True, metavar="NAME")
    adding.add_argument("--supervisor-email", required=True, metavar="ADDRESS")
    persons = commands.add_parser("person", help="people of a firm").add_subparsers(dest="what", required=True)
    one = persons.add_parser("add", help="invite somebody; their link is printed")
    one.add_argument("email")
    one.add_argument("--name", required=True)
    one.add_argument("--role", choices=ROLES, default="inspector")
    one.add_argument("--firm", help="part of the firm's name, where there are several")
    again = persons.add_parser("reset", help="print a link with which somebody chooses a new password")
    again.add_argument("email")
    again.add_argument("--second-factor-off", action="store_true", help="device and recovery codes are lost")
    persons.add_parser("list", help="everybody, firm by firm")

    for name, help_text in (
        ("export", "everything of a firm into FILE (ZIP of open formats), as one of its supervisors sees it"),
        ("import", "inspections and register from FILE (ZIP or JSON) into a firm, as one of its supervisors"),
    ):
        command = commands.add_parser(name, help=help_text)
        command.add_argument("file", metavar="FILE")
        command.add_argument("--as", dest="who", required=True, metavar="ADDRESS", help="of the supervisor")

    for name, help_text in (
        ("backup", "everything into FILE (a path or an address such as s3://…), while the server runs"),
        ("restore", "everything from FILE into an empty database"),
        ("verify", "restore FILE into a database of its own and check every digest"),
    ):
        command = commands.add_parser(name, help=help_text)
        command.add_argument("file", metavar="FILE")
        if name == "restore":
            command.add_argument("--replace", action="store_true", help="let go of what is in the database now")


def _backup(given: argparse.Namespace) -> int:
    from dorrik.store.files import backup

    photos = settings().photo_place
    try:
        if given.command == "verify":
            contents = backup.verify(given.file)
        else:
            with serving.database() as url:
                if given.command == "backup":
                    contents = backup.make(url, photos, given.file)
                else:
                    contents = backup.restore(url, photos, given.file, replace=given.replace)
    except backup.BackupError as error:
        print(error, file=sys.stderr)
        return 1
    contents_text = f"{sum(contents.tables.values())} lines in {len(contents.tables)} tables, {contents.photos} photos"
    if given.command != "backup":
        contents_text += f", {contents.reports} reports, each as it was issued"
    print(f"{given.file}, made {contents.made_at}: {contents_text}.")
    return 0


def _transfer(given: argparse.Namespace) -> int:
    """Take a firm's work along, or in."""
    from dorrik.api.archive import Archive
    from dorrik.office import transfer
    from dorrik.pictures import subprocess_reader
    from dorrik.store.files.photos import PhotoStore

    with serving.prepared() as url:
        engine, store = make_engine(url), PhotoStore(settings().photo_place)
        try:
            with engine.begin() as connection:
                who = people.acting(connection, given.who)
            if who is None or who.role != "supervisor":
                print(f"{given.who} is no supervisor of any firm here.", file=sys.stderr)
                return 2
            if given.command == "export":
                archive = Archive()
                with Path(given.file).open("xb") as out, engine.begin() as connection:
                    for part in transfer.of_firm(connection, store, who, archive.put):
                        out.write(part)
                    out.write(archive.end())
                print(f"Everything of {who.firm_name} stands in {given.file}.")
                return 0
            with Path(given.file).open("rb") as file:
                taken_in = transfer.take_in(engine, store, who, file, subprocess_reader.make)
        except (OSError, transfer.UnreadableArchive) as error:
            print(f"{given.file}: {error}", file=sys.stderr)
            return 1
        finally:
            engine.dispose()
    print(
        f"{len(taken_in.inspections)} inspections, {taken_in.entries} entries of the register, "
        f"{taken_in.photos} photos."
    )
    for line in taken_in.told:
        print(f"  {line}")
    return 0


def run(given: argparse.Namespace) -> int:
    """Do what was asked; returns the exit code."""
    if given.command in ("backup", "restore", "verify"):
        return _backup(given)
    if given.command in ("export", "import"):
        return _transfer(given)
    do = {("firm", "add"): _add_firm, ("person", "add"): _add, ("person", "reset"): _reset, ("person", "list"): _list}
    with serving.prepared() as url:
        engine = make_engine(url)
        try:
            do[given.command, given.what](engine, given)
        except Unfit as error:
            print(f"{error.field}: {error}", file=sys.stderr)
            return 2
        finally:
            engine.dispose()
    return 0


def _print_link(token: str, purpose: links.Purpose) -> None:
    hours = links.LASTS[purpose].total_seconds() / 3600
    where = settings().address
    print(f"This link is good once, for {hours:.0f} hours:\n\n  {where}{links.path(token)}")


def _add_firm(engine: Engine, given: argparse.Namespace) -> None:
    with engine.begin() as connection:
        firm_id = people.add_firm(
            connection, given.name, given.address, given.phone, email=given.email, nation=given.nation
        )
        firm_rules.settle(connection, firm_id, of_nation(given.nation or None), {})
        person_id = people.add_person(connection, firm_id, given.supervisor, given.supervisor_email, "supervisor")
        token = links.make(connection, "invite", person_id)
        audit.note(connection, "firm set up", firm_id=firm_id, subject=given.name, source="command line")
    _print_link(token, "invite")


def _firm_of(connection: Connection, part: str | None) -> str:
    """The firm that is meant: the only one, or the only one whose name holds that part."""
    firms = people.firms(connection, demo=None)
    meant = [firm for firm in firms if part is None or part.casefold() in firm.name.casefold()]
    if len(meant) != 1:
        names = ", ".join(firm.name for firm in firms) or "none yet: `dorrik firm add`"
        raise Unfit("firm", f"Say which firm with --firm. There are: {names}.")
    return str(meant[0].id)


def _add(engine: Engine, given: argparse.Namespace) -> None:
    with engine.begin() as connection:
        firm_id = _firm_of(connection, given.firm)
        person_id = people.add_person(connection, firm_id, given.name, given.email, given.role)
        token = links.make(connection, "invite", person_id)
        detail = {"subject": given.email, "source": "command line", "role": given.role}
        audit.note(connection, "person invited", firm_id=firm_id, **detail)
    _print_link(token, "invite")


def _reset(engine: Engine, given: argparse.Namespace) -> None:
    from dorrik.store.people import second_factor

    with engine.begin() as connection:
        person = people.by_address(connection, given.email)
        if person is None or person.ended_at is not None:
            raise Unfit("email", "Nobody signs in with that address.")
        who = {"firm_id": person.firm_id, "subject": person.email, "source": "command line"}
        if given.second_factor_off:
            second_factor.stop(connection, person.id)
            audit.note(connection, "second factor off", **who)
        purpose: links.Purpose = "reset" if person.password_hash else "invite"
        token = links.make(connection, purpose, person.id)
        audit.note(connection, "reset asked", **who)
    _print_link(token, purpose)


def _list(engine: Engine, given: argparse.Namespace) -> None:
    with engine.connect() as connection:
        somebody = False
        for firm in people.firms(connection, demo=None):
            print(f"{firm.name}{' (demo)' if firm.demo else ''}")
            for who in people.everybody(connection, firm.id):
                somebody = True
                factor = ", second factor" if who.second_factor else ""
                print(f"  {who.email:40} {who.name}, {who.role}, {who.state}{factor}")
        if not somebody:
            print("There is nobody yet. `dorrik serve` prints a link to set a firm up; `dorrik firm add` adds one.")
