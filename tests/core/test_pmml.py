"""PMML models: read by the words of the standard, compiled, and safe against hostile files."""

import io
import math

import numpy as np
import pandas as pd
import pytest

from plain_window.core.errors import ModelFailed, ModelNotOpened
from plain_window.core.formats.opening import open_model

from .plans import TABLE, read_twice

FIELDS = """
<DataDictionary>
  <DataField name="kwh" optype="continuous" dataType="double"/>
  <DataField name="outcome" optype="categorical" dataType="string">
    <Value value="red"/><Value value="green"/>
  </DataField>
  <DataField name="kiln" optype="categorical" dataType="string">
    <Value value="electric"/><Value value="gas"/><Value value="wood"/>
  </DataField>
  <DataField name="pots" optype="continuous" dataType="integer"/>
  <DataField name="peak" optype="continuous" dataType="double"/>
</DataDictionary>
"""


def schema(target: str, more: str = "") -> str:
    names = "".join(f'<MiningField name="{name}"/>' for name in ("kiln", "pots", "peak"))
    return f'<MiningSchema><MiningField name="{target}" usageType="predicted"/>{names}{more}</MiningSchema>'


def pmml(body: str, *, version: str = "4.2", fields: str = FIELDS) -> bytes:
    header = '<Header><Application name="made up" version="1.4"/></Header>'
    space = "http://www.dmg.org/PMML-" + version.replace(".", "_")
    return f'<?xml version="1.0"?><PMML version="{version}" xmlns="{space}">{header}{fields}{body}</PMML>'.encode()


LINEAR = f"""
<RegressionModel functionName="regression" modelName="lm">{schema("kwh")}
  <RegressionTable intercept="12.5">
    <NumericPredictor name="pots" exponent="1" coefficient="2.25"/>
    <NumericPredictor name="peak" exponent="2" coefficient="0.0001"/>
    <CategoricalPredictor name="kiln" value="wood" coefficient="30"/>
    <PredictorTerm coefficient="0.001"><FieldRef field="pots"/><FieldRef field="peak"/></PredictorTerm>
  </RegressionTable>
</RegressionModel>"""
LOGISTIC = f"""
<GeneralRegressionModel functionName="classification" modelType="generalizedLinear" linkFunction="logit"
    targetReferenceCategory="green">{schema("outcome")}
  <ParameterList><Parameter name="p0" label="(Intercept)"/><Parameter name="p1"/><Parameter name="p2"/></ParameterList>
  <FactorList><Predictor name="kiln"/></FactorList><CovariateList><Predictor name="pots"/></CovariateList>
  <PPMatrix>
    <PPCell value="gas" predictorName="kiln" parameterName="p1"/>
    <PPCell value="1" predictorName="pots" parameterName="p2"/>
  </PPMatrix>
  <ParamMatrix>
    <PCell targetCategory="red" parameterName="p0" beta="-1.5"/>
    <PCell targetCategory="red" parameterName="p1" beta="0.8"/>
    <PCell targetCategory="red" parameterName="p2" beta="0.03"/>
  </ParamMatrix>
</GeneralRegressionModel>"""
MULTINOMIAL = f"""
<RegressionModel functionName="classification" normalizationMethod="softmax">{schema("outcome")}
  <RegressionTable intercept="0.5" targetCategory="red">
    <NumericPredictor name="pots" coefficient="0.02"/></RegressionTable>
  <RegressionTable intercept="0" targetCategory="green"/>
</RegressionModel>"""


def split(name: str, operator: str, value: str) -> str:
    return f'<SimplePredicate field="{name}" operator="{operator}" value="{value}"/>'


def among(name: str, operator: str, *values: str) -> str:
    listed = " ".join(f'"{value}"' for value in values)
    array = f'<Array n="{len(values)}" type="string">{listed}</Array>'
    return f'<SimpleSetPredicate field="{name}" booleanOperator="{operator}">{array}</SimpleSetPredicate>'


