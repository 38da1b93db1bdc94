"""A model that looks at pictures, with what came beside it: fields, answer, or what does not fit."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, BinaryIO

import numpy as np
import pandas as pd
from PIL import Image

from ..answers import ClassSetting
from ..contract.compilation import CompiledReport
from ..contract.inspection import Inspection, LikenessFound, PictureFindings, Question
from ..contract.kept_rows import KeptRows
from ..contract.model_facts import AnswerKind
from ..contract.values import Cell
from ..errors import Fault, MismatchFaults, ModelFailed, PictureNotRead
from ..fields.columns import Column
from ..fields.inference import columns_of, infer_fields, match_columns
from ..fields.kinds import AnyField, PictureField
from ..formats.picture_input import (
    InPictureModel,
    PictureInput,
    PictureModel,
    StatedSetting,
    in_picture_model,
    may_be_two_classes,
    stated_setting,
    take_as_two_classes,
)
from ..pictures.labelled import LabelledPicture, read_labelled
from ..pictures.preparation import as_input, as_seen
from ..pictures.reading import read_picture
from ..pictures.settings import Preparation
from ..trust.evidence import Evidence
from ..trust.likeness import FEWEST_KNOWN, MOST_KNOWN, describe_picture, false_alarm_share
from ..trust.weighing import weigh_classes, weigh_numbers
from .answer_setting import Truth, put_answer
from .box_inspection import BoxesPut, put_boxes
from .inspection import plain_row
from .made_inspection import MadePut, keeping_own_size, put_made
from .outcomes import class_places
from .preparation_search import guess_preparation, is_borne_out, preparation_words
from .row_sampling import drawn_rows, plain_value

__all__ = ["inspect_picture_model"]

FIELD_NAME, LABEL = "picture", "Picture"
NO_COMPILED_FORM = (
    "Of models that look at pictures only those of flattened pixels are compiled; its own library serves this one."
)
# Settings that leave nothing to guess where the model states them.
STATED_BY_A_MODEL = {"width", "height", "scale"}
DRAW_SEED = 20261126
# Pictures that could not be read are named up to here.
NAMED_PICTURES = 3


@dataclass(frozen=True)
class _Known:
    """Known pictures that could be read. `places` are where each stands in the archive, by name."""

    places: list[int]
    images: list[Image.Image]
    names: list[str]
    outcomes: list[str]
    notes: list[str]


@dataclass(frozen=True)
class _StatedPut:
    """An answer whose setting the model itself states: there is nothing to confirm."""

    setting: StatedSetting
    questions: Sequence[Question] = ()
    notes: Sequence[str] = ()


def inspect_picture_model(
    model: PictureModel,
    table: pd.DataFrame | None,
    *,
    target: str | None = None,
    labels: list[str] | None = None,
    known: BinaryIO | None = None,
    preparations: Mapping[str, Mapping[str, object]] | None = None,
    kind: AnswerKind | None = None,
) -> tuple[Inspection, KeptRows]:
    """Infer a demo's fields and answer, and how its pictures are prepared.

    Parameters
    ----------
    model : PictureModel
    table : DataFrame, optional
        Reference rows of what the model takes beside pictures.
    target : str, optional
        The outcome's column in it.
    labels : list of str, optional
        Names for the classes, in class order.
    known : binary file, optional
        A zip archive of pictures in folders named after classes.
    preparations : mapping, optional
        By field, how its pictures are prepared where the author has said so.
    kind : str, optional
        The kind of answer, where the author has said so.

    Raises
    ------
    MismatchFaults
        If what came does not belong together.
    """
    in_picture = in_picture_model(model)
    if in_picture is not None:
        return _inspect_in_picture(
            in_picture, table, labels=labels, known=known, preparations=preparations or {}, kind=kind
        )
    names, columns, beside = _beside(model, table, target)
    inputs = list(model.pictures)
    field_names = [FIELD_NAME] if len(inputs) == 1 else [one.name for one in inputs]
    pictures = None if known is None else _pictures_to_compare(model, known, looks_only=not names)
    if model.found.task == "number" and may_be_two_classes(model) and _names_two(labels, pictures):
        take_as_two_classes(model)
    told = {name: Preparation.model_validate(own) for name, own in (preparations or {}).items() if name in field_names}
    inputs = [
        replace(one, preparation=told.get(name, one.preparation)) for name, one in zip(field_names, inputs, strict=True)
    ]
    findings, preparation = PictureFindings(), inputs[0].preparation
    outputs = _blank_outputs(model, inputs, table, names)
    if pictures is not None:
        findings, preparation, outputs = _learnt(model, inputs[0], pictures, labels, told.get(field_names[0]))
    prepared = [preparation] if len(inputs) == 1 else [one.preparation for one in inputs]
    put = put_answer(model.found, labels, outputs, _truth(table if names else None, target, pictures, outputs))
    fields: list[AnyField] = [
        PictureField(name=name, label=_label(name), preparation=own)
        for name, own in zip(field_names, prepared, strict=True)
    ]
    inspection = Inspection(
        found=model.found,
        compiled=CompiledReport(adopted=False, obstacle=NO_COMPILED_FORM),
        target=target if names else None,
        targets=[target] if names and target else [],
        columns=columns,
        ignored=[] if table is None else [name for name in table.columns if name not in names and name != target],
        fields=[*fields, *beside],
        answer=put.setting,
        outcome_words=put.words,
        questions=[*put.questions, *_preparation_question(model, inputs, prepared, findings, told)],
        notes=[*model.notes, *_size_notes(inputs), *_notes_of(pictures), *findings.notes, *put.notes],
        n_reference_rows=0 if table is None or not names else len(table),
        warm_up_row={**_shown_first(field_names, inputs), **(plain_row(table, names) if names else {})},
        picture_inputs={name: one.name for name, one in zip(field_names, inputs, strict=True)},
        pictures=findings,
        graph=getattr(model, "graph_reading", None),
    )
    if pictures is None:
        return inspection, _kept_rows_of(table, inspection, names)
    return _with_known_pictures(inspection, pictures, outputs, preparation)


def _pictures_to_compare(model: PictureModel, known: BinaryIO, *, looks_only: bool) -> _Known:
    pictures = _known_pictures(read_labelled(known))
    if len(model.pictures) > 1 or not looks_only or model.found.task not in ("class", "number"):
        message = "Known pictures can be compared only for models that look at one picture and nothing else."
        raise MismatchFaults([Fault("known", message)])
    return pictures


def _shown_first(field_names: list[str], inputs: Sequence[PictureInput]) -> dict[str, Cell]:
    """What a model is warmed up with: pictures that nobody has shown yet."""
    return {name: {"preparation": one.preparation.model_dump()} for name, one in zip(field_names, inputs, strict=True)}


def _notes_of(pictures: _Known | None) -> list[str]:
    return pictures.notes if pictures else []


def _with_known_pictures(
    inspection: Inspection, pictures: _Known, outputs: np.ndarray, preparation: Preparation
) -> tuple[Inspection, KeptRows]:
    """What known pictures say of a model, and what is kept of them."""
    (field,) = inspection.picture_inputs
    described = _described(pictures, preparation)
    truths = _truths(pictures, inspection)
    likeness = _likeness(field, described)
    borne_out = {"evidence": _evidence(truths, outputs, inspection), "likeness": likeness}
    return inspection.model_copy(update=borne_out), KeptRows(
        columns={},
        descriptions={field: [one.tobytes() for one in described[:MOST_KNOWN]]} if likeness else {},
        described_as={field: preparation.model_dump(mode="json")} if likeness else {},
        known_places=pictures.places,
        known_names=pictures.names,
        known_outputs=outputs.tolist(),
        known_truths=truths[:, None].tolist(),
    )


def _inspect_in_picture(
    model: InPictureModel,
    table: pd.DataFrame | None,
    *,
    labels: list[str] | None,
    known: BinaryIO | None,
    preparations: Mapping[str, Mapping[str, Any]],
    kind: AnswerKind | None,
) -> tuple[Inspection, KeptRows]:
    """Of a model whose answer lies in the picture. Readings are tried on known pictures, whose folders say nothing."""
    one, *others = model.pictures
    is_map = model.found.task != "boxes"
    stated = stated_setting(model)
    if is_map and stated is None:
        one = keeping_own_size(model, one)
    names, columns, beside = _beside(model, table, None) if stated is not None else ([], [], [])
    first = one.name if others else FIELD_NAME
    told = {FIELD_NAME: Preparation.model_validate(preparations[FIELD_NAME])} if FIELD_NAME in preparations else {}
    one = replace(one, preparation=told.get(FIELD_NAME, one.preparation))
    pictures = _known_pictures(read_labelled(known, loose=True)) if known is not None else None
    images = pictures.images if pictures else []
    put: BoxesPut | MadePut | _StatedPut
    if stated is not None:
        put = _StatedPut(stated)
    elif is_map:
        told_kind = kind if kind in ("picture", "mask") else None
        put = put_made(model, one.preparation, images=images, labels=labels, told=told_kind)
    else:
        put = put_boxes(model, one.preparation, images=images, labels=labels)
    inspection = Inspection(
        found=model.found.model_copy(update={"task": put.setting.kind}),
        compiled=CompiledReport(adopted=False, obstacle=NO_COMPILED_FORM),
        target=None,
        columns=columns,
        ignored=[],
        fields=[
            PictureField(name=first, label=_label(first), preparation=one.preparation),
            *(PictureField(name=each.name, label=_label(each.name), preparation=each.preparation) for each in others),
            *beside,
        ],
        answer=put.setting,
        questions=[*put.questions, *_preparation_question(model, [one], [one.preparation], PictureFindings(), told)],
        notes=[*model.notes, *_size_notes([one]), *(pictures.notes if pictures else []), *put.notes],
        n_reference_rows=0,
        warm_up_row={
            first: {"preparation": one.preparation.model_dump()},
            **{each.name: {"preparation": each.preparation.model_dump()} for each in others},
            **(plain_row(table, names) if names and table is not None else {}),
        },
        picture_inputs={first: one.name, **{each.name: each.name for each in others}},
        boxes=put.findings if isinstance(put, BoxesPut) else None,
    )
    return inspection, KeptRows(columns={})


def _size_notes(inputs: Sequence[PictureInput]) -> list[str]:
    """That the size of pictures is a guess, or that they keep their own."""
    notes = []
    for one in inputs:
        own = one.preparation
        if own.own_size:
            note = (
                f"The model takes pictures of any size: they keep their own, up to {own.width} × {own.height}. Larger "
                "ones are made smaller."
            )
            notes += [] if note in notes else [note]
        elif not {"width", "height"} <= one.stated:
            notes.append(
                f"The model leaves the size of its pictures open; {own.width} × {own.height} is taken. Set the size it "
                "was trained on."
            )
    return notes


def _described(pictures: _Known, preparation: Preparation) -> np.ndarray:
    """The known pictures' descriptions, in an order drawn once: folders stand behind one another."""
    every = np.array([describe_picture(as_seen(image, preparation)) for image in pictures.images])
    return every[np.random.default_rng(DRAW_SEED).permutation(len(every))]


