"""The API's description of itself."""

import filecmp
import json
import subprocess
from pathlib import Path

import jsonschema
from openapi_spec_validator import OpenAPIV31SpecValidator

from ..studio import ROOT, SAMPLE


def test_the_description_is_openapi_3_1_and_names_the_fixed_paths(visitor):
    description = visitor.get("/api/v1/openapi.json").json()
    assert description["openapi"].startswith("3.1")
    OpenAPIV31SpecValidator(description).validate()
    for method, path in [
        ("post", "/api/v1/demos"),
        ("get", "/api/v1/demos/{slug}"),
        ("patch", "/api/v1/demos/{slug}"),
        ("delete", "/api/v1/demos/{slug}"),
        ("get", "/api/v1/demos/{slug}/page"),
        ("get", "/api/v1/demos/{slug}/schema"),
        ("post", "/api/v1/demos/{slug}/predictions"),
        ("post", "/api/v1/demos/{slug}/releases"),
        ("put", "/api/v1/demos/{slug}/access"),
    ]:
        assert method in description["paths"][path]


def test_real_answers_are_what_the_description_says(visitor):
    description = visitor.get("/api/v1/openapi.json").json()

    def check(name, body):
        schema = {"$ref": f"#/components/schemas/{name}", "components": description["components"]}
        jsonschema.Draft202012Validator(schema).validate(body)

    check("Page", visitor.get("/api/v1/demos/will-it-crack/page").json())
    check("Problem", visitor.get("/api/v1/demos/none/page").json())
    from ..studio import USUAL_PIECE

    answer = visitor.post("/api/v1/demos/will-it-crack/predictions", json={"inputs": USUAL_PIECE}).json()
    check("PredictionAnswer", answer)


def test_the_pages_types_are_generated_from_this_description(visitor, scratch: Path):
    described, fresh = scratch / "openapi.json", scratch / "types.ts"
    described.write_text(json.dumps(visitor.get("/api/v1/openapi.json").json()))
    frontend = ROOT / "frontend"
    subprocess.run(["node", "scripts/api-types.mjs", described, fresh], cwd=frontend, check=True)
    current = filecmp.cmp(fresh, frontend / "src/api/types.ts", shallow=False)
    assert current, "run `npm run api-types` in frontend/"


def test_the_samples_demo_toml_is_what_its_schema_says(visitor):
    import tomllib

    schema = visitor.get("/api/v1/demo.schema.json").json()
    jsonschema.Draft202012Validator.check_schema(schema)
    document = tomllib.loads((SAMPLE / "demo.toml").read_text("utf-8"))
    jsonschema.Draft202012Validator(schema).validate(document)
    assert not jsonschema.Draft202012Validator(schema).is_valid({**document, "titel": "x"})
