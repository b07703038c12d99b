"""The command line: `cinder design | schema | twin | gateway | convert | serve | worker | backup | restore`.

Every process a command starts beside itself reads this file first; so what a command needs is imported by that command."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from contextlib import contextmanager
from importlib.resources import files
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import orjson
import typer

from cinder import memory
from cinder.errors import BackupRefused, CinderError

if TYPE_CHECKING:
    from cinder.design import Design
    from cinder.store.cluster import Cluster

app = typer.Typer(add_completion=False, no_args_is_help=True, help="From room-by-room heat loss to the weather curve.")


@app.command("design")
def design_command(
    path: Annotated[Path, typer.Argument(help="A job (.json) or a brief (.toml).", exists=True, dir_okay=False)],
    table: Annotated[bool, typer.Option("--table", help="A table for people instead of JSON.")] = False,
    scheme: Annotated[str | None, typer.Option(help="Judge this scheme instead of the active one.")] = None,
) -> None:
    """Judge a job: the whole Design as JSON, or as a table."""
    from cinder.design import design
    from cinder.exchange.jobs import job_file
    from cinder.model import parse

    document = job_file.read(path)
    if scheme is not None:
        document["active_scheme"] = scheme
    result = design(parse(document))
    if table:
        typer.echo(_table(result))
    else:
        sys.stdout.buffer.write(orjson.dumps(result.model_dump(), option=orjson.OPT_INDENT_2) + b"\n")


@app.command("schema")
def schema_command() -> None:
    """The JSON Schema of job files."""
    from cinder.exchange.jobs import job_file

    sys.stdout.buffer.write(orjson.dumps(job_file.json_schema(), option=orjson.OPT_INDENT_2) + b"\n")


@app.command("twin")
def twin_command(
    path: Annotated[Path, typer.Argument(help="A job (.json) or a brief (.toml).", exists=True, dir_okay=False)],
    days: Annotated[int, typer.Option(min=1, max=365, help="How many days.")] = 7,
    first: Annotated[int, typer.Option(min=1, max=365, help="The first day of the climate's year.")] = 1,
    step: Annotated[int, typer.Option(min=1, max=60, help="Minutes a row.")] = 15,
) -> None:
    """Run the house as it is set, and write what comes of it as CSV: time, air, water, rooms, machine."""
    from cinder.exchange.jobs import job_file
    from cinder.model import parse
    from cinder.twin.trace import trace_csv

    sys.stdout.write(trace_csv(parse(job_file.read(path)), days=days, first_day=first, step_min=step))


@app.command("gateway")
def gateway_command(
    path: Annotated[
        Path | None, typer.Argument(help="A job (.json) or a brief (.toml); without one the lock-keeper's house.")
    ] = None,
    port: Annotated[int, typer.Option(min=1024, max=65535, help="Where it listens, on loopback.")] = 5020,
    speed: Annotated[float, typer.Option(min=0.01, max=5000, help="Seconds of the plant for one of ours.")] = 1.0,
    first: Annotated[int, typer.Option(min=1, max=365, help="The first day of the climate's year.")] = 20,
    fault: Annotated[list[str] | None, typer.Option(help="Something wrong with it; may be said again.")] = None,
    minutes: Annotated[
        float, typer.Option(min=0, help="Ends by itself after so many of our minutes (0: never).")
    ] = 0.0,
) -> None:
    """A simulated plant of a job on Modbus TCP (docs/gateway.md). Ctrl+C stops it."""
    from cinder.devices.run import run_gateway
    from cinder.exchange.jobs import brief, job_file

    sample = files("cinder.exchange").joinpath("demo", "tansy-cut.toml")
    document = job_file.read(path) if path is not None else brief.document(sample.read_bytes())
    run_gateway(document, port=port, speed=speed, first_day=first, faults=fault or [], minutes=minutes, say=typer.echo)


@app.command("convert")
def convert_command(
    source: Annotated[Path, typer.Argument(help="A job (.json) or a brief (.toml).", exists=True, dir_okay=False)],
    target: Annotated[Path, typer.Argument(help="The job file to write (.json).")],
) -> None:
    """Read a job or a brief, check it, write it as a job file. Nothing is written unless all of it is good."""
    from cinder.exchange.jobs import job_file

    data = job_file.write(job_file.read(source))
    part = target.with_name(target.name + ".part")
    part.write_bytes(data)
    part.replace(target)


@app.command("serve")
def serve_command(
    port: Annotated[int, typer.Option(help="Port on 127.0.0.1.")] = 8740,
    database: Annotated[str | None, typer.Option(envvar="CINDER_DATABASE", help="PostgreSQL address.")] = None,
    pages: Annotated[Path | None, typer.Option(help="Folder of the built pages.")] = None,
    tls: Annotated[
        Path | None, typer.Option(help="Folder for a self-signed certificate: serve HTTPS to paired tablets as well.")
    ] = None,
    processes: Annotated[int, typer.Option(min=1, max=16, help="How many processes serve; one per core at most.")] = 1,
) -> None:
    """Serve the application on loopback; with --tls on the local network too."""
    with memory.loading():
        from cinder.web.serve import serve

    serve(port=port, database=database, pages=pages, tls=tls, processes=processes)


@app.command("worker")
def worker_command(
    database: Annotated[str | None, typer.Option(envvar="CINDER_DATABASE", help="PostgreSQL address.")] = None,
) -> None:
    """Write what is asked for in the background (reports as PDF). Ends with Ctrl+C."""
    with memory.loading():
        from cinder.service.worker import work

    work(database=database)


DATA = Annotated[
    Path | None, typer.Option("--data", help="The data folder given to ./start --data; else the project's own.")
]
PLACE = Annotated[str | None, typer.Option("--database", help="A PostgreSQL address, instead of a data folder.")]


@app.command("backup")
def backup_command(
    target: Annotated[Path, typer.Argument(help="The file to write; it must not be there yet.")],
    data: DATA = None,
    database: PLACE = None,
) -> None:
    """Write everything to one file: jobs, history, pictures, papers, company tables, weather. People may go on working."""
    from cinder.store import backup

    if database is None and _cluster(data).version is None:
        raise BackupRefused(f"There are no data in {_cluster(data).folder}.")
    with _place(data, database) as (address, cluster):
        said = backup.write(address, target, programs=cluster.tools)
    typer.echo(f"{target}: {said.said()}, as of {said.written_at}.")
    typer.echo("Whoever has this file has every job and address in it. Keep it where only you can read it.")


@app.command("restore")
def restore_command(
    source: Annotated[Path, typer.Argument(help="A file written by cinder backup.")],
    data: DATA = None,
    database: PLACE = None,
    aside: Annotated[bool, typer.Option("--aside", help="Put what is there aside first; nothing is deleted.")] = False,
) -> None:
    """Bring a backup into an empty place, all of it or nothing, and check its figures. Only take files you trust."""
    from cinder.store import backup
    from cinder.store.figures import recheck

    if aside and database is None:
        backup.read(source)  # before anything is moved
        kept = _cluster(data).aside()
        if kept is not None:
            typer.echo(f"What was there is kept in {kept}.")
    with _place(data, database) as (address, cluster):
        said = backup.restore(address, source, programs=cluster.tools)
        typer.echo(f"Brought in: {said.said()}, as of {said.written_at}, written by {said.engine}.")
        typer.echo(recheck(address, said).said())


def _cluster(data: Path | None) -> Cluster:
    from cinder.store.cluster import Cluster, folder_for

    checkout = Path(__file__).resolve().parents[2]
    return Cluster(folder_for(checkout if (checkout / "start").exists() else Path.cwd(), data))


@contextmanager
def _place(data: Path | None, database: str | None) -> Iterator[tuple[str, Cluster]]:
    """The address of the database meant; a cluster that is not running is started for the while."""
    cluster = _cluster(data)
    if database is not None:
        yield database, cluster
        return
    try:
        yield cluster.start(), cluster
    finally:
        if cluster.started:
            cluster.stop()


def _cell(value: float | None, digits: int) -> str:
    return "–" if value is None else f"{value:.{digits}f}"


def _table(result: Design) -> str:
    lines = [f"{result.scheme_label}", ""]
    lines += [f"{f.label:20} {_cell(f.value, f.digits):>8} {f.unit:3} {f.lacks}" for f in result.headline]
    lines += [
        "",
        f"{'room':22}{'°C':>6}{'m²':>7}{'emitter W':>11}{'house W':>9}{'rated W':>9}{'flow °C':>9}{'reach':>7}",
    ]
    for r in result.rooms:
        cells = (
            f"{_cell(r.target_c, 1):>6}{_cell(r.area_m2, 1):>7}{_cell(r.room_emitter_load_w, 0):>11}"
            f"{_cell(r.room_share_of_house_w, 0):>9}{_cell(r.rated_w, 0):>9}{_cell(r.needed_flow_c, 1):>9}"
            f"{_cell(r.reached_c, 1):>7}  {r.status}"
        )
        lines.append(f"{r.label[:21]:22}{cells}")
    lines += ["", *(text.replace("**", "") for text in result.sentences.values()), ""]
    lines += [f"[{f.severity}] {f.what} {f.mend}" for f in result.findings]
    lines += ["", "An estimate on the inputs above: local codes, the makers' manuals and licensed practice decide."]
    return "\n".join(lines)


def run() -> None:
    """Entry point: our own errors become one line per problem and exit code 2, never a traceback."""
    try:
        app()
    except CinderError as error:
        typer.echo(f"cinder: {error.message} {error.kept}", err=True)
        for problem in error.problems:
            typer.echo(f"  {problem.line()}", err=True)
        sys.exit(error.exit_code)


if __name__ == "__main__":
    run()