def _likeness(field: str, described: np.ndarray) -> list[LikenessFound]:
    if len(described) < FEWEST_KNOWN:
        return []
    share = false_alarm_share(described)
    n_known = min(len(described), MOST_KNOWN)
    return [LikenessFound(field=field, by="description of the picture", n_known=n_known, false_alarms=share)]


def _truth(
    table: pd.DataFrame | None, target: str | None, pictures: _Known | None, outputs: np.ndarray
) -> Truth | None:
    """What happened, by the folders that known pictures came in, or by the table beside them."""
    if pictures is not None:
        return Truth(pd.DataFrame({"the folders": pictures.outcomes}), outputs)
    if table is None or target is None:
        return None
    return Truth(table[[target]], outputs)


def _beside(
    model: PictureModel, table: pd.DataFrame | None, target: str | None
) -> tuple[list[str], list[Column], list[AnyField]]:
    """What the model takes beside pictures: its columns and fields."""
    n_features = model.found.n_features if not _is_flat(model) else 0
    if not n_features:
        return [], [], []
    if table is None:
        message = f"Beside pictures the model takes {n_features} numbers. Bring a table with rows of them as well."
        raise MismatchFaults([Fault("reference", message)])
    if target is not None and target not in table.columns:
        raise MismatchFaults([Fault("target", f"The reference table has no column `{target}` to be the outcome.")])
    names = match_columns(table, model.found.features, n_features=n_features, targets=[target] if target else [])
    return names, columns_of(table, names), infer_fields(table, names, {}, takes_gaps=False)


