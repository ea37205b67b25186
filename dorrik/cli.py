"""The command line: serve, demo, meter, judge, openapi, declared, firm, person."""

import argparse
import json
import os
import sys
from datetime import UTC, datetime
from pathlib import Path

from dorrik.core.inspection import document
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.judgement_text import as_text
from dorrik.core.judging.wire.judgement import as_json

#: Commands about what is kept rather than about an inspection.
HOUSEHOLD = ("firm", "person", "export", "import", "backup", "restore", "verify")


def main(arguments: list[str] | None = None) -> None:
    """Run one command; ends the program with its exit code."""
    parser = argparse.ArgumentParser(prog="dorrik", description="Periodic condition reports on homes")
    commands = parser.add_subparsers(dest="command", required=True)
    for name, help_text in (("serve", "serve the application"), ("demo", "the same, with the demo loaded")):
        command = commands.add_parser(name, help=help_text)
        command.add_argument("--host", default="127.0.0.1")
        command.add_argument("--port", type=int, default=8080)
        command.add_argument(
            "--workers", type=int, default=os.cpu_count() or 1, help="processes; one a core if not said"
        )
    judging = commands.add_parser("judge", help="judge an inspection document (FILE, or - for standard input)")
    judging.add_argument("file")
    judging.add_argument("--text", action="store_true", help="for a person rather than a program")
    bench = commands.add_parser("meter", help="a simulated instrument that can be linked, on a simulated home")
    bench.add_argument("home", nargs="?", default="ropewalk_4", help="one that comes with Dorrik, or a TOML file")
    bench.add_argument("--host", default="127.0.0.1")
    bench.add_argument("--port", type=int, default=8787)
    bench.add_argument("--seed", type=int, default=1, help="which instrument: the same seed errs the same way")
    commands.add_parser("openapi", help="print the API's contract")
    commands.add_parser("declared", help="print what the front end must know of the declarations, as TypeScript")
    if arguments is None:
        arguments = sys.argv[1:]
    if arguments[:1] and arguments[0] in (*HOUSEHOLD, "-h", "--help"):
        # Known only where they are asked for: judging a document needs no database.
        from dorrik import household

        household.add_commands(commands)
    given = parser.parse_args(arguments)
    if given.command == "judge":
        sys.exit(_judge(given.file, text=given.text))
    if given.command == "openapi":
        return _openapi()
    if given.command == "declared":
        from dorrik.api import declared

        return print(declared.typescript())
    if given.command in (*HOUSEHOLD, "serve", "demo"):
        from dorrik.settings import mistakes

        if wrong := mistakes():
            print("\n".join(wrong), file=sys.stderr)
            sys.exit(2)
    if given.command in HOUSEHOLD:
        from dorrik import household

        sys.exit(household.run(given))
    if given.command == "meter":
        from dorrik.meter import run

        sys.exit(run.run(given.home, given.host, given.port, given.seed))
    from dorrik import early_import

    with early_import.loading(given.workers):
        from dorrik import serving

        sys.exit(serving.serve(given.host, given.port, given.workers, demo=given.command == "demo"))


def _judge(file: str, *, text: bool) -> int:
    try:
        raw = sys.stdin.read() if file == "-" else Path(file).read_text(encoding="utf-8")
        judgement = judge(document.parse(json.loads(raw), datetime.now(UTC)))
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

    app = create_app(create_engine("mysql+pymysql://"))
    print(json.dumps(app.openapi(), indent=1, ensure_ascii=False))
