"""What is brought in a model's place and is no model that is opened here: what it is, by content, and the way on."""

import ast
import bz2
import gzip
import io
import lzma
import re
import zipfile
import zlib
from collections.abc import Callable
from typing import BinaryIO

from ..errors import ModelNotOpened
from ..tables.kinds_of_file import LFS_POINTER
from ..tables.spreadsheets import is_spreadsheet
from .network_files import keras_version, network_kind, requirements_of_network

__all__ = ["KINDS", "refuse_other_files", "unpacked_head"]

KINDS = (
    "It takes models saved with joblib, pickle or skops, XGBoost's .json or .ubj, LightGBM's .txt, ONNX and PMML "
    "files, and Python files with a function."
)
HEAD_BYTES = 1 << 16
# A script or a notebook is read whole to be told; a larger one is none.
MOST_SOURCE_BYTES = 4 << 20

FROM_TORCH = """import torch
model.eval()
example = torch.zeros(1, 3, 224, 224)  # one input, in the shape the model was trained on
torch.onnx.export(model, (example,), "model.onnx", input_names=["input"], output_names=["output"],
                  dynamic_axes={"input": {0: "batch"}, "output": {0: "batch"}})"""
FROM_WEIGHTS = 'model = YourNetwork()\nmodel.load_state_dict(torch.load("weights.pt"))\n' + FROM_TORCH
FROM_SCRIPTED = 'import torch\nmodel = torch.jit.load("model.pt")\n' + FROM_TORCH.removeprefix("import torch\n")
FROM_EXPORTED = (
    'import torch\nprogram = torch.export.load("model.pt2")\ntorch.onnx.export(program, dynamo=True).save("model.onnx")'
)
FROM_KERAS = """import keras
model = keras.saving.load_model("FILE")
signature = [keras.InputSpec(shape=(None, *tensor.shape[1:]), dtype=tensor.dtype, name=tensor.name)
             for tensor in model.inputs]
model.export("model.onnx", format="onnx", input_signature=signature)"""
FROM_SAVED_MODEL = "pip install tf2onnx\npython -m tf2onnx.convert --saved-model FOLDER --output model.onnx"
FROM_FROZEN = (
    "pip install tf2onnx\n"
    "python -m tf2onnx.convert --graphdef model.pb --inputs input:0[-1,224,224,3] --outputs output:0 "
    "--output model.onnx"
)
FROM_TFLITE = "pip install tf2onnx\npython -m tf2onnx.convert --tflite model.tflite --output model.onnx"
FROM_SCRIPT = 'import joblib\njoblib.dump(model, "model.joblib")  # after model.fit(…)'
FROM_R = 'install.packages("pmml")\nlibrary(pmml)\nsave_pmml(pmml(model), "model.pmml")'
FROM_BOOSTER = 'booster.save_model("model.ubj")'
FROM_CATBOOST = 'model.save_model("model.onnx", format="onnx")'

EXPORT = "Or export it to ONNX and bring that file:"
OF_WEIGHTS = (
    "It has weights and no network: the Python file with its class goes `beside` it. Or build the network, load them, "
    "and export it to ONNX:"
)
# What each is, the way on, and lines to run.
NETWORKS = {
    "torch-exported": ("an exported PyTorch program", EXPORT, FROM_EXPORTED),
    "torch-scripted": ("a scripted PyTorch model", EXPORT, FROM_SCRIPTED),
    "torch-pickled": ("a PyTorch model", EXPORT, FROM_TORCH),
    "torch-weights": ("a PyTorch file of weights", OF_WEIGHTS, FROM_WEIGHTS),
    "safetensors": ("a safetensors file", OF_WEIGHTS, FROM_WEIGHTS),
    "keras": ("a Keras model", EXPORT, FROM_KERAS.replace("FILE", "model.keras")),
    "keras-h5": ("an HDF5 file, as Keras saves models", EXPORT, FROM_KERAS.replace("FILE", "model.h5")),
}

PLAIN_MAGICS = {
    b"\x89PNG": "a picture",
    b"\xff\xd8\xff": "a picture",
    b"GIF8": "a picture",
    b"%PDF": "a PDF document",
    b"\x7fELF": "a program",
    b"MZ": "a program",
    b"SQLite format": "a database",
    b"ARFF": "a table",
}
LIGHTGBM_DUMP = re.compile(rb'^\s*\{.*"max_feature_idx"\s*:', re.DOTALL)
XGBOOST_DUMP = re.compile(rb'\s*(?:booster\[0\]:\s*)?(?:0:\[[^\]]+\] yes=\d+,no=\d+|\[\s*\{\s*"nodeid"\s*:)')
TABLE_WAY = (
    "It belongs into the place of the reference table. Bring the file that your training script saved as the model."
)


