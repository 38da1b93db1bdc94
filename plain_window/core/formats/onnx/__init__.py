"""ONNX: models of tables (`adapter`), of pictures (`pictures`), and what their outputs are (`outputs`)."""
