"""All checks, one after another."""

import time
from collections.abc import Callable, Iterator

from ..errors import ModelFailed
from . import of_answers, of_cases, of_expected, of_model, of_page
from .facts import Facts
from .result import NAMES, CheckName, CheckResult, Finding, Fix

__all__ = ["run_checks"]

CHECKS: dict[CheckName, Callable[[Facts], Finding]] = {
    "features": of_model.features,
    "same-as-original": of_model.same_as_original,
    "same-as-expected": of_expected.same_as_expected,
    "class-order": of_model.class_order,
    "every-field": of_model.every_field,
    "report": of_cases.report,
    "calibration": of_cases.calibration,
    "leakage": of_cases.leakage,
    "ranges": of_page.ranges,
    "repeatable": of_answers.repeatable,
    "bad-input": of_answers.bad_input,
    "speed": of_answers.speed,
    "size": of_model.size,
    "versions": of_model.versions,
    "preparation": of_page.preparation,
    "reading": of_page.reading,
    "words": of_page.words,
    "readable": of_page.readable,
}


def run_checks(facts: Facts) -> Iterator[CheckResult]:
    """Each check as it ends.

    Parameters
    ----------
    facts : Facts
    """
    for name in NAMES:
        begun = time.perf_counter()
        try:
            found = CHECKS[name](facts)
        except ModelFailed as error:
            fix = Fix(text="Ask it about this case on the page to see where it fails.", place="model")
            found = Finding(status="fail", finding=f"The model failed while it was asked: {error}", fix=fix)
        seconds = round(time.perf_counter() - begun, 3)
        yield CheckResult(name=name, seconds=seconds, **dict(found))
