"""Compiled models: what a model computes, from raw values to outputs, as plain arrays and a short list of steps.

- `plan`            steps and arrays, as types
- `container`       the file: safetensors with a JSON header
- `operations`      what each step does, on blocks of rows
- `engine`          runs a plan
- `kernels`         the hot loops, in numba
- `trees`           trees of any library as the arrays a plan holds
- `building`        a plan while it is being made
- `from_sklearn`    scikit-learn estimators into steps: the way in
- `sklearn_steps`   … its transformers
- `sklearn_heads`   … its predictors
- `parity`          the proof that a plan says what the original says
- `report`          what came of it, for the author

`plan`, `container`, `operations`, `engine` and `kernels` need only NumPy and numba: a runner that serves a compiled
model loads nothing else, and opens no pickle. `docs/compiled-model.md` describes the file for other readers.
"""
