"""What a firing takes, worked out by hand: heat that goes into the pots and the kiln, and heat that is lost."""

import csv
import datetime as dt
from pathlib import Path
from typing import Annotated, Literal, NamedTuple

KILNS = {row["kiln"]: row for row in csv.DictReader(Path("kilns.csv").read_text().splitlines())}

# A kilogram of clay takes up so much for each degree, in kWh.
HEAT_OF_CLAY = 0.00029
STUDIO_TEMP = 18
DAY_PRICE, WEEKEND_PRICE = 0.34, 0.27


class Firing(NamedTuple):
    """What a firing takes."""

    hours: Annotated[float, "h"]
    energy: Annotated[float, "kWh"]
    cost: Annotated[float, "€"]


def firing(
    kiln: Literal["test kiln", "top loader", "front loader"],
    load: Annotated[float, (0.5, 120), "kg"] = 25,
    peak: Annotated[int, range(900, 1305, 5), "°C"] = 1240,
    rate: Annotated[int, range(40, 225, 5), "°C per hour"] = 110,
    hold: Annotated[int, range(0, 95, 5), "minutes"] = 20,
    worn: bool = False,
    day: dt.date = dt.date(2026, 11, 13),
) -> Firing:
    """What will the kiln take?

    The kiln heats as fast as it is told to, if its elements can; what it cannot give makes the firing longer.

    Parameters
    ----------
    kiln
        Which of the studio's kilns.
    load
        Weight of the pots with their glaze.
    peak
        How hot it gets at the end.
    rate
        How fast it is told to heat.
    hold
        How long it stays at the peak.
    worn
        Worn elements give a fifth less.
    day
        At the weekend power is cheaper.

    Raises
    ------
    ValueError
        If the kiln does not get so hot.
    """
    row = KILNS[kiln]
    power = float(row["power_kw"]) * (0.8 if worn else 1.0)
    loss_per_degree = float(row["loss_kw_per_100_c"]) / 100
    heat_per_degree = float(row["heat_kwh_per_100_c"]) / 100 + load * HEAT_OF_CLAY
    hours = energy = 0.0
    # In steps of five degrees: the hotter, the more is lost and the slower it goes.
    for temp in range(STUDIO_TEMP, peak, 5):
        degrees = min(5, peak - temp)
        lost = loss_per_degree * (temp - STUDIO_TEMP)
        if power <= lost * 1.02:
            raise ValueError(f"this kiln does not get hotter than {temp} °C with that load")
        step = max(degrees / rate, heat_per_degree * degrees / (power - lost))
        hours += step
        energy += heat_per_degree * degrees + lost * step
    hours += hold / 60
    energy += loss_per_degree * (peak - STUDIO_TEMP) * hold / 60
    price = WEEKEND_PRICE if day.weekday() >= 5 else DAY_PRICE
    return Firing(hours, energy, energy * price)
