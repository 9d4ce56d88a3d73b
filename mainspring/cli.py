"""The `mainspring` command: serve, demo, methods, calc, assess, export, import, families, migrate.

Errors go to standard error; bad input ends with exit code 2. What is heavy is imported by the command that uses it.
"""

from __future__ import annotations

import argparse
import contextlib
import dataclasses
import importlib
import json
import os
import signal
import sys
import uuid
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import TYPE_CHECKING, Any

from mainspring.api.settings import AppSettings, from_environment
from mainspring.core.errors import BadEntry, MainspringError
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.systems import SYSTEMS, USUAL
from mainspring.core.told import told
from mainspring.service.errors import BadRecord
from mainspring.store.errors import NotFound, StoreUnavailable
from mainspring.store.server import PrivateServer, ServerProblem, attach, private_server

if TYPE_CHECKING:
    from peewee import MySQLDatabase

    from mainspring.service.working import PutInView, WorkingView

LOOPBACK = ("127.0.0.1", "localhost", "::1")


class Usage(ValueError):
    """Something on the command line cannot be taken."""


def main(argv: list[str] | None = None) -> int:
    """Run the command; returns the exit code."""
    arguments = _parser().parse_args(argv)
    try:
        result: int = arguments.run(arguments) or 0
    except (Usage, MainspringError, BadRecord, NotFound) as error:
        said = str(getattr(error, "tellings", error))
        print(f"mainspring: {told(said, getattr(arguments, 'units', USUAL))}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        return 0
    except (ServerProblem, StoreUnavailable, OSError) as error:
        print(f"mainspring: {error}", file=sys.stderr)
        return 1
    return result


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="mainspring", description=__doc__.splitlines()[0] if __doc__ else None)
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    def command(name: str, run: Any, text: str) -> argparse.ArgumentParser:
        made = commands.add_parser(name, help=text, description=text)
        made.set_defaults(run=run)
        return made

    serve = command("serve", _serve, "serve the application on loopback")
    serve.add_argument("--host", help="address to listen on; loopback only, since there are no accounts yet")
    serve.add_argument("--port", type=int, help="port; the next free one when it is taken")
    serve.add_argument("--data", type=Path, help="data folder")
    serve.add_argument(
        "--workers", type=int, default=1, choices=range(1, 17), metavar="N", help="processes that answer"
    )
    serve.add_argument("--empty", action="store_true", help="do not load the demo into an empty store")
    serve.add_argument("--reset-demo", action="store_true", help="empty the store and load the demo, after asking")
    serve.add_argument("--yes", action="store_true", help="do not ask")

    demo = command("demo", _demo, "load the demo")
    demo.add_argument("--reset", action="store_true", help="empty the store first")
    demo.add_argument("--yes", action="store_true", help="do not ask")
    demo.add_argument("--data", type=Path)

    command("methods", _methods, "list every method with its formula and source")

    calc = command("calc", _calc, 'run a method: mainspring calc pump_shaft_power flow="50 L/s" head="20 m" …')
    calc.add_argument("method")
    calc.add_argument("inputs", nargs="*", metavar='NAME="VALUE UNIT"')
    calc.add_argument("--json", action="store_true")
    calc.add_argument("--working", action="store_true", help="show the calculation sheet")
    _choose_units(calc)

    judge = command("assess", _assess, "judge a record or an exported line")
    judge.add_argument("file", type=Path)
    judge.add_argument("--json", action="store_true")
    _choose_units(judge)

    export = command("export", _export, "write a whole line as open JSON")
    export.add_argument("line", help="id or tag")
    export.add_argument("file", type=Path, nargs="?", help="default: standard output")
    export.add_argument("--data", type=Path)

    take = command("import", _import, "take in an exported line")
    take.add_argument("file", type=Path)
    take.add_argument("--by", default=os.environ.get("USER", "command line"))
    take.add_argument("--data", type=Path)

    maps = command("families", _families, "take families of drives in from a folder, or write them out to it")
    maps.add_argument("way", choices=("in", "out"))
    maps.add_argument("folder", type=Path)
    maps.add_argument("--by", default=os.environ.get("USER", "command line"))
    maps.add_argument("--data", type=Path)

    bring = command("migrate", _migrate, "bring the database forward")
    bring.add_argument("--data", type=Path)
    return parser


def _settings(arguments: argparse.Namespace) -> AppSettings:
    settings = from_environment()
    given = {n: getattr(arguments, n, None) for n in ("host", "port", "data")}
    return dataclasses.replace(settings, **{n: v for n, v in given.items() if v is not None})


