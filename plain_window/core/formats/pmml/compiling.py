"""PMML models into steps.

Trees are compiled where each question has two answers that leave nothing open: a number against a threshold, an option
among options. Everything else is served by asking the model directly, and the author is told what stood in the way.
"""

from collections.abc import Mapping, Sequence

import numpy as np

from ...fields.kinds import Scalar
from ...plan.building import Block, Builder, CannotCompile, Raw, RawColumn
from ...plan.trees import CategorySet, renumbered, tree_arrays
from ...plan.trees import Tree as TreeNodes
from .document import DataField, Document, Ensemble, Model, Node, Predicate, Regression, Target, Tree

__all__ = ["compile_pmml"]

Powers = tuple[tuple[str, float], ...]
Options = tuple[tuple[str, Scalar], ...]
BELOW = {"lessThan": "greaterOrEqual", "lessOrEqual": "greaterThan"}
ABOVE = {other: below for below, other in BELOW.items()}
LINKS = {"logit": "sigmoid", "softmax": "sigmoid", "exp": "exp", "log": "exp"}


def compile_pmml(builder: Builder, document: Document, value: Raw | Block) -> Block:
    """What the model of `document` says of raw columns.

    Parameters
    ----------
    builder : Builder
        Steps are added to it.
    document : Document
        A PMML document.
    value : Raw or Block
        What came before the model.

    Raises
    ------
    CannotCompile
    """
    if not isinstance(value, Raw):
        raise CannotCompile("A PMML model behind a preprocessor has no compiled form yet.")
    if document.derived:
        raise CannotCompile("PMML models that derive fields have no compiled form yet.")
    columns = {column.name: column for column in value.columns}
    return _Compiler(builder, document, columns).model(document.model)


