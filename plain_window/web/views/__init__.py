"""The views, one module a subject. `api` has what they offer under `/api/v1`."""

from . import (  # noqa: F401 -- they register themselves
    bridge,
    browser,
    checks,
    demos,
    describing,
    drift,
    environments,
    expected,
    folders,
    in_picture,
    job_films,
    job_tables,
    jobs,
    log,
    outcomes,
    page_data,
    passcode,
    predictions,
    publishing,
    reference,
    regions,
    releases,
    replacing,
    report,
    rows,
    samples,
    secret_links,
    sessions,
    shelf,
    starters,
    take_away,
    use,
)
from .api import api

__all__ = ["api"]