@contextlib.contextmanager
def _database(settings: AppSettings) -> Iterator[MySQLDatabase]:
    """The database for a command: the one named, the running application's, or our own for as long as it takes."""
    from mainspring.store.database import migrate, open_database

    if settings.database_url:
        yield open_database(settings.database_url)
        return
    running = attach(settings.data)
    if running is not None:
        yield open_database(running)
        return
    with private_server(settings.data) as server:
        database = open_database(server.url)
        migrate(database)
        yield database


def _serve(arguments: argparse.Namespace) -> int:
    settings = _settings(arguments)
    if settings.host not in LOOPBACK:
        raise Usage(f"--host {settings.host}: Mainspring has no accounts yet and listens on loopback only (127.0.0.1)")
    for ended_by in (signal.SIGTERM, signal.SIGINT):  # by its parent, or by Ctrl-C even where a shell had it ignored
        signal.signal(ended_by, signal.default_int_handler)
    server = None if settings.database_url else PrivateServer(settings.data)
    try:
        with ThreadPoolExecutor(1) as beside:  # what serves is loaded while the database starts
            loaded = beside.submit(importlib.import_module, "mainspring.api.serve")
            # by this thread, which stays: the server ends with the thread that started it
            database = _opened(settings.database_url, server)
            loaded.result()
        from mainspring.api.serve import serve, serve_with_workers

        _demo_into(database, reset=arguments.reset_demo and _confirmed(arguments.yes), empty=arguments.empty)
        if arguments.workers > 1:
            serve_with_workers(settings, settings.database_url or _url(server), arguments.workers)
        else:
            serve(settings, database)
    except KeyboardInterrupt:
        pass
    finally:
        if server is not None:
            server.stop()
    return 0


def _demo_into(database: MySQLDatabase, *, reset: bool, empty: bool) -> None:
    """The demo put back where that is asked, and into a store that holds nothing unless it is to stay so."""
    from mainspring.store import repository
    from mainspring.store.database import transact

    if not reset and (empty or transact(database, repository.sites)):
        return
    from mainspring.demo.load import load_demo, reset_demo  # half a second to load

    (reset_demo if reset else load_demo)(database)


def _opened(url: str | None, server: PrivateServer | None) -> MySQLDatabase:
    """The database, its server started where it is our own, and its tables brought up to date."""
    from mainspring.store.database import migrate, open_database

    if server is not None:
        server.start()
        server.watch()
    database = open_database(url or _url(server))
    migrate(database)
    return database


def _url(server: PrivateServer | None) -> str:
    assert server is not None
    return server.url


def _confirmed(yes: bool) -> bool:
    if yes:
        return True
    try:
        answer = input("This deletes every line in the store and puts the demo back. Type yes to go on: ")
    except EOFError:
        answer = ""
    if answer.strip().lower() != "yes":
        print("Nothing changed.")
        return False
    return True


def _demo(arguments: argparse.Namespace) -> int:
    from mainspring.demo.load import load_demo, reset_demo

    with _database(_settings(arguments)) as database:
        if arguments.reset:
            if _confirmed(arguments.yes):
                reset_demo(database)
        else:
            load_demo(database)
    return 0


def _methods(_: argparse.Namespace) -> int:
    from mainspring.service import catalogue

    for method in catalogue.methods():
        inputs = ", ".join(f"{p.name}{'' if p.required else '?'} [{p.unit or '-'}]" for p in method.parameters)
        print(f"{method.id}\n    {method.title}\n    {method.formula}\n    {inputs}\n    {method.source}")
    return 0


def _calc(arguments: argparse.Namespace) -> int:
    from mainspring.service import catalogue

    inputs = {}
    for pair in arguments.inputs:
        name, equals, value = pair.partition("=")
        if not equals:
            raise Usage(f'{pair!r} is not NAME="VALUE UNIT"')
        if name.strip() in inputs:
            raise Usage(f"{name.strip()} is given twice")
        inputs[name.strip()] = value
    found = catalogue.calculate(arguments.method, inputs)
    if arguments.json:
        data = found.model_dump() if arguments.working else {"values": found.values}
        print(json.dumps(data, ensure_ascii=False, indent=1))
        return 0
    method = next(m for m in catalogue.methods() if m.id == arguments.method)
    for name, value in found.values.items():
        dimension = method.dimension if name == method.id else None
        if found.working is not None and dimension is None and name == next(iter(found.values)):
            dimension = found.working.dimension
        print(f"{name} = {_said(value, dimension, arguments.units)}")
    if arguments.working and found.working is not None:
        _print_working(found.working, arguments.units)
    return 0


