"""Measure everything in one run: `./plainwindow bench`."""

import json
import tempfile
from pathlib import Path

import click

from .growth import draw, measure_growth
from .in_process import measure_in_process
from .load import Load, first_request_ms, keep_busy
from .report import as_json, console, machine, print_loads, print_measures
from .servers import ROOT, Running, flask_server, plain_window

PATH = "/api/v1/demos/will-it-crack/predictions"
EXPLAINED = "?with=explanation,curves"
CONNECTIONS = (1, 16)
CASE = {
    "clay_body": "porcelain",
    "wall_mm": 14,
    "width_cm": 20,
    "attached": True,
    "drying_days": 2,
    "humidity": 58,
    "covered": False,
    "glaze": "clear",
    "heating_rate": 120,
    "peak_temp": 1260,
    "cooling_hours": 12,
}
BODY = json.dumps({"inputs": CASE}).encode()


@click.command()
@click.option("--seconds", default=6.0, show_default=True, help="How long each server is kept busy.")
@click.option("--json", "json_path", type=click.Path(path_type=Path), help="Write everything here as JSON too.")
@click.option("--growth", type=click.Path(path_type=Path), help="Measure growth instead, and draw it here as SVG.")
def main(seconds: float, json_path: Path | None, growth: Path | None) -> None:
    """Compare a constant Flask route, a hand-written page and Plain Window, all around the same 300-tree model."""
    if growth:
        _grow(growth)
        return
    console.print(f"{machine()}")
    in_process = measure_in_process()
    print_measures("The sample's forest in one process", in_process.words())
    loads: dict[str, list[Load]] = {}
    with flask_server("constant_route") as server:
        loads["constant Flask route"] = _loads(server, seconds)
    with flask_server("handwritten_page") as server:
        loads["hand-written page"] = _loads(server, seconds)
        handwritten_memory = server.peak_memory_mb()
    with tempfile.TemporaryDirectory() as scratch:
        home = Path(scratch) / "home"
        with plain_window(home) as server:
            first_start = server.seconds_to_ready
        with plain_window(home) as server:
            second_start = server.seconds_to_ready
            first_answer_ms = first_request_ms(server.port, PATH, BODY)
            loads["Plain Window"] = _loads(server, seconds)
            loads["Plain Window, explained"] = _loads(server, seconds, path=PATH + EXPLAINED)
            memory = server.peak_memory_mb()
    print_loads(loads)
    print_measures("First answer after a start", {"ms": f"{first_answer_ms:.2f}"})
    starts = {"first": first_start, "second": second_start}
    print_measures("Seconds until ready", {name: f"{value:.1f}" for name, value in starts.items()})
    print_measures("Peak memory of each process, MB", {name: f"{value:.0f}" for name, value in memory.items()})
    scripts = _script_bytes()
    print_measures("Visitor's page, compressed JavaScript", {"KB": f"{scripts / 1024:.0f}"})
    if json_path:
        result = as_json(
            loads,
            in_process=in_process.to_dict(),
            seconds_until_ready=starts,
            first_answer_ms=first_answer_ms,
            peak_memory_mb=memory,
            handwritten_peak_memory_mb=handwritten_memory,
            visitor_script_bytes=scripts,
        )
        json_path.write_text(json.dumps(result, indent=1))


def _grow(path: Path) -> None:
    curves = measure_growth()
    for curve in curves:
        figures = {f"{size:,}": f"{spent:.3g} ms" for size, spent in zip(curve.sizes, curve.milliseconds, strict=True)}
        print_measures(f"{curve.what}: exponent {curve.exponent:.2f}", figures)
    draw(curves, path)


def _loads(server: Running, seconds: float, *, path: str = PATH) -> list[Load]:
    return [keep_busy(server.port, path, BODY, connections=count, seconds=seconds) for count in CONNECTIONS]


def _script_bytes() -> int:
    """What a browser that takes brotli loads for the visitor's page."""
    dist = ROOT / "frontend" / "dist"
    html = (dist / "visitor.html").read_text("utf-8")
    return sum(
        path.stat().st_size for path in (dist / "assets").glob("*.js.br") if path.name.removesuffix(".br") in html
    )


if __name__ == "__main__":
    main()