def refuse_other_files(file: BinaryIO) -> None:
    """Say what a file is that no adapter opens; return if it may be a model.

    Parameters
    ----------
    file : binary file
        Seekable; left at its start.

    Raises
    ------
    ModelNotOpened
        Naming what it is, with the way on and, behind an empty line, the lines to run where there are some.
    """
    head = file.read(HEAD_BYTES)
    file.seek(0)
    for look in (_plain, _network, _archive, _protobuf, _packed, _source, _table):
        look(head, file)
        file.seek(0)


def _refuse(what: str, way: str, lines: str = "") -> None:
    raise ModelNotOpened(f"The model file is {what}. {way}" + (f"\n\n{lines}" if lines else ""))


def _plain(head: bytes, file: BinaryIO) -> None:
    for magic, what in PLAIN_MAGICS.items():
        if head.startswith(magic):
            _refuse(f"{what}, not a model", KINDS)
    if head.startswith(LFS_POINTER):
        _refuse("a pointer of Git LFS, not the file it stands for", "Fetch that and bring it:", "git lfs pull")
    if LIGHTGBM_DUMP.search(head):
        way = "That is for reading only. Save the model itself:"
        _refuse("what LightGBM's `dump_model` wrote", way, 'booster.save_model("model.txt")')
    if XGBOOST_DUMP.match(head):
        _refuse("what XGBoost's `dump_model` wrote", "That is for reading only. Save the model itself:", FROM_BOOSTER)
    if head.startswith(b"PAR1"):
        _refuse("a Parquet table, not a model", TABLE_WAY)
    if head.startswith(b"\xd0\xcf\x11\xe0"):
        _refuse("an old Office file, not a model", f"If it is a table, save it as .xlsx or CSV. {TABLE_WAY}")
    if head.startswith(b"CBM1"):
        _refuse("a CatBoost model", "Save it as ONNX and bring that file:", FROM_CATBOOST)
    if head[4:8] == b"TFL3":
        _refuse("a TensorFlow Lite model", "Convert it to ONNX and bring that file:", FROM_TFLITE)
    if head[:4] in (b"binf", b"bs64"):
        _refuse("in XGBoost's old binary format", "Load it and save it again:", FROM_BOOSTER)


def _network(_head: bytes, file: BinaryIO) -> None:
    """A network of PyTorch or Keras: it opens with libraries of its own, or is exported."""
    kind = network_kind(file)
    if kind is None:
        return
    what, way, lines = NETWORKS[kind]
    if kind == "keras":
        with zipfile.ZipFile(file) as archive:
            what += keras_version(archive)
    requirements = requirements_of_network(kind)
    named = ", ".join(f"`{line}`" for line in requirements)
    own = f"Bring it with a `requirements.txt` ({named}): it is then converted here. {way}"
    raise ModelNotOpened(f"The model file is {what}. {own}\n\n{lines}", requirements=requirements)


def _archive(head: bytes, file: BinaryIO) -> None:
    if not head.startswith(b"PK\x03\x04"):
        return
    if is_spreadsheet(file):
        _refuse("an Excel table, not a model", TABLE_WAY)
    try:
        archive = zipfile.ZipFile(file)
        names = archive.namelist()
    except zipfile.BadZipFile:
        raise ModelNotOpened("The model file is a zip archive that was cut off or damaged. Upload it again.") from None
    ends = {name.rsplit("/", 1)[-1] for name in names}
    if "schema.json" in names:
        return
    if "saved_model.pb" in ends:
        _refuse("a zip of a TensorFlow model", "Unpack it, convert it to ONNX and bring that file:", FROM_SAVED_MODEL)
    if "Manifest.json" in ends or any(name.endswith(".mlmodel") for name in names):
        _refuse_core_ml()
    if any(name.lower().endswith((".png", ".jpg", ".jpeg", ".webp")) for name in names):
        way = "If they are pictures whose class is known, they belong into the place of known cases."
        _refuse("a zip archive of pictures, not a model", way)
    _refuse("a zip archive, not a model", KINDS)


def _refuse_core_ml() -> None:
    way = "It cannot be turned back. Export the model it was made from to ONNX, from the library it was trained with."
    _refuse("a Core ML model", way)