def _names_two(labels: list[str] | None, pictures: _Known | None) -> bool:
    """Whether what came with a model of one number names two classes."""
    names = labels or sorted(set(pictures.outcomes if pictures is not None else []))
    return len(names) == 2 and not all(_is_number(name) for name in names)


def _is_number(name: str) -> bool:
    try:
        float(name)
    except ValueError:
        return False
    return True


def _is_flat(model: PictureModel) -> bool:
    return any(one.preparation.layout == "flat" for one in model.pictures)


def _blank_outputs(
    model: PictureModel, inputs: Sequence[PictureInput], table: pd.DataFrame | None, names: list[str]
) -> np.ndarray:
    """What the model says of a grey picture, beside the table's first row."""
    pictures = {}
    for one in inputs:
        grey = np.full((8, 8, 3), 128, dtype="uint8")
        pictures[one.name] = [as_input(as_seen(grey, one.preparation), one.preparation)]
    try:
        beside = table[names].dropna().head(1) if names and table is not None else None
        return model.predict(pictures, beside)
    except ModelFailed as error:
        what = "a grey picture beside the table's first row" if names else "a grey picture"
        raise MismatchFaults([Fault(None, f"{error} This came up with {what}.")]) from error


def _known_pictures(labelled: Sequence[LabelledPicture]) -> _Known:
    places, images, names, outcomes, failed = [], [], [], [], []
    for place, one in enumerate(labelled):
        try:
            images.append(_small(read_picture(one.content).image))
            places.append(place)
            names.append(one.name)
            outcomes.append(one.outcome)
        except PictureNotRead as error:
            failed.append(f"{one.name}: {error}")
    if not images:
        raise MismatchFaults([Fault("known", f"None of the known pictures could be read. {failed[0]}")])
    notes = (
        [f"{len(failed)} of the known pictures could not be read. {'; '.join(failed[:NAMED_PICTURES])}"]
        if failed
        else []
    )
    return _Known(places, images, names, outcomes, notes)


