"""Options into numbers."""

import numpy as np
from sklearn.preprocessing import OneHotEncoder, OrdinalEncoder, TargetEncoder

from ....fields.kinds import Scalar
from ....plan.building import Block, Builder, CannotCompile, Raw, RawColumn, plain_scalar
from .registry import Value, transformer

__all__: list[str] = []


def _columns(builder: Builder, value: Value) -> list[RawColumn | Block]:
    """Each column by itself: as it comes in, or as the numbers another step made of it."""
    if isinstance(value, Raw):
        return list(value.columns)
    return [builder.column(value, at) for at in range(value.width)]


def _codes(
    builder: Builder, column: RawColumn | Block, categories: list[Scalar | None], *, refuse_unknown: bool
) -> Block:
    if isinstance(column, RawColumn):
        return builder.codes(column, categories, refuse_unknown=refuse_unknown)
    if any(isinstance(category, str) for category in categories):
        raise CannotCompile("Options in words of numbers that another step made have no compiled form.")
    settings = {"categories": categories, "refuse_unknown": refuse_unknown}
    return builder.step("codes_of_numbers", 1, inputs=[column], settings=settings)


@transformer(OneHotEncoder)
def _one_hot(builder: Builder, encoder: OneHotEncoder, value: Value) -> Block:
    parts = []
    for at, column in enumerate(_columns(builder, value)):
        categories = [plain_scalar(category) for category in encoder.categories_[at]]
        places, width = _one_hot_places(encoder, at, len(categories))
        codes = _codes(builder, column, categories, refuse_unknown=encoder.handle_unknown == "error")
        if encoder.handle_unknown == "infrequent_if_exist" and encoder.infrequent_categories_[at] is not None:
            codes = _unknown_as_infrequent(builder, encoder, at, codes, len(categories))
        if width:
            parts.append(builder.step("one_hot", width, inputs=[codes], settings={"places": places, "width": width}))
    if not parts:
        raise CannotCompile("`OneHotEncoder` makes no columns.")
    return builder.join(parts)


def _one_hot_places(encoder: OneHotEncoder, at: int, n_categories: int) -> tuple[list[int], int]:
    """The output column of each category, −1 where it has none, and how many columns there are."""
    mappings = getattr(encoder, "_default_to_infrequent_mappings", None)
    grouped = mappings[at] if mappings is not None else None
    places = list(range(n_categories)) if grouped is None else [int(place) for place in grouped]
    width = max(places) + 1
    dropped = None if encoder.drop_idx_ is None else encoder.drop_idx_[at]
    if dropped is not None:
        # `drop_idx_` counts categories as fitted; what leaves is the column they were grouped into.
        gone = places[int(dropped)]
        places = [-1 if place == gone else place - (place > gone) for place in places]
        width -= 1
    return places, width


def _unknown_as_infrequent(builder: Builder, encoder: OneHotEncoder, at: int, codes: Block, n_categories: int) -> Block:
    """An unknown value counts as the first of the infrequent ones."""
    first = [plain_scalar(category) for category in encoder.categories_[at]].index(
        plain_scalar(encoder.infrequent_categories_[at][0])
    )
    table = np.array([[float(code)] for code in [*range(n_categories), first]])
    return builder.step("lookup", 1, inputs=[codes], arrays={"table": table})


@transformer(OrdinalEncoder)
def _ordinal(builder: Builder, encoder: OrdinalEncoder, value: Value) -> Block:
    parts = []
    grouped = getattr(encoder, "_default_to_infrequent_mappings", None)
    unknown = encoder.unknown_value if encoder.handle_unknown == "use_encoded_value" else np.nan
    for at, column in enumerate(_columns(builder, value)):
        categories = [plain_scalar(category) for category in encoder.categories_[at]]
        places = range(len(categories)) if grouped is None or grouped[at] is None else grouped[at]
        values = [
            float(encoder.encoded_missing_value) if category is None else float(place)
            for place, category in zip(places, categories, strict=True)
        ]
        table = np.array([[item] for item in [*values, float(unknown)]])
        codes = _codes(builder, column, categories, refuse_unknown=encoder.handle_unknown == "error")
        parts.append(builder.step("lookup", 1, inputs=[codes], arrays={"table": table}))
    return builder.join(parts)


@transformer(TargetEncoder)
def _target(builder: Builder, encoder: TargetEncoder, value: Value) -> Block:
    parts = []
    n_classes = len(encoder.classes_) if encoder.target_type_ == "multiclass" else 1
    mean = np.broadcast_to(np.asarray(encoder.target_mean_, dtype="float64"), (n_classes,))
    for at, column in enumerate(_columns(builder, value)):
        categories = [plain_scalar(category) for category in encoder.categories_[at]]
        # One table a column: a row for each option, the mean for whatever is none of them.
        own = encoder.encodings_[at * n_classes : (at + 1) * n_classes]
        table = np.vstack([np.column_stack(own), mean])
        codes = _codes(builder, column, categories, refuse_unknown=False)
        parts.append(builder.step("lookup", n_classes, inputs=[codes], arrays={"table": table}))
    return builder.join(parts)