class _Compiler:
    """Compiles one document."""

    def __init__(self, builder: Builder, document: Document, columns: Mapping[str, RawColumn]) -> None:
        self._builder = builder
        self._fields: Mapping[str, DataField] = document.fields
        self._classes = list(document.classes)
        self._columns = dict(columns)

    def model(self, model: Model) -> Block:
        """The block of a model's answers."""
        if model.derived:
            raise CannotCompile("PMML models that derive fields have no compiled form yet.")
        outer = self._columns
        self._columns = {
            name: RawColumn(name, model.replacements.get(name, column.fill)) for name, column in outer.items()
        }
        block = self._body(model.body)
        self._columns = outer
        return self._finished(block, model) if model.body.task == "number" else block

    def _body(self, body: Regression | Tree | Ensemble) -> Block:
        if isinstance(body, Regression):
            return self._regression(body)
        return self._forest([body], votes=False, weights=[1.0]) if isinstance(body, Tree) else self._ensemble(body)

    def _finished(self, block: Block, model: Model) -> Block:
        target = model.target
        if target.whole:
            raise CannotCompile("PMML targets that are rounded have no compiled form yet.")
        if target.low is not None:
            block = self._builder.vector("at_least", block, target.low)
        if target.high is not None:
            block = self._builder.vector("at_most", block, target.high)
        if target.factor != 1:
            block = self._builder.vector("multiply", block, target.factor)
        return self._builder.vector("add", block, target.constant) if target.constant else block

    # --- regression ---------------------------------------------------------------------------------------------------

    def _regression(self, model: Regression) -> Block:
        terms = list(dict.fromkeys((term.powers, term.options) for table in model.tables for term in table.terms))
        products = self._products(terms)
        weights = np.zeros((max(len(terms), 1), len(model.tables)))
        for at, table in enumerate(model.tables):
            for term in table.terms:
                weights[terms.index((term.powers, term.options)), at] += term.coefficient
        sums = self._builder.linear(products, weights, np.array([table.intercept for table in model.tables]))
        return self._numbered(model, sums) if model.task == "number" else self._shared(model, sums)

    def _products(self, terms: Sequence[tuple[Powers, Options]]) -> Block:
        """One column a term: a product of powers and of options that hold."""
        names = list(dict.fromkeys(name for powers, _ in terms for name, _ in powers))
        options = list(dict.fromkeys(option for _, own in terms for option in own))
        parts: list[Raw | Block] = []
        if names:
            parts.append(Raw(tuple(self._columns[name] for name in names)))
        parts += [self._is(name, option) for name, option in options]
        if not parts:
            raise CannotCompile("A PMML regression without any term ignores what it is given.")
        exponents = np.zeros((len(terms), len(names) + len(options)), dtype="int64")
        for row, (powers, own) in enumerate(terms):
            for name, power in powers:
                if power != int(power) or power < 0:
                    raise CannotCompile(f"A PMML regression with the power {power:g} has no compiled form yet.")
                exponents[row, names.index(name)] += int(power)
            for option in own:
                exponents[row, len(names) + options.index(option)] += 1
        inputs = [self._builder.join(parts)]
        return self._builder.step("products", len(terms), inputs=inputs, arrays={"powers": exponents})

    def _is(self, name: str, option: Scalar) -> Block:
        """1 where a column has this option."""
        codes = self._codes(name, [option])
        return self._builder.step("one_hot", 1, inputs=[codes], settings={"places": [0], "width": 1})

    def _codes(self, name: str, categories: list[Scalar]) -> Block:
        return self._builder.codes(self._columns[name], categories)

    def _numbered(self, model: Regression, sums: Block) -> Block:
        link = model.link.removeprefix("inverse:")
        if link in ("none", "identity"):
            return sums
        if link not in LINKS or (link == "log") != (model.link == "inverse:log"):
            raise CannotCompile(f"A PMML regression with the link `{link}` has no compiled form yet.")
        return self._builder.each(LINKS[link], sums)

    def _shared(self, model: Regression, sums: Block) -> Block:
        names = [table.category for table in model.tables]
        if model.reference is not None:
            names.append(model.reference)
            sums = self._builder.linear(sums, np.eye(sums.width, len(names)))
        if model.link == "softmax":
            return self._in_class_order(self._builder.each("softmax", sums), names)
        if model.link != "logit" or len(names) != 2:
            raise CannotCompile(f"A PMML classifier with the link `{model.link}` has no compiled form yet.")
        first = self._builder.each("sigmoid", self._builder.column(sums, 0))
        both = self._builder.linear(first, np.array([[1.0, -1.0]]), np.array([0.0, 1.0]))
        return self._in_class_order(both, names)

    def _in_class_order(self, block: Block, names: Sequence[str | None]) -> Block:
        return self._builder.take(block, [list(names).index(name) for name in self._classes])

    # --- trees --------------------------------------------------------------------------------------------------------

    def _ensemble(self, ensemble: Ensemble) -> Block:
        if any(segment.predicate.operator != "true" for segment in ensemble.segments):
            raise CannotCompile("A PMML ensemble whose models are asked for some rows only has no compiled form yet.")
        method = ensemble.method
        is_weighted = method.startswith("weighted")
        weights = [segment.weight if is_weighted else 1.0 for segment in ensemble.segments]
        plain = ("average", "weightedAverage", "majorityVote", "weightedMajorityVote", "sum", "weightedSum")
        if method not in plain:
            raise CannotCompile(f"A PMML ensemble joined by `{method}` has no compiled form yet.")
        models = [segment.model for segment in ensemble.segments]
        votes = "ajorityVote" in method
        trees = [tree for model in models if (tree := self._plain_tree(model)) is not None]
        if len(trees) == len(models):
            mean = self._forest(trees, votes=votes, weights=weights)
        else:
            parts = [self.model(model) for model in models]
            mean = self._builder.mean(
                [self._builder.each("largest", part) if votes else part for part in parts], weights
            )
        return self._builder.vector("multiply", mean, float(sum(weights))) if "um" in method else mean

    @staticmethod
    def _plain_tree(model: Model) -> Tree | None:
        """The tree, where nothing is done before or after it."""
        is_bare = not model.replacements and not model.derived and model.target == Target()
        return model.body if is_bare and isinstance(model.body, Tree) else None

    def _forest(self, trees: Sequence[Tree], *, votes: bool, weights: Sequence[float]) -> Block:
        features = _Features(self._fields)
        ordered = [self._nodes(tree, features, votes=votes) for tree in trees]
        arrays, leaves = tree_arrays([nodes for nodes, _ in ordered])
        scale = len(trees) / float(sum(weights))
        picked = [
            values[own] * weight * scale for (_, values), own, weight in zip(ordered, leaves, weights, strict=True)
        ]
        arrays["values"] = np.ascontiguousarray(np.concatenate(picked))
        parts: list[Raw | Block] = []
        for name, categories in features.listed():
            column = self._columns[name]
            parts.append(Raw((column,)) if categories is None else self._codes(name, categories))
        if not parts:
            raise CannotCompile("A PMML tree without any question ignores what it is given.")
        return self._builder.step(
            "forest", arrays["values"].shape[1], inputs=[self._builder.join(parts)], arrays=arrays
        )

    def _nodes(self, tree: Tree, features: "_Features", *, votes: bool) -> tuple[TreeNodes, np.ndarray]:
        """A tree's nodes side by side, and what each says: (n_nodes, n_outputs)."""
        if tree.root.predicate.operator != "true":
            raise CannotCompile("A PMML tree that is asked for some rows only has no compiled form yet.")
        listed = [tree.root]
        questions: list[_Question | None] = []
        children: list[tuple[int, int]] = []
        for node in listed:
            questions.append(_question(node, tree, features) if node.children else None)
            children.append((len(listed), len(listed) + 1) if node.children else (-1, -1))
            listed += _left_first(node, features)
        values = np.array([self._says(tree, node, votes=votes) for node in listed])
        nodes = TreeNodes(
            is_leaf=np.array([question is None for question in questions]),
            feature=np.array([0 if question is None else question.feature for question in questions]),
            threshold=np.array([0.0 if question is None else question.threshold for question in questions]),
            left=np.array([left for left, _ in children]),
            right=np.array([right for _, right in children]),
            missing_left=np.array([question is not None and question.missing_left for question in questions]),
            sets={at: question.options for at, question in enumerate(questions) if question and question.options},
        )
        return renumbered(nodes, values)

    def _says(self, tree: Tree, node: Node, *, votes: bool) -> list[float]:
        if node.children:
            return [0.0] * (len(self._classes) if tree.task == "class" else 1)
        if tree.task == "number":
            return [float(node.score if node.score is not None else "nan")]
        shares = node.shares or {str(node.score): 1.0}
        if votes:
            best = max(shares, key=shares.__getitem__)
            shares = {best: 1.0}
        total = sum(shares.values())
        return [shares.get(name, 0.0) / total for name in self._classes]


