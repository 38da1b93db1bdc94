"""Flask: thin views over `authoring`, `store`, `runners` and `core`.

- `app`          the factory: reads like a table of contents
- `server`       what gunicorn runs, and how
- `views/`       one module a subject
- `types`        what goes over the API, as types: they validate, and the description is made from them
- `operations`   one decorator that parses, validates, answers and describes a call
- `description`  OpenAPI 3.1 from the operations
- `problems`     every error as `application/problem+json`
- `identity`     who asks: key, session, CSRF token
- `access`       may this caller see this demo
- `rate`         predictions a second and address, across all workers
- `uploads`      multipart, straight into the file store
- `headers`      security headers of every response
- `served`       what a request for a demo needs, remembered until something changes
- `state`        what a web process holds
"""
