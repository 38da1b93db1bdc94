"""Where the built pages are, and what of them is told about before it is fetched."""

import functools
from pathlib import Path

__all__ = ["PAGES", "engine_bytes"]

PAGES = Path(__file__).resolve().parents[2] / "frontend" / "dist"


@functools.lru_cache(maxsize=1)
def engine_bytes() -> int:
    """How much it weighs, compressed, what runs models that look at pictures in a browser."""
    return sum(path.stat().st_size for path in PAGES.glob("assets/onnxruntime-*.wasm.gz"))
