"""Measure everything in one run: `./plainwindow bench`."""

import json
import statistics
import tempfile
import time
from collections.abc import Callable, Sequence
from dataclasses import asdict
from pathlib import Path

import click

from .asking import CASE
from .bridge import measure_bridge
from .explaining import measure_boosted, measure_growth_of_explaining
from .faults import measure_faults, print_faults
from .films import measure_films
from .functions import measure_functions
from .growth import Curve, draw, measure_growth
from .in_process import measure_in_process
from .in_turns import InTurns, measure_in_turns
from .load import Load, first_request_ms, keep_busy
from .painting import measure_painting
from .pictures import measure_pictures
from .reader import measure_reader
from .report import as_json, console, machine, print_loads, print_measures
from .servers import ROOT, Running, flask_server, plain_window
from .starters import measure_starters
from .starters_by_hand import measure_beside_scripts
from .starters_rates import measure_rates
from .tables import measure_tables
from .take_away import measure_take_away
from .vitals import measure_vitals
from .wide_forest import SLUG, dragged_cases, make_wide_forest, unrelated_cases

PATH = "/api/v1/demos/will-it-crack/predictions"
EXPLAINED = "?with=explanation,curves"
CONNECTIONS = (1, 16)
FIRST_REQUESTS = 9
BODY = json.dumps({"inputs": CASE}).encode()
# What is measured by itself, by the option that asks for it.
ALONE: dict[str, Callable[[], None]] = {
    "faults": lambda: print_faults(measure_faults(CASE)),
    "tables": measure_tables,
    "functions": measure_functions,
    "bridge": measure_bridge,
    "reader": measure_reader,
    "films": measure_films,
    "take_away": measure_take_away,
    "starters": measure_starters,
    "starters_by_hand": measure_beside_scripts,
    "starters_rates": measure_rates,
}


@click.command()
@click.option("--seconds", default=6.0, show_default=True, help="How long each server is kept busy.")
@click.option("--json", "json_path", type=click.Path(path_type=Path), help="Write everything here as JSON too.")
@click.option("--growth", type=click.Path(path_type=Path), help="Measure growth instead, and draw it here as SVG.")
@click.option(
    "--explaining", type=click.Path(path_type=Path), help="Measure explanations instead, and draw their growth here."
)
@click.option("--faults", is_flag=True, help="Kill one process after another instead, and measure what is noticed.")
@click.option("--tables", is_flag=True, help="Have whole tables answered instead, beside a plain script.")
@click.option("--functions", is_flag=True, help="Ask functions instead, beside calling them directly.")
@click.option("--bridge", is_flag=True, help="Ask a function in another process instead, over the bridge.")
@click.option("--reader", is_flag=True, help="Ask a compiled model in a browser instead, from a disk.")
@click.option("--take-away", is_flag=True, help="Open files that need no server instead, from a disk.")
@click.option("--starters", is_flag=True, help="Make models of tables instead.")
@click.option("--starters-by-hand", is_flag=True, help="Hold such models against careful scripts instead.")
@click.option("--starters-rates", is_flag=True, help="See how often what is said of such models is true instead.")
@click.option("--films", is_flag=True, help="Have films looked at instead, beside decoding and the model alone.")
def main(seconds: float, json_path: Path | None, growth: Path | None, explaining: Path | None, **instead: bool) -> None:
    """Compare a constant Flask route, a hand-written page and Plain Window, all around the same 300-tree model."""
    for measure in (ALONE[name] for name, is_wanted in instead.items() if is_wanted):
        console.print(f"{machine()}")
        measure()
        return
    if growth:
        _draw(measure_growth(), growth, "a compiled forest")
        return
    if explaining:
        print_measures("1,000 rows of 300 boosted trees of depth 6", measure_boosted().words())
        _draw(measure_growth_of_explaining(), explaining, "one row's exact contributions")
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
        wide = make_wide_forest(Path(scratch) / "wide")
        wide_path, cases = f"/api/v1/demos/{SLUG}/predictions", unrelated_cases(wide)
        with flask_server("handwritten_page", BENCH_MODEL_FOLDER=str(wide)) as server:
            loads["hand-written page, 30 fields"] = _loads(server, seconds, path=wide_path, bodies=cases)
        home = Path(scratch) / "home"
        with plain_window(home) as server:
            first_start = server.seconds_to_ready
        with plain_window(home) as server:
            second_start = server.seconds_to_ready
            first_answers = [first_request_ms(server.port, PATH, BODY) for _ in range(FIRST_REQUESTS)]
            rested = [_answer_after_a_rest(server) for _ in range(FIRST_REQUESTS)]
            ratios = _ratios(server, wide)
            loads["Plain Window"] = _loads(server, seconds)
            loads["Plain Window, explained"] = _loads(server, seconds, path=PATH + EXPLAINED)
            painting = measure_painting(f"http://127.0.0.1:{server.port}/d/will-it-crack")
            vitals = measure_vitals(f"http://127.0.0.1:{server.port}/d/will-it-crack")
            memory = server.peak_memory_mb()
            pictures = measure_pictures(f"http://127.0.0.1:{server.port}", server.peak_memory_mb)
            dragged, path = dragged_cases(wide), wide_path + EXPLAINED
            loads["Plain Window, 30 fields, explained, one control moved"] = _loads(
                server, seconds, path=path, bodies=dragged
            )
            loads["Plain Window, 30 fields, explained, unrelated cases"] = _loads(
                server, seconds, path=path, bodies=cases
            )
    print_loads(loads)
    print_measures("Pictures and drawings", pictures.words())
    print_measures("From a moved control to the painted page", painting.words())
    print_measures("How the page feels", vitals.words())
    first, *later = first_answers
    print_measures(
        "First answer after a start, and later ones, each on a connection of its own",
        {
            "ms": f"{first:.2f}",
            "later, median": f"{statistics.median(later):.2f}",
            "later, a second after the one before, median": f"{statistics.median(rested):.2f}",
        },
    )
    for what, measured in ratios.items():
        print_measures(f"In turns: {what}", {name: said for one in measured for name, said in one.words().items()})
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
            first_answers_ms=first_answers,
            in_turns={what: [asdict(one) for one in measured] for what, measured in ratios.items()},
            peak_memory_mb=memory,
            handwritten_peak_memory_mb=handwritten_memory,
            visitor_script_bytes=scripts,
            painting=asdict(painting),
            vitals=asdict(vitals),
            pictures=asdict(pictures),
        )
        json_path.write_text(json.dumps(result, indent=1))


