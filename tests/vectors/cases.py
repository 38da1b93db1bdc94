"""A small model for each operation, and rows that are awkward for it."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from plain_window.core.plan.plan import Input, Plan, Step

NUMBERS = [-2.5, -1.0, -0.5, 0.0, 1e-36, 0.3, 0.5, 1.0, 1.5, 2.0, 7.25, 1e6, None]
MORE = [3.0, -1.0, 0.0, 0.25, 2.5, -7.5, 1e-3, 0.5, 12.0, 4.0, -0.125, 2.0, 1.0]
POSITIVE = [0.01, 0.3, 0.5, 0.999, 1.0, 1.5, 2.0, 5.0, 27.0, 1e3, 1e9, 0.125, None]
SHARES = [0.0, 1e-9, 1e-4, 0.02, 0.2, 0.4999, 0.5, 0.77, 0.9, 0.99, 1 - 1e-9, 1.0, None]
CLAYS = ["stoneware", "porcelain", "", None, "earthenware", "raku"]
LOGS = [
    "Cone 6 held 20 min; Töpfe cracked",
    "KILN kiln Kiln",
    "",
    None,
    "naïve café — glaze’s crawl  \t pinholes",
    "x y zz 12 12 ɸ_1 ǆ",
    "İstanbul ß ΣΑΣ",
    "a\u0301 e\u0302\u0323 ﬁ ²",
    "粘土 と 釉薬 🏺🏺 pots",
]
ELEMENTWISE = [
    "float32", "is_missing", "exp", "log1p", "expm1", "log", "log2", "log10", "sqrt", "cbrt", "square",
    "absolute", "negative", "reciprocal", "sin", "cos", "tan", "tanh", "arctan", "floor", "ceil", "rint",
    "sign", "signed_square", "sigmoid", "softmax", "share", "share_or_even", "share_l1", "share_l2",
    "share_max", "largest", "log_counts",
]  # fmt: skip
WITH_VECTOR = ["add", "subtract", "multiply", "divide", "at_least", "at_most", "power", "above", "fill", "yeo_johnson"]


@dataclass(frozen=True)
class Case:
    """A model, and rows for it."""

    name: str
    plan: Plan
    columns: dict[str, list[Any]]


def cases() -> Iterator[Case]:
    """All of them; what one is about is its last step."""
    yield from _of_numbers()
    yield from _of_shapes()
    yield from _of_options()
    yield from _of_distances()
    yield from _of_votes()
    yield from _of_trees()
    yield from _of_texts()


def _made(
    name: str,
    op: str,
    columns: dict[str, list[Any]],
    *,
    width: int,
    arrays: dict[str, Any] | None = None,
    before: list[Step] | None = None,
    inputs: list[str] | None = None,
    **settings: Any,
) -> Case:
    """The columns as one block of numbers, then the operation."""
    first = [Step(op="numbers", out="x", width=len(columns), settings={"columns": list(columns)})]
    made = {part: np.asarray(array) for part, array in (arrays or {}).items()}
    last = Step(
        op=op,
        out="y",
        width=width,
        inputs=inputs or ["x"],
        arrays={part: part for part in made},
        settings=settings,
    )
    names = [Input(name=one, kind="number") for one in columns]
    return Case(name, Plan(inputs=names, steps=[*(before or first), last], arrays=made), columns)


def _of_numbers() -> Iterator[Case]:
    two, three = {"a": NUMBERS, "b": MORE}, {"a": POSITIVE, "b": SHARES, "c": MORE}
    for op in ELEMENTWISE:
        yield _made(f"{op} of any numbers", op, two, width=2)
        yield _made(f"{op} of positive ones", op, three, width=3)
    wide = {f"c{at}": [float(np.sin(at * row + 1)) for row in range(4)] for at in range(23)}
    for op in ("softmax", "share_l2", "share"):
        yield _made(f"{op} of many", op, wide, width=23)
    for op in WITH_VECTOR:
        yield _made(op, op, two, width=2, arrays={"vector": [0.5, -1.5]})
    yield _made("power by whole numbers", "power", two, width=2, arrays={"vector": [2.0, -1.0]})
    yield _made("zero_as_missing", "zero_as_missing", two, width=2, arrays={"vector": [1.0, 0.0]})
    yield _made("numbers", "negative", {"a": [True, False, None, 3], "b": [1, 2, 3, -4]}, width=2)
    yield _made(
        "linear",
        "linear",
        three,
        width=2,
        arrays={"weights": [[0.1, 2.0], [-3.3, 0.7], [1e-3, 1.0]], "offset": [0.25, -7.0]},
    )
    yield _made("take", "take", three, width=4, places=[2, 0, 0, 1])
    yield _made("products", "products", three, width=3, arrays={"powers": [[2, 0, 1], [0, 0, 0], [1, 3, 1]]})
    yield _made("with_complement", "with_complement", {"a": SHARES}, width=2)
    yield _made("sign_class", "sign_class", {"a": NUMBERS}, width=2)
    halves = [Step(op="numbers", out=name, width=1, settings={"columns": [name]}) for name in ("a", "b")]
    yield _made("join", "join", two, width=3, before=halves, inputs=["a", "b", "a"])
    yield _made("sum", "sum", two, width=1, before=halves, inputs=["a", "b"], arrays={"weights": [0.3, -2.0]})


def _of_shapes() -> Iterator[Case]:
    a = {"a": NUMBERS}
    yield _made("bins", "bins", a, width=1, arrays={"edges": [-1.0, 0.0, 0.5, 0.5, 3.0]})
    breaks, coefficients = [-1.0, 0.0, 1.0], np.arange(18.0).reshape(3, 3, 2) / 7
    yield _made("pieces", "pieces", a, width=2, arrays={"breaks": breaks, "coefficients": coefficients})
    yield _made(
        "pieces that come again",
        "pieces",
        a,
        width=2,
        arrays={"breaks": breaks, "coefficients": coefficients},
        start=-1.0,
        period=2.5,
    )
    for distribution in ("uniform", "normal"):
        yield _made(
            f"quantiles, {distribution}",
            "quantiles",
            a,
            width=1,
            arrays={"quantiles": [-2.5, -1.0, 0.0, 0.0, 0.5, 2.0, 7.25], "references": np.linspace(0, 1, 7)},
            distribution=distribution,
        )
    line = {"x": [-1.0, 0.0, 0.5, 2.0], "y": [3.0, 1.0, 2.0, -5.0]}
    yield _made("interpolated", "interpolated", a, width=1, arrays=line)
    for power in (0.0, 0.7, 2.0, -1.3):
        yield _made(f"yeo_johnson by {power}", "yeo_johnson", a, width=1, arrays={"vector": [power]})
        yield _made(
            f"un_yeo_johnson by {power}",
            "un_yeo_johnson",
            {"a": [-0.7, -0.1, 0.0, 0.1, 0.5, 0.7, None]},
            width=1,
            arrays={"vector": [power]},
        )
        yield _made(f"box_cox by {power}", "box_cox", {"a": POSITIVE}, width=1, arrays={"vector": [power]})
        yield _made(
            f"un_box_cox by {power}",
            "un_box_cox",
            {"a": [-0.3, 0.0, 0.2, 0.5, None]},
            width=1,
            arrays={"vector": [power]},
        )
    yield _made(
        "normal_share", "normal_share", {"a": [*NUMBERS, -9.0, -5.0, -3.0, 0.9, 1.1, 3.5, 5.9, 27.0, 40.0]}, width=1
    )


def _of_options() -> Iterator[Case]:
    codes = Step(
        op="codes",
        out="x",
        width=1,
        settings={"columns": ["clay"], "categories": ["porcelain", "stoneware", None, "raku"]},
    )
    inputs = [Input(name="clay", kind="category")]
    lasts = {
        "codes": (codes.model_copy(update={"out": "y"}), {}),
        "one_hot": (
            Step(op="one_hot", out="y", width=3, inputs=["x"], settings={"places": [2, 0, -1, 1], "width": 3}),
            {},
        ),
        "lookup": (
            Step(op="lookup", out="y", width=2, inputs=["x"], arrays={"table": "table"}),
            {"table": np.arange(8.0).reshape(4, 2)},
        ),
    }
    for name, (last, arrays) in lasts.items():
        steps = [last] if name == "codes" else [codes, last]
        yield Case(name, Plan(inputs=inputs, steps=steps, arrays=arrays), {"clay": CLAYS})
    strict = {"columns": ["clay"], "categories": ["porcelain", "raku"], "refuse_unknown": True}
    plan = Plan(inputs=inputs, steps=[Step(op="codes", out="y", width=1, settings=strict)], arrays={})
    yield Case("codes that refuse strangers", plan, {"clay": ["porcelain", "raku"]})
    mixed = Step(op="codes", out="y", width=1, settings={"columns": ["fired"], "categories": [0, 1, "1", 2.5]})
    plan = Plan(inputs=[Input(name="fired", kind="category")], steps=[mixed], arrays={})
    yield Case("codes of several kinds", plan, {"fired": [True, False, 1, 1.0, "1", 2.5, None, float("nan")]})
    yield _made("codes_of_numbers", "codes_of_numbers", {"a": NUMBERS}, width=1, categories=[0, 1.5, None, -2.5])


def _of_distances() -> Iterator[Case]:
    two = {"a": [0.1, -1.0, 2.0, 0.5], "b": [1.0, 0.0, -2.0, 0.25]}
    rows, values = [[0.1, 1.0], [0.5, 0.5], [-1.0, 2.0], [0.5, 0.0]], [[1.0, 0.0], [0.0, 1.0], [0.5, 0.5], [2.0, 3.0]]
    for kernel in ("linear", "poly", "rbf", "sigmoid"):
        yield _made(
            f"kernel, {kernel}",
            "kernel",
            two,
            width=4,
            arrays={"rows": rows},
            kernel=kernel,
            gamma=0.7,
            coef0=0.3,
            degree=3,
        )
    for power in (1.0, 2.0, 3.0):
        for weights in ("uniform", "distance"):
            yield _made(
                f"neighbours, {weights}, by {power}",
                "neighbours",
                two,
                width=2,
                arrays={"rows": rows, "values": values},
                n_neighbours=3,
                power=power,
                weights=weights,
            )
    yield _made(
        "bells",
        "bells",
        two,
        width=2,
        arrays={"means": [[0.0, 1.0], [2.0, -1.0]], "variances": [[1.0, 0.5], [0.25, 3.0]], "priors": [0.4, 0.6]},
    )


def _of_votes() -> Iterator[Case]:
    three = {"a": [1.0, -0.5, 0.0, 2.0], "b": [-1.0, 0.5, 0.0, 3.0], "c": [0.25, -2.0, 0.0, -1.0]}
    for op in ("pair_votes", "pair_scores"):
        yield _made(op, op, three, width=3, n_classes=3)
    sides = {"slope": [-1.5, -0.5, -2.0], "shift": [0.1, -0.2, 0.0]}
    yield _made("pair_probabilities", "pair_probabilities", three, width=3, arrays=sides, n_classes=3)
    yield _made("weighted_median", "weighted_median", three, width=1, arrays={"weights": [0.5, 1.0, 0.75]})


def _of_trees() -> Iterator[Case]:
    # Two trees over two columns; in the second a node sends what is missing to the left.
    trees = {
        "roots": np.array([0, 5], "int32"),
        "feature": np.array([0, 1, -1, -1, -1, 1, -1, -1], "int32"),
        "threshold": np.array([0.5, 1.5, 0, 0, 0, -0.25, 0, 0]),
        "left": np.array([1, 3, 0, 1, 2, 6, 3, 4], "int32"),
        "missing_left": np.array([0, 1, 0, 0, 0, 1, 0, 0], "uint8"),
    }
    sets = {
        "set_of_node": np.array([-1, 0, -1, -1, -1, 1, -1, -1], "int32"),
        "set_starts": np.array([0, 3, 5], "int32"),
        "goes_left_sets": np.array([1, 0, 1, 0, 1], "uint8"),
        "strangers_left": np.array([0, 1], "uint8"),
    }
    columns = {"a": [0.0, 0.5, 0.75, None, -3.0, 9.0], "b": [0.0, 1.0, 2.0, 2.5, None, -1.0]}
    for kind, more in (("", {}), (" by sets", sets)):
        leaves = np.array([[0.1, 0.9], [0.3, 0.7], [1 / 3, 2 / 3], [0.25, 0.75], [0.0, 1.0]])
        yield _made(f"forest{kind}", "forest", columns, width=2, arrays={**trees, **more, "values": leaves})
        for is_single in (False, True):
            yield _made(
                f"boosted{kind}{', rounded' if is_single else ''}",
                "boosted",
                columns,
                width=2,
                arrays={
                    **trees,
                    **more,
                    "values": np.array([0.1, -0.7, 1 / 3, 2.5, -1e-3]),
                    "tree_output": np.array([1, 0], "int32"),
                    "start": np.array([0.5, -0.1]),
                },
                rate=0.1,
                is_single=is_single,
            )


def _of_texts() -> Iterator[Case]:
    words = [
        "kiln",
        "cone",
        "12",
        "töpfe",
        "topfe",
        "café",
        "cafe",
        "glaze",
        "min cracked",
        "min topfe",
        "зз",
        "粘土",
        "pots",
        "zz 12",
        "ss",
        "σας",
    ]
    signs = ["k", "ki", "kil", " k", "n ", "🏺", "🏺🏺", "fi", "fi ", "ﬁ", "2 ", "²", "é", "e", "  "]
    kinds = {
        "word": {"analyzer": "word", "terms": words, "pattern": r"(?u)\b\w\w+\b"},
        "words of letters": {"analyzer": "word", "terms": words, "pattern": r"[^\W\d_]{2,}"},
        "word in a group": {"analyzer": "word", "terms": words, "pattern": r"(\w+)[;’]?"},
        "char": {"analyzer": "char", "terms": signs, "pattern": ""},
        "char_wb": {"analyzer": "char_wb", "terms": signs, "pattern": ""},
    }
    for name, kind in kinds.items():
        for accents in (None, "ascii", "unicode"):
            usual = {"columns": ["log"], "lowercase": accents != "ascii", "accents": accents, "lengths": [1, 3]}
            settings = {**usual, "left_out": ["held"], "once": accents == "unicode", **kind}
            step = Step(op="count_terms", out="y", width=len(kind["terms"]), settings=settings)
            plan = Plan(inputs=[Input(name="log", kind="text")], steps=[step], arrays={})
            yield Case(f"count_terms: {name}, accents {accents}", plan, {"log": LOGS})