def _small(image: Image.Image, most: int = 1024) -> Image.Image:
    """Many are held at once: none larger than any model here would see."""
    if max(image.size) > most:
        image.thumbnail((most, most), Image.Resampling.BILINEAR)
    return image


def _learnt(
    model: PictureModel, one: PictureInput, pictures: _Known, labels: list[str] | None, told: Preparation | None
) -> tuple[PictureFindings, Preparation, np.ndarray]:
    """What known pictures tell: how they are prepared, and what the model says of them."""

    def predict(inputs: list[np.ndarray]) -> np.ndarray:
        return model.predict({one.name: inputs}, None)

    def outputs_with(preparation: Preparation) -> np.ndarray:
        return predict([as_input(as_seen(image, preparation), preparation) for image in pictures.images])

    if model.found.task != "class":
        return PictureFindings(n_known=len(pictures.images)), one.preparation, outputs_with(one.preparation)
    classes = list(labels or model.found.classes or [])
    folders = sorted(set(pictures.outcomes))
    if not set(folders) <= set(classes):
        if len(folders) != len(classes) or not all(name.isdigit() for name in classes):
            raise MismatchFaults(
                [
                    Fault(
                        "known",
                        f"The folders are called {_listed(folders)}; the model's classes {_listed(classes)}. Name the "
                        "folders after the classes.",
                    )
                ]
            )
        # Training scripts that read folders number them in the order of the alphabet.
        classes = folders
    places = [classes.index(outcome) for outcome in pictures.outcomes]
    tries = guess_preparation(
        one.preparation, one.stated, pictures.images, places, predict, also=told, tells_scale=one.tells_scale
    )
    taken = told or tries[0].preparation
    outputs = outputs_with(taken)
    right = int((outputs.argmax(axis=1) == np.array(places)).sum())
    return PictureFindings(tries=tries, n_known=len(places), n_right=right), taken, outputs


