"""Compiled models: what a model computes, from raw values to outputs, as plain arrays and a short list of steps.

- `plan`          steps and arrays, as types; `checking`, what is trusted of them
- `container`     the file: safetensors with a JSON header
- `operations`    what each step does, on blocks of rows
- `engine`        runs a plan; `effort` says how much one row can ask of it
- `single_row`    the simple steps in front of a model, for one row in one call
- `kernels`       the hot loops, in numba, with `row_kernels`; `machine_code` has them compiled once
- `trees`         trees of any library as the arrays a plan holds
- `building`      a plan while it is being made, by a library's `compiling` in `formats`
- `parity`        the proof that a plan says what the original says

`plan`, `container`, `operations`, `engine` and `kernels` need only NumPy and numba: a runner that serves a compiled
model loads nothing else, and opens no pickle. `docs/compiled-model.md` describes the file for other readers.
"""
