"""Reads PMML 4.x: regression models, trees, and ensembles of them.

The parser refuses document types and entities altogether: no file of PMML needs them, and tricks do.
"""

from collections.abc import Iterator
from xml.etree.ElementTree import Element, ParseError

import defusedxml
import defusedxml.ElementTree

from ...errors import ModelNotOpened
from ...fields.kinds import Scalar
from .document import (
    DataField,
    Derived,
    Document,
    Ensemble,
    Model,
    Node,
    Predicate,
    Regression,
    Segment,
    Table,
    Target,
    Task,
    Term,
    Tree,
)

__all__ = ["read_pmml"]

# Deeper than any tree that was learned; a file nested deeper is made to hurt.
MAX_DEPTH = 400
NUMBER_TYPES = ("double", "float", "integer")
OPERATORS = (
    "lessThan", "lessOrEqual", "greaterThan", "greaterOrEqual", "equal", "notEqual", "isMissing", "isNotMissing"
)  # fmt: skip
PREDICTORS = ("NumericPredictor", "CategoricalPredictor", "PredictorTerm")
MODELS = ("RegressionModel", "GeneralRegressionModel", "TreeModel", "MiningModel")
OTHER_MODELS = (
    "AnomalyDetectionModel", "AssociationModel", "BaselineModel", "BayesianNetworkModel", "ClusteringModel",
    "GaussianProcessModel", "NaiveBayesModel", "NearestNeighborModel", "NeuralNetwork", "RuleSetModel", "Scorecard",
    "SequenceModel", "SupportVectorMachineModel", "TextModel", "TimeSeriesModel",
)  # fmt: skip


def read_pmml(content: bytes) -> Document:
    """The document in a file.

    Parameters
    ----------
    content : bytes
        The whole file.

    Raises
    ------
    ModelNotOpened
        With the reason in a sentence.
    """
    try:
        root = defusedxml.ElementTree.fromstring(content, forbid_dtd=True)
    except defusedxml.DefusedXmlException as error:
        raise ModelNotOpened(
            "The PMML file declares a document type or entities, which no model needs. Export it without them."
        ) from error
    except (ParseError, ValueError, LookupError) as error:
        raise ModelNotOpened(
            f"The PMML file is no well-formed XML: {error}. It was cut off or damaged; upload the whole file."
        ) from error
    _strip(root)
    if root.tag != "PMML":
        raise ModelNotOpened(f"The XML file holds `{root.tag}`, not PMML.")
    version = root.get("version", "")
    if not version.startswith("4"):
        raise ModelNotOpened(f"The PMML file is of version {version or 'unknown'}; versions 4.0 to 4.4 are read here.")
    try:
        return _Reader(root, version).document()
    except (KeyError, ValueError, AttributeError, StopIteration) as error:
        raise ModelNotOpened(f"The PMML file contradicts itself: {type(error).__name__}: {error}.") from error
    except RecursionError as error:
        raise ModelNotOpened("The PMML file is nested deeper than any model needs.") from error


def _strip(root: Element) -> None:
    """Names without the namespace, and no deeper than a model goes."""
    waiting = [(root, 0)]
    while waiting:
        element, depth = waiting.pop()
        if depth > MAX_DEPTH:
            raise ModelNotOpened("The PMML file is nested deeper than any model needs.")
        element.tag = element.tag.rpartition("}")[2]
        waiting += [(child, depth + 1) for child in element]


def _stated(item: Element, name: str) -> str:
    """An attribute that the standard asks for."""
    value = item.get(name)
    if value is None:
        raise ModelNotOpened(f"The PMML file has a `{item.tag}` without its `{name}`. Export the model again.")
    return value


def _child(item: Element, name: str) -> Element:
    """A part that the standard asks for."""
    child = item.find(name)
    if child is None:
        raise ModelNotOpened(f"The PMML file has a `{item.tag}` without a `{name}`. Export the model again.")
    return child