def tree(target: str, *, threshold: float = 30, scores=("90", "140", "200"), more: str = "") -> str:
    task = "regression" if target == "kwh" else "classification"
    return f"""
<TreeModel functionName="{task}" splitCharacteristic="binarySplit" {more}>{schema(target)}
  <Node id="1"><True/>
    <Node id="2" score="{scores[0]}">{split("pots", "lessThan", str(threshold))}</Node>
    <Node id="3" defaultChild="5">{split("pots", "greaterOrEqual", str(threshold))}
      <Node id="4" score="{scores[1]}">{among("kiln", "isIn", "gas", "electric")}</Node>
      <Node id="5" score="{scores[2]}">{among("kiln", "isIn", "wood")}</Node>
    </Node>
  </Node>
</TreeModel>"""


def several(target: str, method: str, trees: list[str], more: str = "") -> str:
    task = "regression" if target == "kwh" else "classification"
    parts = "".join(f'<Segment id="{at}" weight="{at + 1}"><True/>{part}</Segment>' for at, part in enumerate(trees))
    inside = f'<Segmentation multipleModelMethod="{method}">{parts}</Segmentation>'
    return f'<MiningModel functionName="{task}">{schema(target)}{more}{inside}</MiningModel>'


NUMBER_TREES = [tree("kwh", threshold=at) for at in (20, 30, 41.5)]
CLASS_TREES = [tree("outcome", threshold=at, scores=("red", "green", "red")) for at in (20, 30, 41.5)]
TARGETS = '<Targets><Target field="kwh" rescaleConstant="7" rescaleFactor="2"/></Targets>'


def grown(row, at: float) -> float:
    return 90 if row.pots < at else 140 if row.kiln != "wood" else 200


def red(row, at: float) -> bool:
    return grown(row, at) != 140


def sigmoid(x: float) -> float:
    return 1 / (1 + math.exp(-x))


CASES = {
    "linear with powers, options and products": (
        LINEAR,
        lambda row: (
            12.5 + 2.25 * row.pots + 0.0001 * row.peak**2 + 30 * (row.kiln == "wood") + 0.001 * row.pots * row.peak
        ),
    ),
    "logistic": (LOGISTIC, lambda row: sigmoid(-1.5 + 0.8 * (row.kiln == "gas") + 0.03 * row.pots)),
    "multinomial": (MULTINOMIAL, lambda row: sigmoid(0.5 + 0.02 * row.pots)),
    "tree": (NUMBER_TREES[1], lambda row: grown(row, 30)),
    "forest of numbers": (
        several("kwh", "average", NUMBER_TREES),
        lambda row: np.mean([grown(row, at) for at in (20, 30, 41.5)]),
    ),
    "forest of votes": (
        several("outcome", "majorityVote", CLASS_TREES),
        lambda row: np.mean([red(row, at) for at in (20, 30, 41.5)]),
    ),
    "weighted forest": (
        several("outcome", "weightedAverage", CLASS_TREES),
        lambda row: np.average([red(row, at) for at in (20, 30, 41.5)], weights=[1, 2, 3]),
    ),
    "boosted trees with a rescaled target": (
        several("kwh", "sum", NUMBER_TREES, TARGETS),
        lambda row: 2 * sum(grown(row, at) for at in (20, 30, 41.5)) + 7,
    ),
    "a tree and a line": (several("kwh", "sum", [LINEAR, NUMBER_TREES[0]]), None),
}


@pytest.mark.parametrize("name", CASES)
def test_models_say_what_their_file_says_and_are_compiled(name):
    body, expected = CASES[name]
    model = open_model(io.BytesIO(pmml(body)))
    rows = TABLE[["kiln", "pots", "peak"]]
    said = model.predict(rows)
    if expected is not None:
        np.testing.assert_allclose(said[:, 0], [expected(row) for row in rows.itertuples()], rtol=1e-12)
    assert len(np.unique(said[:, 0])) > 2
    inspection, plan = read_twice(model, TABLE)
    assert plan is not None, inspection.compiled.obstacle
    assert [field.name for field in inspection.fields] == ["kiln", "pots", "peak"]
    if model.found.task == "class":
        assert model.found.classes == ["red", "green"]


