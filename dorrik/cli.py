"""The command line: serve, demo, judge, openapi."""

import argparse
import contextlib
import json
import os
import signal
import socket
import sys
from pathlib import Path

from dorrik.core import document
from dorrik.core.judgement import judge
from dorrik.core.judgement_json import as_json
from dorrik.core.judgement_text import as_text

HOME = Path(os.environ.get("DORRIK_HOME", Path(__file__).parents[1] / "var"))


def main(arguments: list[str] | None = None) -> None:
    """Run one command; ends the program with its exit code."""
    parser = argparse.ArgumentParser(prog="dorrik", description="Periodic condition reports on homes")
    commands = parser.add_subparsers(dest="command", required=True)
    for name, told in (("serve", "serve the application"), ("demo", "the same, with the demo loaded")):
        command = commands.add_parser(name, help=told)
        command.add_argument("--host", default="127.0.0.1")
        command.add_argument("--port", type=int, default=8080)
    judging = commands.add_parser("judge", help="judge an inspection document (FILE, or - for standard input)")
    judging.add_argument("file")
    judging.add_argument("--text", action="store_true", help="for a person rather than a program")
    commands.add_parser("openapi", help="print the API's contract")
    given = parser.parse_args(arguments)
    if given.command == "judge":
        sys.exit(_judge(given.file, text=given.text))
    if given.command == "openapi":
        _openapi()
    else:
        sys.exit(_serve(given.host, given.port, demo=given.command == "demo"))


def _judge(file: str, *, text: bool) -> int:
    try:
        raw = sys.stdin.read() if file == "-" else Path(file).read_text(encoding="utf-8")
        judgement = judge(document.parse(json.loads(raw)))
    except (OSError, UnicodeDecodeError) as error:
        print(f"{file}: cannot be read: {error}", file=sys.stderr)
    except json.JSONDecodeError as error:
        print(f"{file}:{error.lineno}:{error.colno}: not JSON: {error.msg}", file=sys.stderr)
    except document.DocumentError as error:
        print(f"{file}: {error.path}: {error.reason}", file=sys.stderr)
    else:
        print(as_text(judgement) if text else json.dumps(as_json(judgement), ensure_ascii=False, indent=1))
        return 0
    return 2


def _openapi() -> None:
    from sqlalchemy import create_engine

    from dorrik.api.app import create_app

    app = create_app(create_engine("mysql+mysqldb://"))
    print(json.dumps(app.openapi(), indent=1, ensure_ascii=False))


def _interrupt(*_: object) -> None:
    """A stop from outside is taken like Ctrl-C: the database is stopped in order either way."""
    raise KeyboardInterrupt


def _free(host: str, port: int) -> int:
    """The port asked for, or another one where something has it already."""
    for wanted in (port, 0):
        with socket.socket() as probe, contextlib.suppress(OSError):
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            probe.bind((host, wanted))
            if wanted != port:
                print(f"Port {port} is taken.", file=sys.stderr)
            return int(probe.getsockname()[1])
    return port


def _serve(host: str, port: int, *, demo: bool) -> int:
    import uvicorn

    from dorrik.api.app import WEB, create_app
    from dorrik.store import migrate, reindex
    from dorrik.store.engine import make_engine
    from dorrik.store.mariadb import MariaDBError, PrivateMariaDB

    signal.signal(signal.SIGTERM, _interrupt)
    given = os.environ.get("DORRIK_DATABASE_URL")
    database = None if given else PrivateMariaDB(HOME / "mariadb")
    catcher = None
    try:
        if database is not None:
            database.start()
        url = given or (database.url if database else "")
        migrate.upgrade(url)
        engine = make_engine(url)
        reindex.inspections(engine)
        if demo:
            from dorrik.demo import load, mail_catcher, people

            load.load(engine)
            if "DORRIK_SMTP" not in os.environ:
                catcher = mail_catcher.catch(HOME / "mail", mail_port := _free(host, 8025))
                os.environ["DORRIK_SMTP"] = f"127.0.0.1:{mail_port}"
                print(f"\nMail is caught in {HOME / 'mail'}; nothing leaves this machine.")
            print("\nDorrik demo. Sign in with one of these (password for all: " + people.PASSWORD + "):")
            for person in people.PEOPLE:
                print(f"  {person.email:32} {person.name}, {person.role}, {person.firm}")
        if not (WEB / "index.html").exists():
            print("The front end is not built; run `make setup`. Only the API answers.", file=sys.stderr)
        port = _free(host, port)
        print(f"\nOpen http://{host}:{port}   (Ctrl-C stops the server and its database)\n", flush=True)
        uvicorn.run(
            create_app(engine, photos=os.environ.get("DORRIK_PHOTOS") or str(HOME / "photos")),
            host=host,
            port=port,
            log_level="warning",
            timeout_graceful_shutdown=5,
        )
    except KeyboardInterrupt:
        pass
    except MariaDBError as error:
        print(error, file=sys.stderr)
        return 1
    finally:
        if catcher is not None:
            catcher.stop()
        if database is not None:
            database.stop()
    return 0
