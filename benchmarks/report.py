"""Tables and JSON."""

import platform
from dataclasses import asdict
from pathlib import Path
from typing import Any

from rich.console import Console
from rich.table import Table

from .load import Load

__all__ = ["as_json", "machine", "print_loads", "print_measures"]

console = Console(width=110)


def machine() -> dict[str, Any]:
    """What it was measured on."""
    cpu = next(
        (line.split(":")[1].strip() for line in Path("/proc/cpuinfo").read_text().splitlines() if "model name" in line),
        platform.processor(),
    )
    return {
        "cpu": cpu,
        "cores": len(list(Path("/sys/devices/system/cpu").glob("cpu[0-9]*"))),
        "python": platform.python_version(),
    }


def print_loads(loads: dict[str, list[Load]]) -> None:
    """Requests a second and latencies, server by server."""
    table = Table("server", "connections", "requests/s", "p50 ms", "p99 ms", "failures", title="Predictions over HTTP")
    for server, rows in loads.items():
        for row in rows:
            figures = (f"{row.per_second:.0f}", f"{row.p50_ms:.2f}", f"{row.p99_ms:.2f}", str(row.failures))
            table.add_row(server, str(row.connections), *figures)
    console.print(table)


def print_measures(title: str, measures: dict[str, str]) -> None:
    """Names and figures."""
    table = Table("what", "measured", title=title)
    for name, value in measures.items():
        table.add_row(name, value)
    console.print(table)


def as_json(loads: dict[str, list[Load]], **more: Any) -> dict[str, Any]:
    """Everything, for programs."""
    return {
        "machine": machine(),
        "loads": {name: [asdict(row) for row in rows] for name, rows in loads.items()},
        **more,
    }