def _choose_units(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--units", choices=list(SYSTEMS), default=USUAL, help="the unit system of what is shown")
    parser.add_argument("--us", dest="units", action="store_const", const="us", help="the same as --units us")


def _said(value: float, dimension: str | None, system: str, unit: str = "") -> str:
    if dimension is None:
        return f"{value:.6g}"
    return DIMENSIONS[dimension].show(value, system, digits=6, unit=unit)


def _put_in(pieces: list[PutInView], system: str) -> str:
    return "".join(p.text if p.text is not None else _said(p.value, p.dimension, system, p.unit) for p in pieces)


def _print_working(working: WorkingView, system: str, indent: str = "  ") -> None:
    if working.again:
        print(f"{indent}{working.symbol} = {_said(working.value, working.dimension, system)}: as step {working.number}")
        return
    print(f"{indent}{working.number}. {working.title}")
    print(f"{indent}{working.symbol} = {working.formula}")
    if working.substituted:
        print(f"{indent}{' ' * len(working.symbol)} = {_put_in(working.substituted, system)}")
    print(f"{indent}{' ' * len(working.symbol)} = {_said(working.value, working.dimension, system)}")
    print(f"{indent}source: {working.source}")
    for step in working.inputs:
        if step.step is not None and step.step.method_id:
            _print_working(step.step, system, indent + "    ")


def _read(path: Path) -> bytes:
    try:
        return path.read_bytes()
    except OSError as error:
        raise Usage(f"{path}: {error.strerror}") from None


def _assess(arguments: argparse.Namespace) -> int:
    from mainspring.core.assess import assess
    from mainspring.core.line import parse_line
    from mainspring.exchange import line_file
    from mainspring.service import lines

    text = _read(arguments.file)
    try:
        file = line_file.load(text)
        record = {**file.line.record, "site": file.site.entries}
    except BadEntry as foreign:
        if foreign.field != "format":
            raise
        record = json.loads(text)  # a bare record
    line, problems = parse_line(record)
    assessment = assess(line)
    view, _ = lines.assessment_view(assessment, problems)
    if arguments.json:
        print(view.model_dump_json(indent=1))
    else:
        system = arguments.units
        for problem in problems.values():
            print(f"not taken: {problem}")
        for finding in assessment.findings:
            print(f"{finding.severity.word:8} {finding.place:15} {finding.title}. {finding.because.text(system)}")
    return 2 if problems else 0


def _export(arguments: argparse.Namespace) -> int:
    from mainspring.service.service import Service
    from mainspring.service.transfer import export_line

    with _database(_settings(arguments)) as database:
        text = export_line(Service(database).lines.find(arguments.line))
    if arguments.file is None:
        print(text)
    else:
        arguments.file.write_text(text, encoding="utf-8")
    return 0


def _import(arguments: argparse.Namespace) -> int:
    from mainspring.service.service import Service

    text = _read(arguments.file)
    with _database(_settings(arguments)) as database:
        opened = Service(database).transfers.take_in(text, str(uuid.uuid4()), None, arguments.by)
    print(f"{opened.kept.tag} imported as {opened.kept.id}")
    return 0


def _families(arguments: argparse.Namespace) -> int:
    """Families between the store and a folder, by their ids; the versions before stay in the store."""
    from mainspring.exchange.family_file import write_family
    from mainspring.service.service import Service

    folder: Path = arguments.folder
    with _database(_settings(arguments)) as database:
        families = Service(database).families
        if arguments.way == "out":
            folder.mkdir(parents=True, exist_ok=True)
            for one in families.all():
                (folder / f"{one.id}.json").write_text(write_family(families.of(one.id)), encoding="utf-8")
                print(f"{one.id} {one.digest[:12]}")
            return 0
        files = sorted(folder.glob("*.json"))
        if not files:
            raise Usage(f"{folder}: no family there")
        read = [(file, families.take_in(_read(file))) for file in files]  # all are read before any is kept
        known = {one.id: one for one in families.all()}
        for file, family in read:
            before = known.get(family.id)
            revision = families.view(family.id).revision if before is not None else 0
            kept = families.put(family.id, revision, family, arguments.by)
            same = before is not None and before.digest == kept.digest
            print(f"{file.name}: {family.name} {'as it was' if same else 'taken in'} {kept.digest[:12]}")
    return 0


def _migrate(arguments: argparse.Namespace) -> int:
    from mainspring.store.database import migrate, open_database

    settings = _settings(arguments)
    if settings.database_url:
        applied = migrate(open_database(settings.database_url))
    else:
        with private_server(settings.data) as server:
            applied = migrate(open_database(server.url))
    print("\n".join(applied) or "nothing to do")
    return 0


if __name__ == "__main__":
    sys.exit(main())
