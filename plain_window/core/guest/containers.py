"""A model that was saved together with other things: in a dict, a list or a tuple."""

import itertools
from collections.abc import Iterator

from ..errors import ModelNotOpened

__all__ = ["model_in"]

MOST_PARTS, NAME_CHARACTERS = 50, 60
AS_ONE = """import joblib
from sklearn.pipeline import make_pipeline
saved = joblib.load("model.joblib")
joblib.dump(make_pipeline({}), "as_one.joblib")"""
# What is taken along for the outcome's words, not in front of a model.
OF_OUTCOMES = ("LabelEncoder", "LabelBinarizer", "MultiLabelBinarizer")


def model_in(found: object) -> tuple[object, list[str]]:
    """What is to be asked, out of what a file holds, and what its author should know of that.

    Parameters
    ----------
    found : object
        What was in the file.

    Returns
    -------
    object, list of str
        The thing itself if it is no dict, list or tuple; of one of these the only part with `predict`.

    Raises
    ------
    ModelNotOpened
        If none of the parts can be asked, or several, or one beside what may prepare its inputs: in which order they
        work is written nowhere.
    """
    if not isinstance(found, dict | list | tuple):
        return found, []
    what, parts = type(found).__name__, list(_parts(found))
    models = [(name, part) for name, part in parts if _can(part, "predict")]
    preparing = [name for name, part in parts if _prepares(part)]
    if not models:
        raise ModelNotOpened(
            f"The model file holds a {what}, not a model. Save the fitted model itself, preprocessing and all."
        )
    names = ", ".join(f"`{name}`" for name, _ in models)
    if len(models) > 1:
        raise ModelNotOpened(
            f"The model file holds a {what} with {len(models)} models: {names}. Save the one to be asked by itself."
        )
    if preparing:
        steps = ", ".join(f"saved[{name!r}]" for name in (*preparing, models[0][0]))
        prepare = ", ".join(f"`{name}`" for name in preparing)
        raise ModelNotOpened(
            f"The model file holds a {what} with a model ({names}) and what may prepare its inputs ({prepare}); in "
            f"which order they work is written nowhere. Save them as one, in their order:\n\n{AS_ONE.format(steps)}"
        )
    beside = ", ".join(f"`{name}`" for name, part in parts if part is not models[0][1])
    left = f" What lies beside it is not used: {beside}." if beside else ""
    return models[0][1], [f"The file holds a {what}; the model in it, {names}, was taken.{left}"]


def _parts(found: dict[object, object] | list[object] | tuple[object, ...]) -> Iterator[tuple[str | int, object]]:
    pairs = found.items() if isinstance(found, dict) else enumerate(found)
    for name, part in itertools.islice(pairs, MOST_PARTS):
        yield name if isinstance(name, int) else str(name)[:NAME_CHARACTERS], part


def _can(part: object, method: str) -> bool:
    return not isinstance(part, type) and callable(getattr(part, method, None))


def _prepares(part: object) -> bool:
    # A table has `transform` too, but is not fitted.
    fits = _can(part, "fit") and _can(part, "transform")
    return fits and not _can(part, "predict") and type(part).__name__ not in OF_OUTCOMES
