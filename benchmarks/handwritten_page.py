"""What an author would write around the same model: load it once, take JSON, ask the pipeline, give JSON."""

import os
from pathlib import Path

import joblib
import pandas as pd
from flask import Flask, jsonify, request

SAMPLE = Path(__file__).resolve().parents[1] / "plain_window/samples/will_it_crack/demo"
app = Flask(__name__)
model = joblib.load(Path(os.environ.get("BENCH_MODEL_FOLDER", SAMPLE)) / "model.joblib")
if hasattr(model, "n_jobs"):
    model.n_jobs = None


@app.post("/api/v1/demos/<slug>/predictions")
def predict(slug):
    row = pd.DataFrame([request.get_json()["inputs"]])[list(model.feature_names_in_)]
    probabilities = model.predict_proba(row)[0]
    return jsonify(dict(zip(model.classes_, probabilities.tolist(), strict=True)))