def _protobuf(head: bytes, file: BinaryIO) -> None:
    """Protocol buffers have no magic; their first fields tell them apart."""
    if head[:1] == b"\x08" and head[2:3] == b"\x12":
        if (head[1] == 1 and b"saved_model" in head[:HEAD_BYTES]) or (head[1] == 1 and b"serve" in head):
            _refuse("a TensorFlow model", "Convert its whole folder to ONNX and bring that file:", FROM_SAVED_MODEL)
        # The second field of ONNX is a name in letters; Core ML's is a message, whose first field has its tag in front.
        at = 3
        while at < len(head) and head[at] & 0x80:
            at += 1
        if head[at + 1 : at + 2] == b"\x0a":
            if head[1] == 1 and (b"Placeholder" in head or b"VarHandleOp" in head or b"Const" in head):
                _refuse("a TensorFlow model", "Convert its whole folder to ONNX and bring that file:", FROM_SAVED_MODEL)
            _refuse_core_ml()
    if head[:1] == b"\x0a" and (b"Placeholder" in head or b"Const" in head) and b"dtype" in head:
        way = "Convert it to ONNX, with the names and shapes of its inputs and outputs, and bring that file:"
        _refuse("a frozen TensorFlow graph", way, FROM_FROZEN)


def _packed(head: bytes, file: BinaryIO) -> None:
    """R saves packed; so does joblib, whose content is a pickle."""
    start = unpacked_head(head)
    if start[:2] in (b"X\n", b"A\n") or start[:5] in (b"RDX2\n", b"RDX3\n", b"RDA2\n"):
        way = "Save the model as PMML and bring that file (linear models, trees, forests and many others can be):"
        _refuse("an object saved by R", way, FROM_R)


def unpacked_head(head: bytes) -> bytes:
    """The first bytes of what is packed; the head itself if it is not.

    Parameters
    ----------
    head : bytes
        The first bytes of a file.
    """
    readers: dict[bytes, Callable[[BinaryIO], io.BufferedIOBase]] = {
        b"\x1f\x8b": lambda file: gzip.GzipFile(fileobj=file),
        b"BZh": bz2.BZ2File,
        b"\xfd7zXZ": lzma.LZMAFile,
    }
    for magic, reader in readers.items():
        if head.startswith(magic):
            try:
                return reader(io.BytesIO(head)).read(4096)
            except (OSError, EOFError, lzma.LZMAError, zlib.error):
                return _what_unpacks(reader, head)
    return head


def _what_unpacks(reader: Callable[[BinaryIO], io.BufferedIOBase], head: bytes) -> bytes:
    """As much as can be unpacked of a head that is cut off."""
    out = b""
    try:
        packed = reader(io.BytesIO(head))
        while len(out) < 4096:
            part = packed.read(64)
            if not part:
                break
            out += part
    except (OSError, EOFError, lzma.LZMAError, zlib.error):
        pass
    return out


def _source(head: bytes, file: BinaryIO) -> None:
    text = _text_of(head, file)
    if text is None:
        return
    start = text.lstrip("\ufeff \n\r\t")
    if start.startswith("{") and '"nbformat"' in text and '"cells"' in text:
        _refuse("a notebook, not a model", "Run this in its last cell, and bring the file it writes:", FROM_SCRIPT)
    if start.startswith(("{", "<", "tree\n", "tree\r")):
        return
    if start.startswith("#!") and not _is_python(text):
        _refuse("a script, not a model", "Let it save the fitted model, and bring that file:", FROM_SCRIPT)
    if _is_python(text) and not _has_function(text):
        way = "Let it save the fitted model, and bring that file, or put what answers into a function:"
        _refuse("a Python script without a function that takes anything", way, FROM_SCRIPT)


def _text_of(head: bytes, file: BinaryIO) -> str | None:
    if b"\0" in head:
        return None
    content = file.read(MOST_SOURCE_BYTES + 1)
    if len(content) > MOST_SOURCE_BYTES:
        return None
    try:
        return content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return None


def _is_python(text: str) -> bool:
    try:
        parsed = ast.parse(text)
    except (SyntaxError, ValueError, RecursionError, MemoryError):
        return False
    told_by = ast.Import | ast.ImportFrom | ast.FunctionDef | ast.ClassDef | ast.Assign
    if any(isinstance(part, told_by) for part in parsed.body):
        return True
    # Nothing but comments, or words that stand where a docstring does.
    start = text.lstrip()
    return (start.startswith("#") and not parsed.body) or start.startswith(('"""', "'''"))


def _has_function(text: str) -> bool:
    functions = [part for part in ast.parse(text).body if isinstance(part, ast.FunctionDef | ast.AsyncFunctionDef)]
    return any(ast.unparse(one.args) for one in functions)


def _table(head: bytes, file: BinaryIO) -> None:
    """Lines that are all parted into as many values, two or more."""
    try:
        # The last line may be cut off, in the middle of a character.
        lines = head.rsplit(b"\n", 1)[0].decode("utf-8-sig").splitlines()[:20]
    except UnicodeDecodeError:
        return
    if b"\0" in head or len(lines) < 2 or lines[0].lstrip()[:1] in ("{", "<", "["):
        return
    for separator in (",", ";", "\t"):
        counts = {line.count(separator) for line in lines if line.strip()}
        if len(counts) == 1 and counts != {0}:
            _refuse("a table, not a model", TABLE_WAY)