def test_a_missing_value_goes_to_the_default_child_or_gives_no_answer():
    rows = pd.DataFrame({"kiln": [None, "gas"], "pots": [50, 50], "peak": [1200.0, 1200.0]})
    default = open_model(io.BytesIO(pmml(tree("kwh", more='missingValueStrategy="defaultChild"'))))
    assert default.predict(rows)[:, 0].tolist() == [200, 140]
    none = open_model(io.BytesIO(pmml(tree("kwh"))))
    assert np.isnan(none.predict(rows)[0, 0])
    assert none.predict(rows)[1, 0] == 140


def test_surrogates_are_asked_where_a_value_is_missing():
    first, other = split("pots", "lessThan", "30"), split("peak", "lessThan", "1230")
    body = NUMBER_TREES[1].replace(
        f'<Node id="2" score="90">{first}',
        f'<Node id="2" score="90"><CompoundPredicate booleanOperator="surrogate">{first}{other}</CompoundPredicate>',
    )
    model = open_model(io.BytesIO(pmml(body)))
    rows = pd.DataFrame({"kiln": ["gas"] * 2, "pots": [None, 40], "peak": [1200.0, 1200.0]})
    assert model.predict(rows)[:, 0].tolist() == [90, 140]
    assert read_twice(model, TABLE)[1] is not None


def test_a_chain_hands_on_what_it_said():
    summed = several(
        "kwh", "sum", NUMBER_TREES, '<Output><OutputField name="score" feature="predictedValue"/></Output>'
    )
    last = """<RegressionModel functionName="classification" normalizationMethod="logit">
      <MiningSchema><MiningField name="outcome" usageType="predicted"/><MiningField name="score"/></MiningSchema>
      <RegressionTable intercept="-3" targetCategory="red"><NumericPredictor name="score" coefficient="0.01"/>
      </RegressionTable><RegressionTable intercept="0" targetCategory="green"/></RegressionModel>"""
    model = open_model(io.BytesIO(pmml(several("outcome", "modelChain", [summed, last]))))
    rows = TABLE[["kiln", "pots", "peak"]].head(20)
    expected = [sigmoid(-3 + 0.01 * sum(grown(row, at) for at in (20, 30, 41.5))) for row in rows.itertuples()]
    np.testing.assert_allclose(model.predict(rows)[:, 0], expected, rtol=1e-12)
    assert "modelChain" in read_twice(model, TABLE)[0].compiled.obstacle


def test_values_that_do_not_suit_a_field_are_named():
    model = open_model(io.BytesIO(pmml(NUMBER_TREES[0])))
    row = pd.DataFrame({"kiln": ["oil"], "pots": [3], "peak": [1.0]})
    with pytest.raises(ModelFailed, match="does not know the value 'oil' of `kiln`"):
        model.predict(row)
    with pytest.raises(ModelFailed, match="wants a number in `pots`"):
        model.predict(row.assign(kiln="gas", pots="many"))


BOMB = b'<?xml version="1.0"?><!DOCTYPE PMML [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><PMML version="4.2">&b;</PMML>'
FILE = b'<?xml version="1.0"?><!DOCTYPE PMML [<!ENTITY a SYSTEM "file:///etc/passwd">]><PMML version="4.2">&a;</PMML>'


@pytest.mark.parametrize(
    ("content", "message"),
    [
        (BOMB, "declares a document type or entities"),
        (FILE, "declares a document type or entities"),
        (pmml(LINEAR)[:-40], "no well-formed XML"),
        (pmml(LINEAR, version="3.2"), "is of version 3.2; versions 4.0 to 4.4"),
        (pmml("<NeuralNetwork functionName='regression'/>"), "holds a `NeuralNetwork`"),
        (pmml(""), "holds no model"),
        (pmml(LINEAR.replace('coefficient="2.25"', 'coefficient="much"')), "contradicts itself"),
        (pmml("<Extension>" * 3000 + "</Extension>" * 3000), "nested deeper"),
    ],
    ids=["bomb", "file", "cut", "version", "other model", "none", "no number", "nested"],
)
def test_hostile_and_damaged_files_are_refused(content, message):
    with pytest.raises(ModelNotOpened, match=message):
        open_model(io.BytesIO(content))