def _draw(curves: list[Curve], path: Path, of_what: str) -> None:
    for curve in curves:
        figures = {f"{size:,}": f"{spent:.3g} ms" for size, spent in zip(curve.sizes, curve.milliseconds, strict=True)}
        print_measures(f"{curve.what}: exponent {curve.exponent:.2f}", figures)
    draw(curves, path, of_what)


def _answer_after_a_rest(server: Running) -> float:
    """Milliseconds of an answer once all have slept for a second, as between two visitors."""
    time.sleep(1)
    return first_request_ms(server.port, PATH, BODY)


def _loads(server: Running, seconds: float, *, path: str = PATH, bodies: Sequence[bytes] = (BODY,)) -> list[Load]:
    return [keep_busy(server.port, path, bodies, connections=count, seconds=seconds) for count in CONNECTIONS]


def _ratios(server: Running, wide: Path) -> dict[str, list[InTurns]]:
    """To the constant route and to the hand-written page, in turns."""
    server.publish(wide)
    plain, explained = (server.port, PATH, [BODY]), (server.port, PATH + EXPLAINED, [BODY])
    wide_path, cases = f"/api/v1/demos/{SLUG}/predictions", unrelated_cases(wide)
    moved = (server.port, wide_path + EXPLAINED, dragged_cases(wide))
    unrelated = (server.port, wide_path + EXPLAINED, cases)
    found = {}
    with flask_server("constant_route") as constant:
        route = (constant.port, PATH, [BODY])
        found["answers to a constant Flask route"] = [
            measure_in_turns(plain, route, connections=count) for count in CONNECTIONS
        ]
    with flask_server("handwritten_page") as page:
        bare = (page.port, PATH, [BODY])
        found["explained with curves to the hand-written page's bare answers"] = [
            measure_in_turns(explained, bare, connections=1)
        ]
    with flask_server("handwritten_page", BENCH_MODEL_FOLDER=str(wide)) as page:
        bare = (page.port, wide_path, cases)
        for what, ours in (("one control moved", moved), ("unrelated cases", unrelated)):
            found[f"30 fields, explained, {what}, to the hand-written page's bare answers"] = [
                measure_in_turns(ours, bare, connections=1)
            ]
    return found


def _script_bytes() -> int:
    """What a browser that takes brotli loads for the visitor's page."""
    dist = ROOT / "frontend" / "dist"
    html = (dist / "visitor.html").read_text("utf-8")
    return sum(
        path.stat().st_size for path in (dist / "assets").glob("*.js.br") if path.name.removesuffix(".br") in html
    )


if __name__ == "__main__":
    main()