class _Reader:
    """Reads one document."""

    def __init__(self, root: Element, version: str) -> None:
        self._root = root
        self._version = version
        self._fields = {
            _stated(item, "name"): self._data_field(item) for item in root.iterfind("DataDictionary/DataField")
        }

    def document(self) -> Document:
        body = next((item for item in self._root if item.tag in MODELS), None)
        if body is None:
            other = next((item.tag for item in self._root if item.tag in OTHER_MODELS), None)
            what = f"a `{other}`" if other else "no model"
            raise ModelNotOpened(f"The PMML file holds {what}; regression models, trees and their ensembles are read.")
        model = self._model(body)
        shared = tuple(self._derived(item) for item in self._root.iterfind("TransformationDictionary/DerivedField"))
        application = self._root.find("Header/Application")
        name = "" if application is None else f"{application.get('name', '')} {application.get('version', '')}".strip()
        return Document(self._version, name, self._fields, shared, model, self._classes(model))

    def _classes(self, model: Model) -> tuple[str, ...]:
        if model.body.task != "class":
            return ()
        target = self._fields.get(model.target_name or "")
        stated = [str(value) for value in target.options] if target else []
        # Numbers of classes are written as they stand in the file.
        found = list(dict.fromkeys([*stated, *_categories(model)]))
        if len(found) < 2:
            raise ModelNotOpened("The PMML model classifies but names fewer than two classes.")
        return tuple(found)

    # --- fields -------------------------------------------------------------------------------------------------------

    def _data_field(self, item: Element) -> DataField:
        is_number = item.get("dataType") in NUMBER_TYPES
        is_category = item.get("optype") in ("categorical", "ordinal") or not is_number
        options = [
            _stated(value, "value") for value in item.iterfind("Value") if value.get("property") in (None, "valid")
        ]
        is_target_like = tuple(_value(text, item.get("dataType", "string")) for text in options)
        return DataField(_stated(item, "name"), is_number, is_category, is_target_like)

    def _typed(self, name: str, text: str) -> Scalar:
        """A value as the field has it."""
        known = self._fields.get(name)
        if known is None or known.is_number:
            try:
                number = float(text)
            except ValueError:
                return text
            return int(number) if number.is_integer() and known is not None and known.is_category else number
        return next((option for option in known.options if str(option) == text), text)

    def _derived(self, item: Element) -> Derived:
        return self._expression(_stated(item, "name"), next(child for child in item if child.tag != "Extension"))

    def _expression(self, name: str, item: Element) -> Derived:
        if item.tag == "FieldRef":
            return Derived(name, "same", (_stated(item, "field"),))
        if item.tag == "Constant":
            return Derived(name, "same", (float(item.text or "nan"),))
        if item.tag == "NormContinuous":
            points = tuple(
                (float(_stated(at, "orig")), float(_stated(at, "norm"))) for at in item.iterfind("LinearNorm")
            )
            return Derived(name, f"line:{item.get('outliers', 'asIs')}", (_stated(item, "field"),), points)
        if item.tag == "NormDiscrete":
            field = _stated(item, "field")
            return Derived(name, "is", (field,), option=self._typed(field, _stated(item, "value")))
        if item.tag == "Apply":
            arguments = tuple(self._argument(child) for child in item if child.tag != "Extension")
            return Derived(name, _stated(item, "function"), arguments)
        raise ModelNotOpened(f"The PMML file makes the field `{name}` by `{item.tag}`, which is not read here.")

    def _argument(self, item: Element) -> str | float | Derived:
        if item.tag == "FieldRef":
            return _stated(item, "field")
        return float(item.text or "nan") if item.tag == "Constant" else self._expression("", item)

    # --- models -------------------------------------------------------------------------------------------------------

    def _model(self, item: Element) -> Model:
        usage = {
            _stated(field, "name"): field.get("usageType", "active")
            for field in item.iterfind("MiningSchema/MiningField")
        }
        replaced = {
            _stated(field, "name"): self._typed(_stated(field, "name"), text)
            for field in item.iterfind("MiningSchema/MiningField")
            if (text := field.get("missingValueReplacement")) is not None
        }
        target = next((name for name, use in usage.items() if use in ("predicted", "target")), None)
        active = tuple(name for name, use in usage.items() if use == "active")
        derived = tuple(self._derived(part) for part in item.iterfind("LocalTransformations/DerivedField"))
        return Model(self._body(item), active, replaced, derived, _target(item), target)

    def _body(self, item: Element) -> Regression | Tree | Ensemble:
        task: Task = "class" if item.get("functionName") == "classification" else "number"
        if item.tag == "RegressionModel":
            return self._regression(item, task)
        if item.tag == "GeneralRegressionModel":
            return self._general_regression(item, task)
        if item.tag == "TreeModel":
            root = self._node(_child(item, "Node"))
            return Tree(
                task,
                root,
                item.get("missingValueStrategy", "none"),
                item.get("noTrueChildStrategy", "returnNullPrediction"),
            )
        segmentation = item.find("Segmentation") if item.tag == "MiningModel" else None
        if segmentation is not None:
            parts = tuple(self._segment(part) for part in segmentation.iterfind("Segment"))
            if not parts:
                raise ModelNotOpened("The PMML file's ensemble has no models in it.")
            return Ensemble(task, _stated(segmentation, "multipleModelMethod"), parts)
        raise ModelNotOpened(f"The PMML file's `{item.tag}` is not read here.")

    def _segment(self, item: Element) -> Segment:
        body = next((part for part in item if part.tag in MODELS), None)
        if body is None:
            raise ModelNotOpened(f"The PMML file's ensemble holds a `{item[-1].tag}`, which is not read here.")
        outputs = tuple(
            (_stated(part, "name"), part.get("feature", "predictedValue"), part.get("value"))
            for part in body.iterfind("Output/OutputField")
        )
        predicate = next(part for part in item if part.tag not in ("Extension", *MODELS))
        return Segment(self._predicate(predicate), self._model(body), float(item.get("weight", "1")), outputs)

    def _regression(self, item: Element, task: Task) -> Regression:
        tables = [
            Table(
                float(table.get("intercept", "0")),
                tuple(self._term(part) for part in table if part.tag in PREDICTORS),
                table.get("targetCategory"),
            )
            for table in item.iterfind("RegressionTable")
        ]
        if not tables:
            raise ModelNotOpened("The PMML file's regression has no table of coefficients. Export the model again.")
        return Regression(task, item.get("normalizationMethod", "none"), tuple(tables))

    def _term(self, part: Element) -> Term:
        coefficient = float(_stated(part, "coefficient"))
        if part.tag == "NumericPredictor":
            return Term(coefficient, ((_stated(part, "name"), float(part.get("exponent", "1"))),))
        if part.tag == "CategoricalPredictor":
            name = _stated(part, "name")
            return Term(coefficient, options=((name, self._typed(name, _stated(part, "value"))),))
        return Term(coefficient, tuple((_stated(ref, "field"), 1.0) for ref in part.iterfind("FieldRef")))

    def _general_regression(self, item: Element, task: Task) -> Regression:
        factors = {_stated(part, "name") for part in item.iterfind("FactorList/Predictor")}
        cells: dict[str, list[tuple[str, str]]] = {}
        for part in item.iterfind("PPMatrix/PPCell"):
            own_cells = cells.setdefault(_stated(part, "parameterName"), [])
            own_cells.append((_stated(part, "predictorName"), _stated(part, "value")))
        sums: dict[str | None, list[Term]] = {}
        for part in item.iterfind("ParamMatrix/PCell"):
            own = cells.get(_stated(part, "parameterName"), [])
            powers = tuple((name, float(value)) for name, value in own if name not in factors)
            options = tuple((name, self._typed(name, value)) for name, value in own if name in factors)
            sums.setdefault(part.get("targetCategory"), []).append(Term(float(_stated(part, "beta")), powers, options))
        kind = item.get("modelType")
        if kind in ("CoxRegression", "ordinalMultinomial"):
            raise ModelNotOpened(f"The PMML file's general regression is of the kind `{kind}`, which is not read here.")
        tables = tuple(Table(0.0, tuple(terms), category) for category, terms in sums.items())
        if task == "class":
            link = "softmax" if kind == "multinomialLogistic" else item.get("linkFunction", "logit")
            return Regression("class", link, tables, reference=self._reference(item, tables))
        link = item.get("linkFunction", "identity") if kind == "generalizedLinear" else "identity"
        return Regression("number", f"inverse:{link}", tables, exponent=float(item.get("linkParameter", "1")))

    def _reference(self, item: Element, tables: tuple[Table, ...]) -> str | None:
        stated = item.get("targetReferenceCategory")
        if stated is not None:
            return stated
        name = next(
            _stated(field, "name")
            for field in item.iterfind("MiningSchema/MiningField")
            if field.get("usageType") in ("predicted", "target")
        )
        named = {table.category for table in tables}
        left = [str(option) for option in self._fields[name].options if str(option) not in named]
        return left[0] if left else None

    # --- trees --------------------------------------------------------------------------------------------------------

    def _node(self, item: Element) -> Node:
        shares = {
            _stated(part, "value"): float(part.get("probability") or _stated(part, "recordCount"))
            for part in item.iterfind("ScoreDistribution")
        }
        predicate = next(part for part in item if part.tag in _PREDICATES)
        return Node(
            self._predicate(predicate),
            item.get("score"),
            shares,
            tuple(self._node(child) for child in item.iterfind("Node")),
            item.get("id"),
            item.get("defaultChild"),
        )

    def _predicate(self, item: Element) -> Predicate:
        if item.tag in ("True", "False"):
            return Predicate(item.tag.lower())
        if item.tag == "SimplePredicate":
            name, operator = _stated(item, "field"), _stated(item, "operator")
            if operator not in OPERATORS:
                raise ModelNotOpened(f"The PMML file compares by `{operator}`, which is not known.")
            text = item.get("value")
            if text is None and operator not in ("isMissing", "isNotMissing"):
                raise ModelNotOpened(f"The PMML file compares `{name}` by `{operator}` with nothing.")
            return Predicate(operator, name, () if text is None else (self._typed(name, text),))
        if item.tag == "SimpleSetPredicate":
            name = _stated(item, "field")
            listed = tuple(self._typed(name, text) for text in _strings(_child(item, "Array").text or ""))
            return Predicate(_stated(item, "booleanOperator"), name, listed)
        if item.tag == "CompoundPredicate":
            parts = tuple(self._predicate(part) for part in item if part.tag in _PREDICATES)
            return Predicate(_stated(item, "booleanOperator"), parts=parts)
        raise ModelNotOpened(f"The PMML file asks by `{item.tag}`, which is not read here.")


