"""Opening model files. Only ever imported inside a runner: opening a model file can run code.

- `found`       what is found in a model, and in a model with its table, as types
- `pickled`     from a file to an object: joblib and pickle, and why it failed in words
- `sklearn`     the adapter for scikit-learn estimators and pipelines
- `column_use`  what a scikit-learn pipeline does with each of its columns
- `compiling`   from an opened model to a compiled one that has been proved
- `study`       the rows kept beside a model; `drawing` draws them, `known_cases` reads those with outcomes
- `studying`    what is worked out once: which fields count, and what known cases say
- `other_files` what is no model that is opened here, by content, and the way on
- `answer_kind`, `outcomes`, `column_order`, `answer_setting`  what is concluded from model, table and agreement
- `inspection`  model and table together: columns, fields, answer, or what does not fit
"""
