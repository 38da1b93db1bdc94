"""A model and its tables put together: what the fields are, what the answer is, and what does not fit.

- `opening`             the whole of it, in order: from files to what they amount to
- `reopening`           a model that was taken in before, opened again with what that needs
- `inspection`          model and table together; `picture_inspection`, models that look at pictures
- `answer_kind`, `outcomes`, `class_names`, `column_order`, `answer_setting`  what is concluded, and from what
- `dated_columns`       columns of dates that the model takes as numbers
- `preparation_search`  how pictures are prepared, tried on known ones
- `without_table`       models that came without one
- `compiling`           from an opened model to a compiled one that has been proved
- `known_cases`         rows with outcomes; `row_sampling` draws those that are kept beside the model
- `evaluation`          what is worked out once: which fields count, and what known cases say
"""
