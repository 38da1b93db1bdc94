"""Flask: thin views over `authoring`, `store`, `runners` and `core`.

- `app`          the factory: reads like a table of contents
- `gunicorn_config`  what gunicorn runs, and how; `gunicorn_settings`, what of it is measured too
- `worker`       gunicorn's worker, with a clock on whoever sends slowly
- `views/`       one module a subject
- `types`        what goes over the API, as types: they validate, and the description is made from them
- `operations`   one decorator that parses, validates, answers and describes a call
- `description`  OpenAPI 3.1 from the operations
- `problems`     every error as `application/problem+json`
- `hosts`        under which names this server answers
- `peers`        who is at the other end, as far as an address tells
- `identity`     who asks: key, session, CSRF token
- `access`       may this caller see this demo
- `rate`         buckets and growing waits, across all workers
- `limits`       how often one address may ask, and guess
- `hashing`      passwords and passcodes, away from what answers visitors
- `request_inputs`  a visitor's case, from whichever form it came in
- `links`        pictures by their web address; `addresses`, which of these are public
- `quick_predictions`  the short way for predictions, in front of the framework; `quick_models`, those asked in this process
- `plain_answers`  answers as they go out; `explained_answers`, those with what explains them
- `parts`        parts of a page that its author may switch off
- `answer_ids`   signed ids, so that visitors may say what became of an answer
- `explanation_answers`  what a runner found, in the words and values of the page
- `uploads`      multipart, straight into the file store
- `sentences`    codes of a runner into what people read
- `headers`      security headers of every response
- `lookups`      what a request for a demo needs, remembered until something changes
- `state`        what a web process holds
"""