def _preparation_question(
    model: PictureModel,
    inputs: Sequence[PictureInput],
    prepared: Sequence[Preparation],
    findings: PictureFindings,
    told: Mapping[str, Preparation],
) -> list[Question]:
    """That how pictures are prepared is a guess, unless model, author or known pictures say it."""
    if len(told) == len(inputs) or all(one.stated >= STATED_BY_A_MODEL for one in inputs):
        return []
    if is_borne_out(findings.tries, len(model.found.classes or [])):
        return []
    words = "; ".join(map(preparation_words, prepared))
    if findings.tries:
        best, *others = findings.tries
        as_likely = any(one.is_as_likely for one in others)
        why = ", and others are as likely by them." if as_likely else ": that bears out none of them."
        tried = f" Of {best.n_tried} known pictures the best of all ways tried gets {best.n_right} right{why}"
    else:
        tried = " Try it on pictures whose class is known, or set what your training script did."
    says = "The model does not say what it was trained with."
    if all(one.tells_scale for one in inputs):
        says = "Numbers in the model tell the scale of the pixels, and nothing of the rest."
    text = f"How pictures are prepared is a guess: {words}. {says}{tried}"
    return [Question(name="preparation", text=text)]


def _truths(pictures: _Known, inspection: Inspection) -> np.ndarray:
    """The class's place or the number of each known picture; NaN where its folder says neither."""
    outcomes = pd.Series(pictures.outcomes)
    if isinstance(inspection.answer, ClassSetting):
        names = [wording.name for wording in inspection.answer.classes]
        return class_places(outcomes, inspection.found, names, inspection.outcome_words)
    return pd.to_numeric(outcomes, errors="coerce").to_numpy(dtype="float64")


def _evidence(truths: np.ndarray, outputs: np.ndarray, inspection: Inspection) -> Evidence | None:
    has = np.isfinite(truths) & np.isfinite(outputs).all(axis=1)
    if not has.any():
        return None
    if inspection.found.task == "class":
        return weigh_classes(outputs[has], truths[has].astype("int64"))
    return weigh_numbers(outputs[has, 0], truths[has])


def _kept_rows_of(table: pd.DataFrame | None, inspection: Inspection, names: list[str]) -> KeptRows:
    if not names:
        return KeptRows(columns={})
    rows = drawn_rows(table, names, [])
    outcomes = None
    if inspection.target is not None:
        outcomes = [plain_value(value) for value in rows[inspection.target]]
    return KeptRows(columns={name: [plain_value(value) for value in rows[name]] for name in names}, outcomes=outcomes)


def _label(name: str) -> str:
    words = name.replace("_", " ").strip()
    return LABEL if name == FIELD_NAME else words[:1].upper() + words[1:]


def _listed(names: Sequence[str]) -> str:
    return ", ".join(f"`{name}`" for name in names[:8]) + (" …" if len(names) > 8 else "")
