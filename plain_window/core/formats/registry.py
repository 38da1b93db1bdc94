"""The libraries whose files are opened here. A new one has a room of its own, and a line in this file."""

from .format import Format
from .lightgbm.recognising import FORMAT as LIGHTGBM
from .onnx.recognising import FORMAT as ONNX
from .pmml.recognising import FORMAT as PMML
from .python.recognising import FORMAT as PYTHON
from .sklearn.recognising import FORMAT as SKLEARN
from .xgboost.recognising import FORMAT as XGBOOST

__all__ = ["FORMATS"]

# In the order in which they are asked; a pickle can be anything, so scikit-learn is last.
FORMATS: tuple[Format, ...] = (XGBOOST, PMML, LIGHTGBM, ONNX, PYTHON, SKLEARN)
