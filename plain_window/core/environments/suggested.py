"""What would have to be there for a file to open, concluded from the file or from what failed: offered, not guessed."""

import re
from collections.abc import Iterable

__all__ = ["package_of", "requirements_of_pickle", "sklearn_version_in"]

# Packages whose modules are called otherwise.
PACKAGES = {
    "sklearn": "scikit-learn",
    "PIL": "Pillow",
    "cv2": "opencv-python-headless",
    "yaml": "PyYAML",
    "bs4": "beautifulsoup4",
    "skimage": "scikit-image",
    "dateutil": "python-dateutil",
    "Levenshtein": "python-Levenshtein",
    "attr": "attrs",
    "google": "protobuf",
    "umap": "umap-learn",
    "fitz": "PyMuPDF",
    "serial": "pyserial",
    "dotenv": "python-dotenv",
    "jwt": "PyJWT",
    "igraph": "python-igraph",
    "imblearn": "imbalanced-learn",
    "category_encoders": "category-encoders",
}
SKLEARN_VERSION = re.compile(rb"_sklearn_version.{1,12}?(\d+\.\d+(?:\.\d+)?(?:\.?(?:dev|rc|post)\d+)?)", re.DOTALL)
# Modules by which a pickle names the classes in it: `c` in old protocols, short texts in new ones.
GLOBAL = re.compile(rb"(?:c|\x8c.)([A-Za-z_][\w]*)(?:\.[\w.]+)?(?:\n|\x94|\x8c)", re.DOTALL)
# The libraries whose objects pickles are made of, in the order in which they are named.
MODELS = (
    "sklearn", "xgboost", "lightgbm", "catboost", "imblearn", "category_encoders", "statsmodels", "torch", "keras",
)  # fmt: skip


def package_of(module: str) -> str:
    """The package that a module is in, as far as that is known.

    Parameters
    ----------
    module : str
        Perhaps with modules in it.

    Examples
    --------
    >>> package_of("sklearn.ensemble")
    'scikit-learn'
    """
    top = module.split(".")[0]
    return PACKAGES.get(top, top)


def requirements_of_pickle(contents: Iterable[bytes]) -> list[str]:
    """What a pickle says it was saved with, as lines of a `requirements.txt`; versions only where it states them.

    Parameters
    ----------
    contents : iterable of bytes
        Of the file, as it is and unpacked.

    Examples
    --------
    >>> requirements_of_pickle([b"csklearn.tree\\n _sklearn_version\\x94\\x8c\\x051.3.2 cnumpy.core.multi\\n"])
    ['scikit-learn==1.3.2', 'numpy<2']
    """
    whole = b"\n".join(contents)
    named = {match.decode("ascii", "replace") for match in GLOBAL.findall(whole)}
    version = sklearn_version_in(whole)
    lines = []
    for module in MODELS:
        if module == "sklearn" and version is not None:
            lines.append(f"scikit-learn=={version}")
        elif module in named:
            lines.append(package_of(module))
    # It was fitted on a table, and asks for one.
    if lines and b"feature_names_in_" in whole:
        lines.append("pandas")
    # NumPy 2 moved this module, and pickles name it by its place.
    if lines and b"numpy.core" in whole and b"numpy._core" not in whole:
        lines.append("numpy<2")
    return lines


def sklearn_version_in(content: bytes) -> str | None:
    """The version of scikit-learn that a pickle says it was saved with; None where it says none.

    Parameters
    ----------
    content : bytes
        As much of the file as is to be searched, unpacked.
    """
    found = SKLEARN_VERSION.search(content)
    return found[1].decode() if found else None