_PREDICATES = ("True", "False", "SimplePredicate", "SimpleSetPredicate", "CompoundPredicate")


def _value(text: str, type_: str) -> Scalar:
    if type_ == "boolean":
        return text == "true"
    if type_ == "integer":
        return int(float(text))
    return float(text) if type_ in NUMBER_TYPES else text


def _strings(text: str) -> Iterator[str]:
    """The items of an array: parted by spaces, in quotes where they hold some."""
    item, quoted = "", False
    for at, sign in enumerate(text):
        escaped = at > 0 and text[at - 1] == "\\"
        if sign == '"' and not escaped:
            if quoted:
                yield item
                item = ""
            quoted = not quoted
        elif sign.isspace() and not quoted:
            if item:
                yield item
            item = ""
        else:
            item = item[:-1] + sign if sign == '"' else item + sign
    if item:
        yield item


def _target(item: Element) -> Target:
    found = item.find("Targets/Target")
    if found is None:
        return Target()
    low, high = (found.get(name) for name in ("min", "max"))
    return Target(
        float(found.get("rescaleFactor", "1")),
        float(found.get("rescaleConstant", "0")),
        None if low is None else float(low),
        None if high is None else float(high),
        found.get("castInteger"),
    )


def _categories(model: Model) -> Iterator[str]:
    """The classes a model speaks of, as they come."""
    body = model.body
    if isinstance(body, Regression):
        yield from (table.category for table in body.tables if table.category is not None)
        if body.reference is not None:
            yield body.reference
    elif isinstance(body, Tree):
        waiting = [body.root]
        while waiting:
            node = waiting.pop(0)
            yield from node.shares
            if node.score is not None:
                yield node.score
            waiting += node.children
    else:
        for segment in body.segments:
            if segment.model.body.task == "class":
                yield from _categories(segment.model)
