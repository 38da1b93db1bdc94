"""Model files, a room for each library: how its files are recognised, opened, named and compiled.

Only ever imported inside a runner: opening a model file can run code.

- `registry`      the libraries; `format`, what each says of its files; `other_files`, what is none of theirs
- `recognition`   whose file it is; `opening`, from a file to an adapter; `adapter` says what every adapter offers
- `sklearn`       pickles, joblib and skops of scikit-learn; `wrappers`, boosters that behave like its estimators
- `xgboost`, `lightgbm`  their own files
- `onnx`          tables, pictures, and what their outputs are
- `pmml`          read without a library
- `preprocessed`  a transformer from a second file in front of any of them
- `picture_input` what a model says of the pictures it takes, and models of flattened pixels
- `own_libraries` estimators held by another process, with libraries of their own
- `calling`       asking a library, with whatever it raises put in words; `model_table`, rows as it takes them
"""
