"""The sample studio: made-up data, seeded generators, training scripts and the demo folders they make.

`opened` keeps what opening each of their models gives, so that a first start need not open them.
"""

from pathlib import Path

__all__ = ["SAMPLES"]

# Demo folders by the address they ask for.
_HERE = Path(__file__).parent
SAMPLES = {
    "will-it-crack": _HERE / "will_it_crack" / "demo",
    "what-will-this-firing-use": _HERE / "what_will_this_firing_use" / "demo",
    "what-went-wrong": _HERE / "what_went_wrong" / "demo",
    "whose-mark-is-it": _HERE / "whose_mark_is_it" / "demo",
    "how-is-the-glaze": _HERE / "how_is_the_glaze" / "demo",
    "where-are-the-flaws": _HERE / "where_are_the_flaws" / "demo",
    "along-the-belt": _HERE / "along_the_belt" / "demo",
    "how-will-it-look-fired": _HERE / "how_will_it_look_fired" / "demo",
    "kiln-by-hand": _HERE / "kiln_by_hand" / "demo",
}