class _Question:
    """What a node asks: a feature against a threshold, or whether its option is among some."""

    def __init__(self, feature: int, threshold: float, options: CategorySet | None, *, missing_left: bool) -> None:
        self.feature, self.threshold, self.options, self.missing_left = feature, threshold, options, missing_left


class _Features:
    """The columns trees ask about: numbers as they are, options as codes."""

    def __init__(self, fields: Mapping[str, DataField]) -> None:
        self._fields = fields
        self._places: dict[tuple[str, bool], int] = {}
        self._categories: dict[str, list[Scalar]] = {}

    def number(self, name: str) -> int:
        return self._places.setdefault((name, False), len(self._places))

    def options(self, name: str) -> tuple[int, list[Scalar]]:
        field = self._fields.get(name)
        known = self._categories.setdefault(name, list(field.options) if field else [])
        return self._places.setdefault((name, True), len(self._places)), known

    def listed(self) -> list[tuple[str, list[Scalar] | None]]:
        """Name and, for options, the categories of each, in the order of their places."""
        return [(name, self._categories[name] if by_option else None) for name, by_option in self._places]


def _main(predicate: Predicate) -> Predicate:
    """The question itself, without those that stand in where a value is missing."""
    return predicate.parts[0] if predicate.operator == "surrogate" else predicate


def _left_first(node: Node, features: _Features) -> list[Node]:
    """The two children, the one that is entered at or below the threshold (or by an option of the set) first."""
    if not node.children:
        return []
    return list(node.children) if _opens_left(_main(node.children[0].predicate)) else list(reversed(node.children))


def _opens_left(predicate: Predicate) -> bool:
    return predicate.operator in ("lessThan", "lessOrEqual", "isIn", "equal")


def _question(node: Node, tree: Tree, features: _Features) -> _Question:
    if len(node.children) != 2:
        raise CannotCompile("A PMML tree with more or fewer than two branches at a node has no compiled form yet.")
    first, second = (_main(child.predicate) for child in node.children)
    if not _are_opposites(first, second, features):
        raise CannotCompile("A PMML tree whose branches leave something open has no compiled form yet.")
    left, right = _left_first(node, features)
    asked = _main(left.predicate) if _opens_left(_main(left.predicate)) else _turned(_main(right.predicate))
    missing_left = tree.missing == "defaultChild" and left.id is not None and left.id == node.default_child
    if asked.operator in ("lessThan", "lessOrEqual"):
        threshold = float(asked.values[0])
        if asked.operator == "lessThan":
            threshold = float(np.nextafter(threshold, -np.inf))
        return _Question(features.number(asked.name), threshold, None, missing_left=missing_left)
    feature, known = features.options(asked.name)
    known += [value for value in asked.values if value not in known]
    goes_left = np.array([value in asked.values for value in known], dtype="uint8")
    return _Question(feature, 0.0, CategorySet(goes_left, strangers_left=False), missing_left=missing_left)


def _turned(predicate: Predicate) -> Predicate:
    """The opposite question."""
    turned = {**ABOVE, **BELOW, "isNotIn": "isIn", "notEqual": "equal", "isIn": "isNotIn", "equal": "notEqual"}
    if predicate.operator not in turned:
        raise CannotCompile(f"A PMML tree that asks by `{predicate.operator}` has no compiled form yet.")
    return type(predicate)(turned[predicate.operator], predicate.name, predicate.values)


def _are_opposites(first: Predicate, second: Predicate, features: _Features) -> bool:
    """Whether exactly one of two holds, for every value that is there."""
    if second.operator == "true":
        return True
    if first.name != second.name or first.parts or second.parts:
        return False
    if _turned(first) == second:
        return True
    if {first.operator, second.operator} <= {"isIn", "equal"}:
        # Two lists of options that share none and leave none out.
        _, known = features.options(first.name)
        both = [*first.values, *second.values]
        return len(set(both)) == len(both) and set(both) >= set(known) and bool(known)
    return False
