"""The sample studio: made-up data, seeded generators, training scripts and the demo folders they make."""

from pathlib import Path

__all__ = ["SAMPLES"]

# Demo folders by the address they ask for.
SAMPLES = {"will-it-crack": Path(__file__).parent / "will_it_crack" / "demo"}
