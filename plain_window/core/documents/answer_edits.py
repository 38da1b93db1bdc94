"""An author's changes to the answer."""

from typing import Any

from pydantic import ValidationError

from ..answers import AnyAnswerSetting
from ..errors import Fault
from .faults import faults_of

__all__ = ["CAN_BE_NONE", "changed_answer"]

# What the model and the table decided; an author may send it back but not change it.
# Settings that may be taken back by saying null.
CAN_BE_NONE = ("threshold", "cost_of_miss", "cost_of_false_alarm")
FACTS_OF_AN_ANSWER = ("kind", "low", "high", "counts", "gives_probabilities")


def changed_answer(setting: AnyAnswerSetting, wanted: dict[str, object], faults: list[Fault]) -> AnyAnswerSetting:
    """The answer's settings with changes to some of them.

    Parameters
    ----------
    setting : AnyAnswerSetting
        Not touched.
    wanted : dict
    faults : list of Fault
        What does not fit is added here.
    """
    current = setting.model_dump()
    settings: dict[str, Any] = {}
    sent: dict[str, Any] = {**wanted}
    for key, value in sent.items():
        path = f"answer.{key}"
        if key in FACTS_OF_AN_ANSWER:
            if value is not None and value != current.get(key):
                faults.append(Fault(path, f"`{path}` comes from the model and the table; leave it out."))
        elif key not in current:
            if value is not None:
                faults.append(Fault(path, f"An answer of kind `{setting.kind}` has no `{key}`. Leave it out."))
        elif key in ("classes", "labels"):
            settings[key] = _changed_wordings(current[key], value or [], path, faults)
        elif key == "values":
            settings[key] = _changed_values(current[key], value or [], path, faults)
        elif key == "reading" and value is not None:
            # Some of it may be said; the rest stays.
            settings[key] = {**current[key], **value}
        elif value is not None or key in CAN_BE_NONE:
            settings[key] = value
    try:
        return type(setting).model_validate({**current, **settings})
    except ValidationError as error:
        faults.extend(faults_of(error, prefix="answer."))
        return setting


def _changed_wordings(
    current: list[dict[str, str]], wanted: list[dict[str, str]], path: str, faults: list[Fault]
) -> list[dict[str, str]]:
    by_name = {wording["name"]: dict(wording) for wording in current}
    for item in wanted:
        name = item.get("name")
        if name not in by_name:
            known = ", ".join(f"`{known}`" for known in list(by_name)[:20])
            faults.append(Fault(path, f"The model has no class `{name}`. It has {known}."))
        else:
            by_name[name].update(item)
    return list(by_name.values())


def _changed_values(
    current: list[dict[str, Any]], wanted: list[dict[str, Any]], path: str, faults: list[Fault]
) -> list[dict[str, Any]]:
    if len(wanted) != len(current):
        faults.append(Fault(path, f"The model gives {len(current)} numbers; `{path}` names {len(wanted)}."))
        return current
    names = [new.get("name", old["name"]) for old, new in zip(current, wanted, strict=True)]
    for name in dict.fromkeys(names):
        if names.count(name) > 1:
            faults.append(Fault(path, f"Two of the numbers would be called `{name}`. Give each a name of its own."))
            return current
    return [
        {**old, **{key: new[key] for key in new if key in ("name", "unit", "decimals")}}
        for old, new in zip(current, wanted, strict=True)
    ]
