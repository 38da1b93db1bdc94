// Generated from the API description by `npm run api-types`. Do not edit.

export interface paths {
    "/api/v1/bridges": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Your demos that are answered from a process of your own, and whether it is connected */
        get: operations["list_bridges"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/bridge/{file}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The bridge's client as a wheel, for `pip install`; its name is in `GET /bridges` */
        get: operations["get_bridge_client"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/page": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All that a visitor's page needs */
        get: operations["get_page"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/logo": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The small picture beside the title */
        get: operations["get_logo"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/schema": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** JSON Schema of the inputs */
        get: operations["get_schema"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/browser/content": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /**
         * What answers rest on where a page answers in its visitor's browser: fields, wording, evidence, reference answers
         * @description JSON, compressed with gzip; its form is that of a file that needs no server.
         */
        get: operations["get_browser_content"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/browser/model": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The compiled model where a page answers in its visitor's browser, or the ONNX graph; compressed with gzip */
        get: operations["get_browser_model"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The author's demos, the one changed last first, and those that can be brought back */
        get: operations["list_demos"];
        put?: never;
        /**
         * Bring a model and its reference table; fields and answer are inferred from them
         * @description Models of pictures and of text need no table. A Python file with a function is sent as `function` in place of
         *         `model`: its type hints say what its fields are, so it needs no table either. Known cases of a model of pictures are
         *         a zip archive of folders named after classes: ways to prepare pictures are tried on them. `requirements` is the text
         *         of a `requirements.txt`: the model then runs with those libraries, of its own. Where they must be built first, the
         *         answer is 202 and a job, whose result names the demo; and so it is with `Prefer: respond-async`, for who does not
         *         wait while a large model is opened. A `folder` is waited for.
         */
        post: operations["create_demo"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The draft, with all about the demo that its author sees */
        get: operations["get_demo"];
        put?: never;
        post?: never;
        /** Take the demo off the shelf; its runner goes. `restore` brings it back */
        delete: operations["remove_demo"];
        options?: never;
        head?: never;
        /**
         * Change the draft, or the demo's address
         * @description `fields` may name some of the fields, each by its `name`; naming all of them also sets their order. The address a
         *         demo had leads on to the one it has. With `If-Match` and the `ETag` of what was read, a draft that has been changed
         *         since is not touched: 412.
         */
        patch: operations["patch_demo"];
        trace?: never;
    };
    "/api/v1/demos/{slug}/restore": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Bring back the demo that was last deleted from this address */
        post: operations["restore"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/checks": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Run the checks on the draft. With `Accept: application/x-ndjson` a line a check comes as it ends */
        post: operations["create_checks"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/openapi.json": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** This description */
        get: operations["openapi"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demo.schema.json": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** JSON Schema of `demo.toml` */
        get: operations["demo_schema"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/drift": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /**
         * Whether visitors of the live release ask about cases like those of the reference table
         * @description For each field and for the answer: how far the shares of bins are apart (total variation distance), and whether that
         *         is more than chance (Pearson's chi-square test, at one in a hundred over all of them together). Before the first
         *         release there is nothing to compare. Of a model that is too slow to be asked meanwhile about its reference rows
         *         nothing is said of the answer (`answers_counted`), until a job of kind `drift` has counted that.
         */
        get: operations["get_drift"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/environments": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The libraries that demos here have of their own, the newest first, and which of your demos use each */
        get: operations["list_environments"];
        put?: never;
        /** Build an environment ahead of the demo that needs it: 202 and a job, unless the same was built before */
        post: operations["create_environment"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/expected": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /**
         * Bring what your notebook says of some cases: inputs, and a column `prediction` or one a class
         * @description The check `same-as-expected` compares each value with what the demo answers. Rows may be in any order and as few as
         *         you like; of very many the first 10,000 are compared. Numbers are compared to as many digits as the table has.
         */
        put: operations["put_expected"];
        post?: never;
        /** Take away what was brought to compare with */
        delete: operations["delete_expected"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/folder": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The draft as a zip of its folder: the files as they came, and `demo.toml` with all that was set */
        get: operations["get_folder"];
        /**
         * Let the draft be what a zip of a folder holds; the address stays, and visitors keep the live release
         * @description Where its `requirements.txt` must be built first, the answer is 202 and a job.
         */
        put: operations["put_folder"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/boxes": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What is found in a picture as a file. Nothing of it is kept here */
        post: operations["create_boxes"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/made": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What a model makes of a picture as a file, in full size. Nothing of it is kept here */
        post: operations["create_made"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/jobs/{job_id}/frames": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What came of a film's frames so far, with the job as it is. Whoever asks is taken to wait for the rest */
        get: operations["get_frames"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/films/{place}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** One of the demo's ready films, as its file */
        get: operations["get_sample_film"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/jobs/{job_id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** How far a job is, and what came of it */
        get: operations["get_job"];
        put?: never;
        post?: never;
        /** Cancel a job; one that is over is forgotten, with what came of it */
        delete: operations["cancel_job"];
        options?: never;
        head?: never;
        /** Read the table of a job that is held otherwise */
        patch: operations["change_table"];
        trace?: never;
    };
    "/api/v1/jobs/{job_id}/start": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Begin a job that is held */
        post: operations["start_job"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/jobs/{job_id}/report": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** How the model did on the table's rows, where the table says what happened; of very many on the first 200,000 */
        get: operations["get_table_report"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/jobs/{job_id}/faults": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Which rows have a fault, and what is wrong with them */
        get: operations["get_faults"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/jobs": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /**
         * Have a whole table of cases answered, a film frame by frame, or something worked out about the model
         * @description What does not fit is said at once (422). A table's column is found by its field's name or label; `columns` says
         *         otherwise. With `hold` a table's job waits after the table was looked at and its first rows answered: `PATCH`
         *         changes how it is read, `POST …/start` begins. A film's answers come with `GET …/frames`; a visitor's film is
         *         cancelled once nobody has asked about its job for some time (100 seconds unless set otherwise), and forgotten with
         *         its answers when nobody has for ten minutes after its end.
         *
         *         For the demo's author, and without a file: `importance` works out what matters overall by all reference rows that
         *         are kept, not only by as many as fit into some seconds (`GET …/overall` says that from then on; `of` for one class
         *         only); `drift` counts how the model's answers to them lie, where it is too slow for `GET …/drift` to ask it.
         */
        post: operations["create_job"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/jobs": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All jobs of your demos, the newest first */
        get: operations["list_jobs"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/jobs/{job_id}/events": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The job as it goes on: a line of JSON at each change, until it is over. Its log comes along as `log` */
        get: operations["get_events"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/jobs/{job_id}/result": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The table with its answers, or what came of a film, as a file */
        get: operations["get_result"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/log": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What was asked, the newest first. What was entered is there only where the author keeps it */
        get: operations["get_log"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/log.csv": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The same as a table for spreadsheets, a column a field. Nothing in it is taken for a formula */
        get: operations["get_log_table"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/outcomes.csv": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What visitors said became of their cases, as a table for spreadsheets */
        get: operations["get_outcomes_table"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/log/inputs": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        /** Forget what was entered: all of it, now. That something was asked stays counted */
        delete: operations["delete_inputs"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/predictions/{answer}/outcome": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /**
         * Say whether an answer was right, and what it really was where the author asks for that
         * @description Kept is what is said, with the answer and the time; nothing of what was entered. Saying it again replaces it.
         */
        post: operations["give_outcome"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/passcode": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Give the passcode; this browser's further requests are then let through */
        post: operations["give_passcode"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/predictions": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /**
         * The model's answer for one case
         * @description A picture is a part named after its field, or within JSON `{"data": BASE64}`, `{"link": ADDRESS}` or
         *         `{"sample": NAME}`; a drawing may be `{"strokes": [[[x, y], …], …]}`.
         */
        post: operations["create_prediction"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/releases": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** All releases, the newest first */
        get: operations["get_releases"];
        put?: never;
        /**
         * Freeze the draft as the next release and show it to visitors
         * @description The checks are made unless they were made on this very draft: 409 names each that fails. Mend it, confirm what was
         *         concluded (`PATCH` with `confirmed`), or publish `despite` it, with a reason a check, which the release keeps. The
         *         body may be left out.
         */
        post: operations["create_release"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/access": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /** Who may open the demo: only its author, who has a secret link, who knows the passcode, or everyone */
        put: operations["put_access"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/overall": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /**
         * What matters overall: importance, direction and average curves, worked out while nobody asks for answers
         * @description By some of the reference rows; by all that are kept once a job of kind `importance` has worked that out.
         */
        get: operations["get_overall"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/among": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Reference rows by one field and the model's answer, for a case to be drawn among */
        get: operations["get_among"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/where": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /**
         * Where the model looked, as it gets sharper: one JSON object a line, the last with `is_done`
         * @description The first line is a sketch: every part covered by itself. A line `{"detail": …}` says why there are no more.
         */
        post: operations["create_where"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/fetched": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** The picture a link leads to, as a page shows it before it is asked about. Nothing is kept */
        post: operations["fetch_link"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/samples/{name}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A picture of one of the demo's samples, by its name `number.field` */
        get: operations["get_sample"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/releases/{number}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** One release as it was published */
        get: operations["get_release"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/release": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /**
         * Show visitors that release again, at once and whole; the draft stays as it is
         * @description Its model is there before anybody is led to it: no request in between fails.
         */
        put: operations["put_release"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/release-while-away": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /** Which release answers while the process of the one that visitors see is away; its pages say so */
        put: operations["put_release_while_away"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/differences": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What differs between two releases, or a release and the draft, setting by setting */
        get: operations["get_differences"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/model": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /**
         * Replace the model, or only some of what came with it
         * @description Parts that are not sent stay; a part that is sent empty is taken away. The draft changes, visitors keep the live
         *         release. With no parts at all, known cases are measured again as the draft is set. A feature that only has another
         *         name now keeps its settings where `renames` says so: a JSON object with the name each had, by the one it has. Where
         *         `requirements` must be built first, the answer is 202 and a job; with `try` nothing but that is done by it. So it is
         *         with `Prefer: respond-async` without `try`.
         */
        put: operations["put_model"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/report": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** How the model did on known cases: for visitors where the author shows it */
        get: operations["get_report"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/known": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Known cases with what the model says of them, and what happened */
        get: operations["get_known"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/known/{row}/picture": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The picture of a known case of the draft, as it was brought */
        get: operations["get_known_picture"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/thresholds": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What each threshold would do on the draft's known cases: for two classes with probabilities */
        get: operations["get_thresholds"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/rows": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Rows of the reference table as a visitor would enter them, in an order drawn once, with their outcomes */
        get: operations["get_rows"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/samples/{name}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Put one of the sample demos on the shelf, as a draft */
        post: operations["add_sample"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/links": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The demo's secret links that were not revoked, the newest first */
        get: operations["get_links"];
        put?: never;
        /**
         * Make one more secret link; those there are go on working
         * @description A demo that only its author may open is open to whoever has a link from then on. One that is open to everyone or
         *         asks for a passcode stays so, and takes no link: 409.
         */
        post: operations["create_link"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/links/{link}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        /** Revoke a secret link: it opens nothing any more, also for those who have opened it */
        delete: operations["delete_link"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/session": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Who is signed in */
        get: operations["get_session"];
        put?: never;
        /** Sign in with name and password */
        post: operations["sign_in"];
        /** Sign out: this session is worth nothing from now on, whoever has its cookie */
        delete: operations["sign_out"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/session/link": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Sign in with the token of a one-time link. Opening the link does not spend it; this does */
        post: operations["sign_in_by_link"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/sessions": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        /** End all of the author's sessions, this one too */
        delete: operations["sign_out_everywhere"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/session/password": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        /**
         * Set the password; all other sessions end
         * @description A session that a one-time link has just begun needs no old password: that link is the way back for who forgot it.
         */
        put: operations["change_password"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/keys": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The author's keys, the newest first. What they are is not kept, only their hashes */
        get: operations["list_keys"];
        put?: never;
        /** Make a key for programs. It is told this once */
        post: operations["create_key"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/keys/{key_id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        /** Make a key worth nothing, at once */
        delete: operations["remove_key"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/starters": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /**
         * Make a model of a table, and a demo around it
         * @description The table is looked at: what its columns are, which give the outcome away, name rows or groups of them. Models are
         *         compared on rows that they had not seen, against guessing; the plainest that is about as good as the best is made of
         *         all rows but those that are kept back, which become the demo's known cases. With `hold` the job waits after it
         *         looked, and again after it compared: `PATCH /starters/{id}` changes what is wanted, `POST /jobs/{id}/start` goes on.
         *         With `again` the model of a demo that was made so is fitted by the same recipe and replaced in its draft.
         */
        post: operations["create_starter"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/starters/{job_id}": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        /** Want something else of the table of a job that is held */
        patch: operations["patch_starter"];
        trace?: never;
    };
    "/api/v1/starters/sample": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** A table to try it with: what a pottery studio wrote down of the pieces it fired, made up */
        get: operations["get_sample_table"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/starter": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** How the draft's model was made of a table, with the script that makes it again */
        get: operations["get_starter"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/starter/script": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The training script of the draft's model with what it needs installed, as an archive */
        get: operations["get_script"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/take-away/plan": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What the file would be: whether it can be made, what it weighs, what would not be in it */
        get: operations["get_plan"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/take-away": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /**
         * The demo as one HTML file, which answers in its visitor's browser and asks nobody
         * @description Of what is published, or of the draft where nothing is.
         */
        get: operations["get_take_away"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/compiled": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /**
         * The compiled model by itself, for a page or a program of one's own that reads it (docs/compiled-model.md)
         * @description Of what is published, or of the draft where nothing is.
         */
        get: operations["get_compiled"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/use": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Answers a day, times, failures, and what visitors said became of them. The author's own tries do not count */
        get: operations["get_use"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/api/v1/demos/{slug}/log/{call}/again": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /**
         * Ask the draft what was asked then: whether what failed still does. It needs what was entered to have been kept
         * @description Where the model fails, the problem has its traceback.
         */
        post: operations["ask_again"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
}
export type webhooks = Record<string, never>;
export interface components {
    schemas: {
        /**
         * AccessChange
         * @description Who may open the demo, and where; what is left out stays as it is.
         */
        AccessChange: {
            /**
             * Access
             * @default null
             */
            access?: ("private" | "link" | "passcode" | "everyone") | null;
            /**
             * Passcode
             * @description At least 6 characters; may be left out if there is one already.
             * @default null
             */
            passcode?: string | null;
            /**
             * Link Days
             * @description After how many days a new secret link stops working; never if left out.
             * @default null
             */
            link_days?: number | null;
            /**
             * New Link
             * @description Make a new secret link; all others stop working.
             * @default false
             */
            new_link?: boolean;
            /**
             * Sites
             * @description Sites whose pages may show this one in a frame; as they were if left out.
             * @default null
             */
            sites?: string[] | null;
        };
        /**
         * AccessState
         * @description Who may open the demo, and how.
         */
        AccessState: {
            /**
             * Access
             * @enum {string}
             */
            access: "private" | "link" | "passcode" | "everyone";
            /**
             * Link
             * @description The newest secret link's path, if that is the access.
             * @default null
             */
            link?: string | null;
            /**
             * Link Expires
             * @default null
             */
            link_expires?: string | null;
            /**
             * Sites
             * @description Sites whose pages may show this one in a frame.
             * @default []
             */
            sites?: string[];
        };
        /**
         * AmongAnswer
         * @description Reference rows by one field and the model's answer.
         */
        AmongAnswer: {
            /** Field */
            field: string;
            /** Of */
            of: string;
            /** X */
            x: unknown[];
            /** Y */
            y: number[];
            /** Outcomes */
            outcomes: (string | number | null)[] | null;
        };
        /**
         * AnswerChanges
         * @description Settings of the answer. `classes` and `labels` are found by name, `values` by position.
         */
        AnswerChanges: {
            /**
             * Kind
             * @default null
             */
            kind?: string | null;
            /**
             * Noun
             * @default null
             */
            noun?: string | null;
            /**
             * Noun One
             * @default null
             */
            noun_one?: string | null;
            /**
             * Name
             * @default null
             */
            name?: string | null;
            /**
             * Unit
             * @default null
             */
            unit?: string | null;
            /**
             * Decimals
             * @default null
             */
            decimals?: number | null;
            /**
             * Better
             * @default null
             */
            better?: string | null;
            /**
             * Classes
             * @default null
             */
            classes?: {
                [key: string]: string;
            }[] | null;
            /**
             * Labels
             * @default null
             */
            labels?: {
                [key: string]: unknown;
            }[] | null;
            /**
             * Values
             * @default null
             */
            values?: {
                [key: string]: unknown;
            }[] | null;
            /**
             * Low
             * @default null
             */
            low?: number | null;
            /**
             * High
             * @default null
             */
            high?: number | null;
            /**
             * Counts
             * @default null
             */
            counts?: number[] | null;
            /**
             * Gives Probabilities
             * @default null
             */
            gives_probabilities?: boolean | null;
            /**
             * Coverage
             * @default null
             */
            coverage?: number | null;
            /**
             * Threshold
             * @default null
             */
            threshold?: number | null;
            /**
             * Threshold Of
             * @default null
             */
            threshold_of?: string | null;
            /**
             * Cost Of Miss
             * @default null
             */
            cost_of_miss?: number | null;
            /**
             * Cost Of False Alarm
             * @default null
             */
            cost_of_false_alarm?: number | null;
            /**
             * Bands
             * @default null
             */
            bands?: {
                [key: string]: unknown;
            }[] | null;
            /**
             * Least Score
             * @default null
             */
            least_score?: number | null;
            /**
             * Reading
             * @description How an answer in a picture is read from the output. What is left out stays as it is.
             * @default null
             */
            reading?: {
                [key: string]: unknown;
            } | null;
            /**
             * Before
             * @default null
             */
            before?: string | null;
            /**
             * Nothing
             * @default null
             */
            nothing?: string | null;
        };
        /**
         * AnswerDifferences
         * @description Answers of both to the same cases.
         *
         *     Where their outcomes are known, `better` and `worse`, and of all of them how many each of the two is right for, or
         *     how far off each is in the mean. With no cases `why_not` says why.
         */
        AnswerDifferences: {
            /**
             * Cases
             * @default 0
             */
            cases?: number;
            /**
             * Same
             * @default 0
             */
            same?: number;
            /**
             * Changed
             * @default 0
             */
            changed?: number;
            /**
             * Better
             * @default 0
             */
            better?: number;
            /**
             * Worse
             * @default 0
             */
            worse?: number;
            /**
             * Right
             * @default null
             */
            right?: [
                number,
                number
            ] | null;
            /**
             * Mean Absolute Error
             * @default null
             */
            mean_absolute_error?: [
                number,
                number
            ] | null;
            /**
             * Why Not
             * @default null
             */
            why_not?: ("rows" | "features" | "answer" | "pictures" | "runner") | null;
            /**
             * Examples
             * @default []
             */
            examples?: components["schemas"]["AnswerExample"][];
        };
        /**
         * AnswerExample
         * @description One case that the two answer otherwise: a class's name, or the number.
         *
         *     `at` is its place among those asked about, of a picture that in the archive; a picture has no `inputs`.
         */
        AnswerExample: {
            /** At */
            at: number;
            /** Before */
            before: string | number;
            /** After */
            after: string | number;
            /**
             * Truth
             * @default null
             */
            truth?: string | number | null;
            /**
             * Verdict
             * @default changed
             * @enum {string}
             */
            verdict?: "worse" | "better" | "changed";
            /**
             * Inputs
             * @default {}
             */
            inputs?: {
                [key: string]: unknown;
            };
        };
        /**
         * Band
         * @description A stretch of numbers with a name: "low use".
         */
        Band: {
            /** Label */
            label: string;
            /**
             * Below
             * @description Numbers below this, from where the band before ends; None for all that are left.
             * @default null
             */
            below?: number | null;
            /**
             * Tone
             * @description Whether it is good news or bad, if it is either.
             * @default
             * @enum {string}
             */
            tone?: "" | "calm" | "caution" | "alert";
        };
        /**
         * BoxFindings
         * @description How boxes may be read: the readings that were tried, best first, on how many pictures, and the outputs there are.
         *
         *     Of each output its axes; None for one that the file leaves open.
         */
        BoxFindings: {
            /**
             * Tries
             * @default []
             */
            tries?: components["schemas"]["ReadingTry"][];
            /**
             * N Pictures
             * @default 0
             */
            n_pictures?: number;
            /**
             * Are Authors
             * @default false
             */
            are_authors?: boolean;
            /**
             * Outputs
             * @default {}
             */
            outputs?: {
                [key: string]: (number | null)[];
            };
        };
        /**
         * BoxLabel
         * @description What a kind of box is called: its name from the model, and how a visitor reads it.
         */
        BoxLabel: {
            /** Name */
            name: string;
            /**
             * Label
             * @description One of them: "crack".
             */
            label: string;
            /**
             * Label Many
             * @description Several: "cracks". Guessed from one if left empty.
             * @default
             */
            label_many?: string;
            /**
             * Tone
             * @description Whether finding one is good news or bad, if it is either.
             * @default
             * @enum {string}
             */
            tone?: "" | "calm" | "caution" | "alert";
        };
        /**
         * BoxReading
         * @description How a model's outputs are read as boxes.
         *
         *     Either one output holds everything of a candidate side by side (`boxes` alone is named), or boxes, scores and
         *     classes are outputs of their own.
         */
        BoxReading: {
            /**
             * Boxes
             * @description The output that holds the four numbers of each box.
             */
            boxes: string;
            /**
             * Scores
             * @description The output of scores, where they are one of their own.
             * @default
             */
            scores?: string;
            /**
             * Classes
             * @description The output of class numbers, where they are one of their own.
             * @default
             */
            classes?: string;
            /**
             * Chosen
             * @description The output that lists which boxes are left: picture, class and box, as suppression in ONNX does.
             * @default
             */
            chosen?: string;
            /**
             * Count
             * @description The output that says how many of the boxes count.
             * @default
             */
            count?: string;
            /**
             * Candidates
             * @description Whether the numbers of a candidate stand side by side or below one another.
             * @default rows
             * @enum {string}
             */
            candidates?: "rows" | "columns";
            /**
             * Box At
             * @description Where the first of a box's four numbers stands.
             * @default 0
             */
            box_at?: number;
            /**
             * Score At
             * @description Where a candidate's score stands; beside scores of classes, how likely it is a thing at all.
             * @default null
             */
            score_at?: number | null;
            /**
             * Class At
             * @description Where the number of its class stands.
             * @default null
             */
            class_at?: number | null;
            /**
             * Classes From
             * @description From where on there is a score for each class.
             * @default null
             */
            classes_from?: number | null;
            /**
             * Form
             * @default two corners
             * @enum {string}
             */
            form?: "two corners" | "two corners, down first" | "centre and size" | "corner and size";
            /**
             * Unit
             * @description Of the picture as the model sees it, or shares of its width and height.
             * @default pixels
             * @enum {string}
             */
            unit?: "pixels" | "shares";
            /**
             * Link
             * @description What makes scores of the numbers.
             * @default none
             * @enum {string}
             */
            link?: "none" | "sigmoid" | "softmax";
            /**
             * Background
             * @description Which of the classes means that there is nothing.
             * @default none
             * @enum {string}
             */
            background?: "none" | "first" | "last";
            /**
             * First Class
             * @description The number of the first class.
             * @default 0
             * @enum {integer}
             */
            first_class?: 0 | 1;
            /**
             * Suppression
             * @description Whether overlapping boxes of one thing are still to be thinned out, or the model does that.
             * @default ours
             * @enum {string}
             */
            suppression?: "ours" | "inside";
            /**
             * Overlap
             * @description Of two boxes of a class that share more than this of their area the likelier one is kept.
             * @default 0.5
             */
            overlap?: number;
        };
        /**
         * BoxesAnswer
         * @description What was found in a picture, best score first. A picture that a phone took on its side counts as it is shown.
         */
        BoxesAnswer: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "boxes";
            /** Boxes */
            boxes: components["schemas"]["FoundBox"][];
            /** Width */
            width: number;
            /** Height */
            height: number;
            /**
             * Least Score
             * @description The lowest score that was asked for.
             */
            least_score: number;
        };
        /**
         * BoxesSetting
         * @description The answer is boxes around what the model finds in a picture.
         */
        BoxesSetting: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "boxes";
            /** Labels */
            labels: components["schemas"]["BoxLabel"][];
            /**
             * Noun
             * @description What is found, in the plural: "flaws".
             * @default things
             */
            noun?: string;
            /**
             * Noun One
             * @description One of them: "flaw". Guessed from the plural if left empty.
             * @default
             */
            noun_one?: string;
            /**
             * Least Score
             * @description Boxes with a lower score are not shown at first.
             * @default 0.3
             */
            least_score?: number;
            reading: components["schemas"]["BoxReading"];
        };
        /**
         * BridgeList
         * @description Those of an author.
         */
        BridgeList: {
            /**
             * Client
             * @description The file's name of the client: `pip install …/api/v1/bridge/NAME`.
             */
            client: string;
            /** Bridges */
            bridges: components["schemas"]["BridgeView"][];
        };
        /**
         * BridgeView
         * @description A demo that is answered from a process of its author's.
         */
        BridgeView: {
            /** Demo */
            demo: string;
            /** Connected */
            connected: boolean;
            /**
             * Since
             * @description Since when it is connected, or away.
             */
            since: string | null;
            /**
             * Name
             * @description What the process calls itself.
             */
            name: string;
            /** Python */
            python: string;
            /**
             * Client
             * @description The version of its client.
             */
            client: string;
        };
        /**
         * BrowserAnswers
         * @description How a page answers in its visitor's browser: what is fetched for that, and what is otherwise then.
         */
        BrowserAnswers: {
            /**
             * Mark
             * @description Another one when what is fetched is another.
             */
            mark: string;
            /**
             * Bytes
             * @description About what is fetched.
             */
            bytes: number;
            /**
             * Runs Graph
             * @description Whether the model is an ONNX graph: what runs one is fetched along, under `/assets`.
             */
            runs_graph: boolean;
            parts: components["schemas"]["PageParts"];
            /**
             * Left Out
             * @description What it cannot do that the server can, in sentences.
             */
            left_out: string[];
        };
        /**
         * CalibrationBin
         * @description Cases that were given about the same probability: its mean, and how often it came true.
         */
        CalibrationBin: {
            /** Predicted */
            predicted: number;
            /** Happened */
            happened: number;
            /** Low */
            low: number;
            /** High */
            high: number;
            /** Cases */
            cases: number;
        };
        /**
         * ChangesAnswer
         * @description The smallest believable changes that bring another class, or reach a number; different ones, smallest first.
         */
        ChangesAnswer: {
            /** Ways */
            ways: components["schemas"]["Way"][];
            /**
             * Reach
             * @description The number to be reached; the usual answer if none was given.
             */
            reach: number | null;
            /**
             * Is Complete
             * @description False if the time did not allow for all that is usually tried; there may be smaller ones then.
             */
            is_complete: boolean;
            /**
             * Is There
             * @description Whether the answer is already what was wanted.
             */
            is_there: boolean;
        };
        /**
         * CheckResult
         * @description A check that was made.
         */
        CheckResult: {
            /**
             * Status
             * @enum {string}
             */
            status: "pass" | "warn" | "fail" | "skip";
            /** Finding */
            finding: string;
            /**
             * Evidence
             * @description The figures it rests on.
             * @default {}
             */
            evidence?: {
                [key: string]: unknown;
            };
            /** @default null */
            fix?: components["schemas"]["Fix"] | null;
            /**
             * Name
             * @enum {string}
             */
            name: "features" | "same-as-original" | "same-as-expected" | "class-order" | "every-field" | "report" | "calibration" | "leakage" | "ranges" | "repeatable" | "bad-input" | "speed" | "size" | "versions" | "preparation" | "reading" | "words" | "readable";
            /**
             * Seconds
             * @default 0
             */
            seconds?: number;
        };
        /**
         * CheckRun
         * @description The checks of a draft.
         */
        CheckRun: {
            /**
             * Fit
             * @description Whether nothing stands in the way of publishing: no check fails.
             */
            fit: boolean;
            /** Checks */
            checks: components["schemas"]["CheckResult"][];
        };
        /**
         * ChoiceField
         * @description One of several options.
         */
        ChoiceField: {
            /** Name */
            name: string;
            /** Label */
            label: string;
            /**
             * Help
             * @default
             */
            help?: string;
            /**
             * Group
             * @default
             */
            group?: string;
            /**
             * Optional
             * @description May be left unknown (null): the reference column has gaps and the model takes them.
             * @default false
             */
            optional?: boolean;
            /**
             * Hidden
             * @description Visitors do not see it: every case has its start value. Chosen on purpose, and said.
             * @default false
             */
            hidden?: boolean;
            /**
             * Changeable
             * @description Whether a visitor could change this about the case at all.
             * @default true
             */
            changeable?: boolean;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "choice";
            /** Options */
            options: components["schemas"]["Option"][];
            /** Default */
            default: boolean | number | string | null;
            /**
             * Other
             * @description Values that are not among the options are answered, with a note.
             * @default false
             */
            other?: boolean;
        };
        /**
         * Choices
         * @description How a model is made of a table.
         */
        Choices: {
            /**
             * Target
             * @description The column that is to be predicted.
             * @default
             */
            target?: string;
            /**
             * Answer
             * @description What is to be said of it.
             * @default
             * @enum {string}
             */
            answer?: "" | "class" | "number";
            /**
             * Drop
             * @description Columns that are left out.
             * @default []
             */
            drop?: string[];
            /**
             * Keep
             * @description Columns that are used although they were pointed out.
             * @default []
             */
            keep?: string[];
            /**
             * Kinds
             * @description By column what it is taken for instead.
             * @default {}
             */
            kinds?: {
                [key: string]: "number" | "category" | "text" | "date";
            };
            /**
             * Group
             * @description The column whose rows stay together; empty for none, the suggested one if left out.
             * @default null
             */
            group?: string | null;
            /**
             * Time
             * @description The dates by which rows are parted, the latest kept back; empty for none.
             * @default null
             */
            time?: string | null;
            /**
             * Numbers
             * @description How the table writes numbers.
             * @default
             * @enum {string}
             */
            numbers?: "" | "1,234.5" | "1.234,5";
            /**
             * Dates
             * @description What comes first in dates whose year is last.
             * @default
             * @enum {string}
             */
            dates?: "" | "day" | "month";
            /**
             * Duplicates
             * @description Rows that are the same in every column.
             * @default
             * @enum {string}
             */
            duplicates?: "" | "keep" | "drop";
            /**
             * Weights
             * @description Whether rare classes count as much as frequent ones; tried both ways where it matters.
             * @default
             * @enum {string}
             */
            weights?: "" | "none" | "balanced";
            /**
             * Model
             * @description Which model is made; the plainest that is about as good as the best if left out.
             * @default
             * @enum {string}
             */
            model?: "" | "linear" | "tree" | "neighbours" | "boosted";
            /**
             * Title
             * @default
             */
            title?: string;
            /**
             * Slug
             * @default
             */
            slug?: string;
            /**
             * Hold
             * @description Wait for a word once the table was looked at, and again once models were compared.
             * @default false
             */
            hold?: boolean;
        };
        /**
         * ClassAnswer
         * @description A class with probabilities, likeliest first (none where the model gives none).
         */
        ClassAnswer: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "class";
            /** Class */
            class: string;
            /** Probabilities */
            probabilities: components["schemas"]["ClassProbability"][];
            /** Headline */
            headline: string;
            /**
             * @description None without enough known cases.
             * @default null
             */
            possible?: components["schemas"]["PossibleClasses"] | null;
            /**
             * Calibrated
             * @description Whether known cases bear out the said class's probability: so many do turn out so.
             * @default false
             */
            calibrated?: boolean;
            /**
             * Unlike
             * @description Whether the case is unlike anything seen: nothing is then said of what is still possible.
             * @default false
             */
            unlike?: boolean;
        };
        /**
         * ClassDifferences
         * @description Classes by name.
         */
        ClassDifferences: {
            /**
             * Added
             * @default []
             */
            added?: string[];
            /**
             * Gone
             * @default []
             */
            gone?: string[];
            /**
             * Order Changed
             * @default false
             */
            order_changed?: boolean;
        };
        /**
         * ClassProbability
         * @description How likely one class is.
         */
        ClassProbability: {
            /** Class */
            class: string;
            /** Probability */
            probability: number;
            /**
             * Of 100
             * @description Its share of 100 marks; the marks of all classes add up to 100.
             */
            of_100: number;
            /** Label */
            label: string;
        };
        /**
         * ClassRow
         * @description One class: of those answered so, how many were; of those that were, how many were answered so.
         */
        ClassRow: {
            /** Class */
            class: string;
            /**
             * Precision
             * @description None where nothing was answered so.
             */
            precision: number | null;
            /**
             * Recall
             * @description None where nothing was so.
             */
            recall: number | null;
            /**
             * Cases
             * @description How many were.
             */
            cases: number;
            /**
             * Answered
             * @description How many were answered so.
             */
            answered: number;
        };
        /**
         * ClassSetting
         * @description The answer is one of several classes.
         */
        ClassSetting: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "class";
            /** Classes */
            classes: components["schemas"]["ClassWording"][];
            /**
             * Noun
             * @description What is counted, in the plural: "pieces".
             * @default cases
             */
            noun?: string;
            /**
             * Noun One
             * @description One of them: "piece". Guessed from the plural if left empty.
             * @default
             */
            noun_one?: string;
            /**
             * Gives Probabilities
             * @default true
             */
            gives_probabilities?: boolean;
            /**
             * Coverage
             * @description How often the classes that are still possible hold the true one.
             * @default 0.9
             */
            coverage?: number;
            /**
             * Threshold
             * @description Of two classes: from this probability on `threshold_of` is said; None for the likelier one.
             * @default null
             */
            threshold?: number | null;
            /**
             * Threshold Of
             * @description The class that the threshold is about, by its name.
             * @default
             */
            threshold_of?: string;
            /**
             * Cost Of Miss
             * @description What it costs not to say `threshold_of` where it is so; it only helps to find a threshold.
             * @default null
             */
            cost_of_miss?: number | null;
            /**
             * Cost Of False Alarm
             * @description What it costs to say it where it is not.
             * @default null
             */
            cost_of_false_alarm?: number | null;
        };
        /**
         * ClassWording
         * @description One class: its name from the model, and how a visitor reads it.
         */
        ClassWording: {
            /** Name */
            name: string;
            /**
             * Label
             * @description Under the marks: "crack", as in "72 crack".
             */
            label: string;
            /**
             * Label One
             * @description The same of one: "cracks". Guessed from the label if left empty.
             * @default
             */
            label_one?: string;
            /**
             * Headline
             * @description Above the answer when this class is the likeliest: "Likely to crack".
             */
            headline: string;
            /**
             * Tone
             * @description Whether this class is good news or bad, if it is either.
             * @default
             * @enum {string}
             */
            tone?: "" | "calm" | "caution" | "alert";
        };
        /**
         * ColumnLook
         * @description One column of the table.
         */
        ColumnLook: {
            /** Name */
            name: string;
            /**
             * Kind
             * @enum {string}
             */
            kind: "number" | "category" | "yes_no" | "date" | "text" | "identifier" | "constant" | "empty";
            /**
             * May Be
             * @default []
             */
            may_be?: ("number" | "category" | "yes_no" | "date" | "text" | "identifier" | "constant" | "empty")[];
            /** N Distinct */
            n_distinct: number;
            /** N Gaps */
            n_gaps: number;
            /**
             * Examples
             * @description Some of its first values, as they are written.
             */
            examples: string[];
            /**
             * Counts
             * @description Of numbers and dates: how many lie in each of equally wide bins.
             * @default []
             */
            counts?: number[];
            /**
             * Low
             * @description The smallest number; of dates in seconds since 1970.
             * @default null
             */
            low?: number | null;
            /**
             * High
             * @default null
             */
            high?: number | null;
            /**
             * Common
             * @description Of categories: the most frequent.
             * @default []
             */
            common?: components["schemas"]["ValueCount"][];
            /**
             * Odd
             * @description Values that are none of its kind; they count as gaps.
             * @default []
             */
            odd?: components["schemas"]["OddValue"][];
            /**
             * Stand Ins
             * @description Numbers that seem to stand for a missing one.
             * @default []
             */
            stand_ins?: number[];
            /**
             * Spelled
             * @description By spelling the usual one, where a value has several.
             * @default {}
             */
            spelled?: {
                [key: string]: string;
            };
            /**
             * Decimal
             * @default point
             * @enum {string}
             */
            decimal?: "point" | "comma";
            /**
             * Unit
             * @description What stands behind the number in its cells.
             * @default
             */
            unit?: string;
            /**
             * Day First
             * @default true
             */
            day_first?: boolean;
            /**
             * Parts
             * @description Of dates: what is made of them.
             * @default []
             */
            parts?: ("month" | "weekday" | "hour")[];
        };
        /**
         * ColumnOfField
         * @description Which column a field is read from, and how.
         */
        ColumnOfField: {
            /** Field */
            field: string;
            /** Column */
            column: string;
            /**
             * How
             * @enum {string}
             */
            how: "name" | "label" | "hand";
            /**
             * Unit
             * @default
             */
            unit?: string;
            /**
             * Factor
             * @description Its numbers are multiplied by this.
             * @default 1
             */
            factor?: number;
        };
        /**
         * Comparison
         * @description All of them, guessing first.
         */
        Comparison: {
            /**
             * Measure
             * @description `wrong`: the share of rows said wrongly; `missed`: of each class the share missed, on average; `off`: how far off, on average, in the outcome's unit.
             * @enum {string}
             */
            measure: "wrong" | "missed" | "off";
            /** Tried */
            tried: components["schemas"]["Tried"][];
            /**
             * Offered
             * @description The plainest whose error is within one standard error of the least.
             */
            offered: string;
            /** Best */
            best: string;
            /**
             * N Rows
             * @description Rows that models learned from and were tried on.
             */
            n_rows: number;
            /**
             * N Tried
             * @description Rows that models were tried on; by time the first are only learned from.
             */
            n_tried: number;
            /**
             * N Of
             * @description Of so many that were not kept back.
             */
            n_of: number;
            /** N Kept Back */
            n_kept_back: number;
            /** N Splits */
            n_splits: number;
            /** N Repeats */
            n_repeats: number;
            /**
             * Parted By
             * @enum {string}
             */
            parted_by: "chance" | "group" | "time";
            /** N Units */
            n_units: number;
            /**
             * Is Better
             * @description Whether any of them is better than guessing, beyond doubt.
             */
            is_better: boolean;
            /**
             * Weights
             * @enum {string}
             */
            weights: "none" | "balanced" | "both";
            /**
             * Unit
             * @description Of what is predicted, where it is a number.
             * @default
             */
            unit?: string;
            /**
             * Verdict
             * @description What it comes to, in words.
             * @default
             */
            verdict?: string;
        };
        /**
         * CompiledReport
         * @description Whether a compiled model was adopted, on what evidence, and what stood in the way if not.
         */
        CompiledReport: {
            /** Adopted */
            adopted: boolean;
            /**
             * N Rows Compared
             * @default 0
             */
            n_rows_compared?: number;
            /**
             * Largest Difference
             * @default null
             */
            largest_difference?: number | null;
            /**
             * Worst Row
             * @default null
             */
            worst_row?: {
                [key: string]: boolean | number | string | null;
            } | null;
            /**
             * Obstacle
             * @default null
             */
            obstacle?: string | null;
        };
        /**
         * Confusion
         * @description What happened, row by row, against what was answered, column by column.
         */
        Confusion: {
            /** Classes */
            classes: string[];
            /** Counts */
            counts: number[][];
        };
        /**
         * ContributionAnswer
         * @description What one field adds to the answer, or takes off it.
         */
        ContributionAnswer: {
            /** Field */
            field: string;
            /** Value */
            value: unknown;
            /** Contribution */
            contribution: number;
            /**
             * Error
             * @description Standard error, where it was sampled.
             * @default null
             */
            error?: number | null;
        };
        /**
         * CurveAnswer
         * @description How the answer would move if only this field moved.
         */
        CurveAnswer: {
            /** Field */
            field: string;
            /** Of */
            of: string;
            /**
             * Shape
             * @enum {string}
             */
            shape: "steps" | "line" | "options";
            /** X */
            x: unknown[];
            /** Y */
            y: number[];
            /**
             * Thinned
             * @description Jumps too close for a small chart were left out.
             * @default false
             */
            thinned?: boolean;
            /**
             * Unknown
             * @description For a number that may be unknown, the answer if it is.
             * @default null
             */
            unknown?: number | null;
        };
        /**
         * DeletedEntry
         * @description A demo that was deleted and can be brought back.
         */
        DeletedEntry: {
            /** Slug */
            slug: string;
            /** Title */
            title: string;
            /**
             * Deleted
             * Format: date-time
             */
            deleted: string;
        };
        /**
         * DemoDocument
         * @description All that an author can set about a demo. `fields` stand in the order visitors read them.
         */
        DemoDocument: {
            /** Title */
            title: string;
            /**
             * Purpose
             * @description One sentence in the visitor's words.
             * @default
             */
            purpose?: string;
            /**
             * Description
             * @description Markdown.
             * @default
             */
            description?: string;
            /**
             * Not For
             * @description What the demo is not for.
             * @default
             */
            not_for?: string;
            /**
             * Licence
             * @default
             */
            licence?: string;
            /**
             * Record Inputs
             * @description Keep what visitors enter; the page then says so.
             * @default false
             */
            record_inputs?: boolean;
            /**
             * Record Days
             * @description For so many days what visitors enter is kept, where it is kept.
             * @default 90
             */
            record_days?: number;
            /**
             * @default {
             *       "curves": true,
             *       "contributions": true,
             *       "changes": true,
             *       "similar": true,
             *       "among": true,
             *       "overall": true,
             *       "compare": true,
             *       "report": false,
             *       "outcomes": true,
             *       "truth": false,
             *       "tables": false,
             *       "films": false
             *     }
             */
            parts?: components["schemas"]["PageParts"];
            /**
             * Samples
             * @description Ready cases; each needs a value for every field.
             * @default []
             */
            samples?: components["schemas"]["Sample"][];
            /**
             * Sample Films
             * @description Ready films, where visitors may have films answered.
             * @default []
             */
            sample_films?: components["schemas"]["SampleFilm"][];
            /**
             * Background Rows
             * @description Reference rows that contributions are counted against, at the most.
             * @default 100
             */
            background_rows?: number;
            /**
             * Table Rows
             * @description How many rows a visitor's table may have.
             * @default 10000
             */
            table_rows?: number;
            /**
             * Film Rate
             * @description About how many frames of a film's second it is asked.
             * @default 5
             */
            film_rate?: number;
            /**
             * Confirmed
             * @description What was concluded and the author has confirmed.
             * @default []
             */
            confirmed?: ("features" | "class-order" | "preparation" | "reading")[];
            /**
             * Asks
             * @description Whether the page asks for an answer at each change (`live`), by a button (`button`), or as the model's own time allows (`auto`).
             * @default auto
             * @enum {string}
             */
            asks?: "auto" | "live" | "button";
            /**
             * Answers In
             * @description Whether this server answers visitors of the page (`server`), or their own browser, to which the model goes then (`browser`; only models with a compiled form).
             * @default server
             * @enum {string}
             */
            answers_in?: "server" | "browser";
            /**
             * Browser Rows
             * @description Whether the rows of the reference table go to browsers along with the model; where it is left open they do if the page shows rows anyway.
             * @default null
             */
            browser_rows?: boolean | null;
            /** @default null */
            logo?: components["schemas"]["Logo"] | null;
            /** Fields */
            fields: (components["schemas"]["NumberField"] | components["schemas"]["ChoiceField"] | components["schemas"]["YesNoField"] | components["schemas"]["TextField"] | components["schemas"]["PictureField"] | components["schemas"]["DrawingField"])[];
            /** Answer */
            answer: components["schemas"]["ClassSetting"] | components["schemas"]["NumberSetting"] | components["schemas"]["NumbersSetting"] | components["schemas"]["LabelsSetting"] | components["schemas"]["BoxesSetting"] | components["schemas"]["PictureSetting"] | components["schemas"]["MaskSetting"] | components["schemas"]["TextSetting"] | components["schemas"]["TableSetting"];
        };
        /**
         * DemoState
         * @description A demo's draft with all about it that its author sees. The settings are the keys of `demo.toml`.
         */
        DemoState: {
            /** Title */
            title: string;
            /**
             * Purpose
             * @description One sentence in the visitor's words.
             * @default
             */
            purpose?: string;
            /**
             * Description
             * @description Markdown.
             * @default
             */
            description?: string;
            /**
             * Not For
             * @description What the demo is not for.
             * @default
             */
            not_for?: string;
            /**
             * Licence
             * @default
             */
            licence?: string;
            /**
             * Record Inputs
             * @description Keep what visitors enter; the page then says so.
             * @default false
             */
            record_inputs?: boolean;
            /**
             * Record Days
             * @description For so many days what visitors enter is kept, where it is kept.
             * @default 90
             */
            record_days?: number;
            /**
             * @default {
             *       "curves": true,
             *       "contributions": true,
             *       "changes": true,
             *       "similar": true,
             *       "among": true,
             *       "overall": true,
             *       "compare": true,
             *       "report": false,
             *       "outcomes": true,
             *       "truth": false,
             *       "tables": false,
             *       "films": false
             *     }
             */
            parts?: components["schemas"]["PageParts"];
            /**
             * Samples
             * @description Ready cases; each needs a value for every field.
             * @default []
             */
            samples?: components["schemas"]["Sample"][];
            /**
             * Sample Films
             * @description Ready films, where visitors may have films answered.
             * @default []
             */
            sample_films?: components["schemas"]["SampleFilm"][];
            /**
             * Background Rows
             * @description Reference rows that contributions are counted against, at the most.
             * @default 100
             */
            background_rows?: number;
            /**
             * Table Rows
             * @description How many rows a visitor's table may have.
             * @default 10000
             */
            table_rows?: number;
            /**
             * Film Rate
             * @description About how many frames of a film's second it is asked.
             * @default 5
             */
            film_rate?: number;
            /**
             * Confirmed
             * @description What was concluded and the author has confirmed.
             * @default []
             */
            confirmed?: ("features" | "class-order" | "preparation" | "reading")[];
            /**
             * Asks
             * @description Whether the page asks for an answer at each change (`live`), by a button (`button`), or as the model's own time allows (`auto`).
             * @default auto
             * @enum {string}
             */
            asks?: "auto" | "live" | "button";
            /**
             * Answers In
             * @description Whether this server answers visitors of the page (`server`), or their own browser, to which the model goes then (`browser`; only models with a compiled form).
             * @default server
             * @enum {string}
             */
            answers_in?: "server" | "browser";
            /**
             * Browser Rows
             * @description Whether the rows of the reference table go to browsers along with the model; where it is left open they do if the page shows rows anyway.
             * @default null
             */
            browser_rows?: boolean | null;
            /** @default null */
            logo?: components["schemas"]["Logo"] | null;
            /** Fields */
            fields: (components["schemas"]["NumberField"] | components["schemas"]["ChoiceField"] | components["schemas"]["YesNoField"] | components["schemas"]["TextField"] | components["schemas"]["PictureField"] | components["schemas"]["DrawingField"])[];
            /** Answer */
            answer: components["schemas"]["ClassSetting"] | components["schemas"]["NumberSetting"] | components["schemas"]["NumbersSetting"] | components["schemas"]["LabelsSetting"] | components["schemas"]["BoxesSetting"] | components["schemas"]["PictureSetting"] | components["schemas"]["MaskSetting"] | components["schemas"]["TextSetting"] | components["schemas"]["TableSetting"];
            /** Slug */
            slug: string;
            /** Target */
            target: string | null;
            access: components["schemas"]["AccessState"];
            release: components["schemas"]["ReleaseState"] | null;
            /** Draft Differs */
            draft_differs: boolean;
            found: components["schemas"]["Found"];
            compiled: components["schemas"]["CompiledReport"];
            /**
             * Ignored
             * @description Columns of the reference table that the model never asks for.
             */
            ignored: string[];
            /** N Reference Rows */
            n_reference_rows: number;
            /**
             * Overall By All
             * @description Whether what matters overall has been worked out by all rows that are kept.
             * @default false
             */
            overall_by_all?: boolean;
            /**
             * Notes
             * @description What the author should check, because it was concluded.
             */
            notes: string[];
            /**
             * Targets
             * @description The outcome's column for each of several answers.
             */
            targets: string[];
            /**
             * Candidates
             * @description Columns that could be the outcome, if the author has to say which.
             */
            candidates: string[];
            /**
             * Questions
             * @description What publishing asks about, until it is confirmed.
             */
            questions: components["schemas"]["Question"][];
            /** Has Labels */
            has_labels: boolean;
            /** Has Reference */
            has_reference: boolean;
            /** Has Preprocessor */
            has_preprocessor: boolean;
            /**
             * Requirements
             * @default null
             */
            requirements?: string | null;
            /** @default null */
            environment?: components["schemas"]["EnvironmentState"] | null;
            /**
             * @description Who answers, of a model that stays in a process of its author's.
             * @default null
             */
            bridge?: components["schemas"]["BridgeView"] | null;
            /**
             * Release While Away
             * @description The release that answers while the process of the one that visitors see is away.
             * @default null
             */
            release_while_away?: number | null;
            /**
             * Has Beside
             * @description Whether files lie beside the function.
             * @default false
             */
            has_beside?: boolean;
            /** Has Known Cases */
            has_known_cases: boolean;
            /**
             * Known Group
             * @description The column that says what each known case is a case of.
             * @default null
             */
            known_group?: string | null;
            /**
             * Known Groups
             * @description Columns that could: some known cases share a value of theirs, not all do.
             * @default []
             */
            known_groups?: string[];
            /**
             * Has Expected
             * @description Whether outputs of the author's own are there to compare with.
             * @default false
             */
            has_expected?: boolean;
            /**
             * Evidence Is Stale
             * @description Whether known cases were measured with pictures prepared otherwise than now, or a field free.
             */
            evidence_is_stale: boolean;
            /** @description What known cases say of the model. */
            evidence: components["schemas"]["Evidence"] | null;
            /**
             * Strength
             * @description How far each field moves answers on average, strongest first; 0 for one that never did.
             */
            strength: {
                [key: string]: number;
            };
            /**
             * Unused
             * @description Fields that the model makes no use of.
             */
            unused: string[];
            /**
             * @description What known pictures told.
             * @default {
             *       "tries": [],
             *       "n_known": 0,
             *       "n_right": 0
             *     }
             */
            pictures?: components["schemas"]["PictureFindings"];
            /**
             * @description How boxes may be read from the model's outputs, where its answer is boxes.
             * @default null
             */
            boxes?: components["schemas"]["BoxFindings"] | null;
            /** @description What known cases say of the model, as every page says it. */
            report: components["schemas"]["Report"] | null;
            /**
             * Likeness
             * @description How cases unlike the known ones are told.
             * @default []
             */
            likeness?: components["schemas"]["LikenessFound"][];
        };
        /**
         * Differences
         * @description What differs between a demo's model and the one that would replace it.
         */
        Differences: {
            /**
             * @default {
             *       "added": [],
             *       "gone": [],
             *       "changed": [],
             *       "renamed": [],
             *       "ranges": []
             *     }
             */
            features?: components["schemas"]["FeatureDifferences"];
            /**
             * @default {
             *       "added": [],
             *       "gone": [],
             *       "order_changed": false
             *     }
             */
            classes?: components["schemas"]["ClassDifferences"];
            /**
             * @default {
             *       "cases": 0,
             *       "same": 0,
             *       "changed": 0,
             *       "better": 0,
             *       "worse": 0,
             *       "right": null,
             *       "mean_absolute_error": null,
             *       "why_not": null,
             *       "examples": []
             *     }
             */
            answers?: components["schemas"]["AnswerDifferences"];
        };
        /**
         * DraftChange
         * @description What an author changes of a draft, and of the demo's address.
         */
        DraftChange: {
            /**
             * Title
             * @default null
             */
            title?: string | null;
            /**
             * Purpose
             * @default null
             */
            purpose?: string | null;
            /**
             * Description
             * @default null
             */
            description?: string | null;
            /**
             * Not For
             * @default null
             */
            not_for?: string | null;
            /**
             * Licence
             * @default null
             */
            licence?: string | null;
            /**
             * Record Inputs
             * @default null
             */
            record_inputs?: boolean | null;
            /**
             * Record Days
             * @default null
             */
            record_days?: number | null;
            /**
             * Asks
             * @default null
             */
            asks?: ("auto" | "live" | "button") | null;
            /**
             * Answers In
             * @default null
             */
            answers_in?: ("server" | "browser") | null;
            /**
             * Browser Rows
             * @default null
             */
            browser_rows?: boolean | null;
            /** @default null */
            logo?: components["schemas"]["Logo"] | null;
            /** @default null */
            parts?: components["schemas"]["PartsChanges"] | null;
            /**
             * Samples
             * @default null
             */
            samples?: components["schemas"]["Sample"][] | null;
            /**
             * Sample Films
             * @default null
             */
            sample_films?: components["schemas"]["SampleFilm"][] | null;
            /**
             * Background Rows
             * @default null
             */
            background_rows?: number | null;
            /**
             * Table Rows
             * @default null
             */
            table_rows?: number | null;
            /**
             * Film Rate
             * @default null
             */
            film_rate?: number | null;
            /**
             * Confirmed
             * @default null
             */
            confirmed?: ("features" | "class-order" | "preparation" | "reading")[] | null;
            /**
             * Fields
             * @default null
             */
            fields?: components["schemas"]["FieldChanges"][] | null;
            /** @default null */
            answer?: components["schemas"]["AnswerChanges"] | null;
            /**
             * Slug
             * @default null
             */
            slug?: string | null;
        };
        /**
         * DrawingField
         * @description A drawing: strokes in the order they were drawn. A picture is taken too.
         */
        DrawingField: {
            /** Name */
            name: string;
            /** Label */
            label: string;
            /**
             * Help
             * @default
             */
            help?: string;
            /**
             * Group
             * @default
             */
            group?: string;
            /**
             * Optional
             * @description May be left unknown (null): the reference column has gaps and the model takes them.
             * @default false
             */
            optional?: boolean;
            /**
             * Hidden
             * @description Visitors do not see it: every case has its start value. Chosen on purpose, and said.
             * @default false
             */
            hidden?: boolean;
            /**
             * Changeable
             * @description Whether a visitor could change this about the case at all.
             * @default true
             */
            changeable?: boolean;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "drawing";
            /**
             * Default
             * @default null
             */
            default?: null;
            preparation: components["schemas"]["Preparation"];
            /**
             * Behind
             * @description The colour of the paper.
             * @default [
             *       255,
             *       255,
             *       255
             *     ]
             */
            behind?: number[];
            /**
             * Line Width
             * @description How wide a line is, as a share of the drawing's side; as in the pictures of the training.
             * @default 0.07
             */
            line_width?: number;
            /**
             * Centred
             * @description The drawing is moved to the middle and made to fill most of the paper.
             * @default false
             */
            centred?: boolean;
        };
        /**
         * DriftBin
         * @description One bin: how many of 100 reference rows, and of 100 of visitors' cases, fall into it.
         */
        DriftBin: {
            /** Name */
            name: string;
            /** Reference */
            reference: number;
            /** Use */
            use: number;
        };
        /**
         * DriftEntry
         * @description One field, or the answer, or one of several.
         */
        DriftEntry: {
            /**
             * Field
             * @description None for the answer.
             */
            field: string | null;
            /** Label */
            label: string;
            /**
             * Statistic
             * @default total-variation
             * @constant
             */
            statistic?: "total-variation";
            /**
             * Value
             * @description The share of cases that would have to lie elsewhere for use to look like the table, from 0 to 1.
             */
            value: number;
            /**
             * P
             * @description How often chance alone is this far apart (chi-square test); none with too few cases.
             */
            p: number | null;
            /**
             * Cases
             * @description Visitors' cases that were counted.
             */
            cases: number;
            /**
             * Drifted
             * @description Whether it is more than chance, and more than a tenth.
             */
            drifted: boolean;
            /** Finding */
            finding: string;
            /** Bins */
            bins: components["schemas"]["DriftBin"][];
        };
        /**
         * DriftReport
         * @description Drift of each field, the furthest first, and of the answer. No input is kept for it: only counts are.
         */
        DriftReport: {
            /** Weeks */
            weeks: number;
            /**
             * Level
             * @description Below this chance, over all tests together, it is said to have drifted.
             */
            level: number;
            /** Fields */
            fields: components["schemas"]["DriftEntry"][];
            /**
             * Answers
             * @description The answer, or each of several. None without a scale.
             */
            answers: components["schemas"]["DriftEntry"][];
            /**
             * Answers Counted
             * @description False where the model is too slow to be asked meanwhile how its answers usually lie, or cannot be asked now: then nothing is said of them. A job of kind `drift` counts that.
             */
            answers_counted: boolean;
            /**
             * Can Be Counted
             * @description Whether such a job could.
             */
            can_be_counted: boolean;
            /**
             * Not Counted
             * @description Fields whose values have no bins: texts, pictures, drawings.
             */
            not_counted: string[];
        };
        /**
         * EnvironmentList
         * @description Environments, the newest first.
         */
        EnvironmentList: {
            /** Environments */
            environments: components["schemas"]["EnvironmentView"][];
        };
        /**
         * EnvironmentPackage
         * @description One package of an environment.
         */
        EnvironmentPackage: {
            /** Name */
            name: string;
            /** Version */
            version: string;
        };
        /**
         * EnvironmentState
         * @description The libraries that a demo's model has of its own.
         */
        EnvironmentState: {
            /** Id */
            id: string;
            /** Packages */
            packages: components["schemas"]["EnvironmentPackage"][];
            /** Is Here */
            is_here: boolean;
        };
        /**
         * EnvironmentView
         * @description An environment.
         */
        EnvironmentView: {
            /** Id */
            id: string;
            /**
             * Requirements
             * @description What was asked for when it was built.
             */
            requirements: string;
            /**
             * Packages
             * @description What that came to, locked by hash.
             */
            packages: components["schemas"]["EnvironmentPackage"][];
            /** Bytes */
            bytes: number;
            /**
             * Demos
             * @description Those of your demos that use it.
             */
            demos: string[];
            /**
             * Is Here
             * @description False where it was cleaned away; it is built again when it is needed.
             */
            is_here: boolean;
        };
        /**
         * ErrorBin
         * @description Cases whose error, answer less truth, lies in a stretch.
         */
        ErrorBin: {
            /** Low */
            low: number;
            /** High */
            high: number;
            /** Cases */
            cases: number;
        };
        /**
         * ErrorStretch
         * @description Errors of answers within a stretch: the middle one, and what 5 and 95 of 100 lie below.
         */
        ErrorStretch: {
            /** Low */
            low: number;
            /** High */
            high: number;
            /** Cases */
            cases: number;
            /** Median */
            median: number;
            /** Low Error */
            low_error: number;
            /** High Error */
            high_error: number;
        };
        /**
         * Estimate
         * @description A figure with the range that it may well be off by: 19 in 20 such ranges hold the truth.
         */
        Estimate: {
            /** Value */
            value: number;
            /** Low */
            low: number;
            /** High */
            high: number;
        };
        /**
         * Evidence
         * @description How the model did on known cases, or one of its outputs did.
         */
        Evidence: {
            /** N Known */
            n_known: number;
            /** Margins */
            margins: (number | null)[];
            /**
             * Right
             * @default null
             */
            right?: number | null;
            /**
             * Typical Error
             * @default null
             */
            typical_error?: number | null;
            /**
             * Borne Out
             * @default []
             */
            borne_out?: number[][][];
            /**
             * Confusion
             * @default []
             */
            confusion?: number[][];
            /**
             * N Right At
             * @default []
             */
            n_right_at?: number[];
            /**
             * N Right From
             * @default []
             */
            n_right_from?: number[][];
            /**
             * Outputs
             * @default []
             */
            outputs?: components["schemas"]["Evidence"][];
        };
        /**
         * ExpectedPart
         * @description A table of inputs and outputs.
         */
        ExpectedPart: {
            /**
             * Expected
             * @description CSV, Parquet, a spreadsheet or JSON lines.
             */
            expected: string;
        };
        /**
         * ExpectedState
         * @description What was made of the table.
         */
        ExpectedState: {
            /**
             * Total
             * @description Rows of the table.
             */
            total: number;
            /**
             * Compared
             * @description Rows that are compared.
             */
            compared: number;
            /**
             * Columns
             * @description Columns of outputs that are compared.
             */
            columns: string[];
            /**
             * Not Asked
             * @description Rows that no case can be made of; the check says why.
             */
            not_asked: number;
            /** Notes */
            notes: string[];
        };
        /**
         * ExplanationAnswer
         * @description What brought the answer from the baseline to where it is; contributions add up to the difference.
         */
        ExplanationAnswer: {
            /**
             * Of
             * @description The class, or the number, that is explained.
             */
            of: string;
            /** Unit */
            unit: string;
            /**
             * Baseline
             * @description The average answer over the reference sample.
             */
            baseline: number;
            /** Method */
            method: string;
            /**
             * Contributions
             * @description The largest first.
             */
            contributions: components["schemas"]["ContributionAnswer"][];
            /**
             * Error
             * @description The largest standard error; 0 where the method is exact.
             */
            error: number;
            /** N Background */
            n_background: number;
            /**
             * Words
             * @description For fields of text, what their words did.
             * @default []
             */
            words?: components["schemas"]["WordsAnswer"][];
        };
        /**
         * Familiarity
         * @description How like the reference rows a case is.
         */
        Familiarity: {
            /**
             * Is Unlike
             * @description Whether the case is unlike anything seen.
             */
            is_unlike: boolean;
            /**
             * Distance
             * @description From its nearest reference rows; about 1 is a usual difference.
             */
            distance: number;
            /**
             * Share As Far
             * @description Of the reference rows, the share at least as far from theirs.
             */
            share_as_far: number;
        };
        /**
         * FeatureDifferences
         * @description Features by name. `renamed` pairs one that is gone with the added one it may have become.
         */
        FeatureDifferences: {
            /**
             * Added
             * @default []
             */
            added?: string[];
            /**
             * Gone
             * @default []
             */
            gone?: string[];
            /**
             * Changed
             * @default []
             */
            changed?: string[];
            /**
             * Renamed
             * @default []
             */
            renamed?: [
                string,
                string
            ][];
            /**
             * Ranges
             * @default []
             */
            ranges?: components["schemas"]["RangeDifference"][];
        };
        /**
         * FieldChanges
         * @description Settings of one field, found by its name. What is left out stays as it is.
         */
        FieldChanges: {
            /** Name */
            name: string;
            /**
             * Label
             * @default null
             */
            label?: string | null;
            /**
             * Help
             * @default null
             */
            help?: string | null;
            /**
             * Group
             * @default null
             */
            group?: string | null;
            /**
             * Unit
             * @default null
             */
            unit?: string | null;
            /**
             * Minimum
             * @default null
             */
            minimum?: number | null;
            /**
             * Maximum
             * @default null
             */
            maximum?: number | null;
            /**
             * Step
             * @default null
             */
            step?: number | null;
            /**
             * Default
             * @default null
             */
            default?: boolean | number | string | null;
            /**
             * Options
             * @default null
             */
            options?: components["schemas"]["Option"][] | null;
            /**
             * Other
             * @default null
             */
            other?: boolean | null;
            /**
             * Max Length
             * @default null
             */
            max_length?: number | null;
            /**
             * Changeable
             * @default null
             */
            changeable?: boolean | null;
            /**
             * Hidden
             * @default null
             */
            hidden?: boolean | null;
            /**
             * Direction
             * @default null
             */
            direction?: ("any" | "up" | "down") | null;
            /**
             * Calendar
             * @default null
             */
            calendar?: string | null;
            /**
             * Preparation
             * @default null
             */
            preparation?: {
                [key: string]: unknown;
            } | null;
            /**
             * Behind
             * @default null
             */
            behind?: number[] | null;
            /**
             * Line Width
             * @default null
             */
            line_width?: number | null;
            /**
             * Centred
             * @default null
             */
            centred?: boolean | null;
            /**
             * Kind
             * @default null
             */
            kind?: string | null;
            /**
             * Seen
             * @default null
             */
            seen?: {
                [key: string]: unknown;
            } | null;
            /**
             * Whole
             * @default null
             */
            whole?: boolean | null;
            /**
             * Optional
             * @default null
             */
            optional?: boolean | null;
            /**
             * No
             * @default null
             */
            no?: boolean | number | string | null;
            /**
             * Yes
             * @default null
             */
            yes?: boolean | number | string | null;
        };
        /**
         * FieldProblem
         * @description One fault in what was sent.
         */
        FieldProblem: {
            /** Field */
            field: string | null;
            /** Message */
            message: string;
            /**
             * Asks
             * @description What only its author knows: the word that the answer is sent as.
             * @default null
             */
            asks?: string | null;
            /**
             * Choices
             * @description What may be said to that; empty if anything.
             * @default []
             */
            choices?: string[];
        };
        /**
         * FilmFound
         * @description What came of looking at a film.
         */
        FilmFound: {
            /** Width */
            width: number;
            /** Height */
            height: number;
            /**
             * Seconds
             * @description How long it lasts, where that can be told.
             */
            seconds: number | null;
            /**
             * Film Rate
             * @description Its own frames a second.
             */
            film_rate: number;
            /** Has Sound */
            has_sound: boolean;
            /**
             * Rate
             * @description About how many frames a second are asked about.
             */
            rate: number;
        };
        /**
         * FilmFrame
         * @description What came of one frame.
         */
        FilmFrame: {
            /**
             * At
             * @description From when on it is shown, in seconds from the film's start.
             */
            at: number;
            /**
             * Values
             * @description A number for each row: probabilities, the number that was asked for, or how many boxes of a kind.
             */
            values: number[];
            /**
             * Marks
             * @description Of classes and labels, how many of 100 that is for each row.
             * @default []
             */
            marks?: number[];
            /**
             * Texts
             * @description Of numbers, each as it is written.
             * @default []
             */
            texts?: string[];
            /**
             * Said
             * @description Of classes the one that is said, by its name; of labels all that apply.
             * @default null
             */
            said?: string | null;
            /**
             * Boxes
             * @description What was found, best score first, in the film's pixels.
             * @default []
             */
            boxes?: components["schemas"]["FoundBox"][];
            /**
             * Fault
             * @description Why there is no answer, where there is none.
             * @default
             */
            fault?: string;
        };
        /**
         * FilmFrames
         * @description Some frames of a film, and its job as it is now.
         */
        FilmFrames: {
            job: components["schemas"]["JobView"];
            /** Rows */
            rows: components["schemas"]["FilmRow"][];
            /** Frames */
            frames: components["schemas"]["FilmFrame"][];
        };
        /**
         * FilmRow
         * @description What one number of each frame is: a class, a label, a kind of box, a number.
         */
        FilmRow: {
            /**
             * Name
             * @description As the model names it.
             */
            name: string;
            /**
             * Label
             * @description As a visitor reads it.
             */
            label: string;
            /**
             * Unit
             * @default
             */
            unit?: string;
        };
        /**
         * Finding
         * @description Something that its author should know, with what shows it and what is done unless they choose otherwise.
         */
        Finding: {
            /**
             * Kind
             * @enum {string}
             */
            kind: "gives-away" | "known-afterwards" | "adds-up" | "strong" | "identifier" | "rare" | "group" | "time" | "duplicates" | "stand-in" | "spellings" | "odd" | "constant" | "unit";
            /** Columns */
            columns: string[];
            /** Sentence */
            sentence: string;
            /** Suggestion */
            suggestion: string;
            /**
             * Leaves Out
             * @description Whether its columns are left out unless they are kept.
             * @default false
             */
            leaves_out?: boolean;
        };
        /**
         * Fix
         * @description The way on, and where it is.
         */
        Fix: {
            /** Text */
            text: string;
            /**
             * Place
             * @enum {string}
             */
            place: "model" | "inputs" | "answer" | "checks" | "share";
            /**
             * Field
             * @default null
             */
            field?: string | null;
        };
        /**
         * FolderPart
         * @description The part that puts a folder in a draft's place.
         */
        FolderPart: {
            /** Folder */
            folder: string;
        };
        /**
         * Found
         * @description What was found in a model file.
         */
        Found: {
            /** Format */
            format: string;
            /** Library */
            library: string;
            /** Saved With */
            saved_with: string | null;
            /** Running */
            running: string;
            /** Steps */
            steps: string[];
            /**
             * Task
             * @enum {string}
             */
            task: "class" | "number" | "numbers" | "labels" | "boxes" | "picture" | "mask" | "text" | "table";
            /** Features */
            features: string[] | null;
            /** N Features */
            n_features: number | null;
            /** Classes */
            classes: string[] | null;
            /** Gives Probabilities */
            gives_probabilities: boolean;
            /** Warnings */
            warnings: string[];
            /**
             * Task Is Guessed
             * @default false
             */
            task_is_guessed?: boolean;
            /**
             * Output Names
             * @default null
             */
            output_names?: string[] | null;
        };
        /**
         * FoundBox
         * @description One thing that was found. Places are pixels of the picture as it was given, from its upper left corner.
         */
        FoundBox: {
            /** Label */
            label: string;
            /**
             * Name
             * @description The class by its name in the model.
             */
            name: string;
            /** Score */
            score: number;
            /** Of 100 */
            of_100: number;
            /** X */
            x: number;
            /** Y */
            y: number;
            /** Width */
            width: number;
            /** Height */
            height: number;
        };
        /**
         * FullReport
         * @description How the model did on known cases it had not seen.
         */
        FullReport: {
            /** Kind */
            kind: string;
            /** Cases */
            cases: number;
            /**
             * Known Group
             * @description What several cases are of; they count as one for each interval.
             * @default null
             */
            known_group?: string | null;
            /**
             * Things
             * @description Of how many things the cases are.
             * @default null
             */
            things?: number | null;
            /** @default null */
            share_right?: components["schemas"]["Estimate"] | null;
            /** @default null */
            confusion?: components["schemas"]["Confusion"] | null;
            /**
             * By Class
             * @default []
             */
            by_class?: components["schemas"]["ClassRow"][];
            /**
             * Calibration Of
             * @description The class whose probability it is; null for the likeliest's.
             * @default null
             */
            calibration_of?: string | null;
            /**
             * Calibration
             * @default []
             */
            calibration?: components["schemas"]["CalibrationBin"][];
            /**
             * Log Loss
             * @default null
             */
            log_loss?: number | null;
            /**
             * Brier
             * @default null
             */
            brier?: number | null;
            /**
             * Mean Absolute Error
             * @default null
             */
            mean_absolute_error?: number | null;
            /** @default null */
            mean_absolute_error_interval?: components["schemas"]["Estimate"] | null;
            /**
             * Root Mean Square Error
             * @default null
             */
            root_mean_square_error?: number | null;
            /**
             * Median Absolute Error
             * @default null
             */
            median_absolute_error?: number | null;
            /**
             * R2
             * @default null
             */
            r2?: number | null;
            /**
             * Coverage
             * @description How often the truth lay in intervals made from the other cases.
             * @default null
             */
            coverage?: number | null;
            /** @default null */
            coverage_interval?: components["schemas"]["Estimate"] | null;
            /**
             * Stated Coverage
             * @default null
             */
            stated_coverage?: number | null;
            /**
             * Errors
             * @default []
             */
            errors?: components["schemas"]["ErrorBin"][];
            /**
             * By Prediction
             * @default []
             */
            by_prediction?: components["schemas"]["ErrorStretch"][];
            /**
             * Values
             * @description Of several numbers each.
             * @default []
             */
            values?: components["schemas"]["NumberReport"][];
            /**
             * Labels
             * @description Of several labels each.
             * @default []
             */
            labels?: components["schemas"]["LabelReport"][];
            /** Worst */
            worst: components["schemas"]["KnownCase"][];
            /**
             * By
             * @default null
             */
            by?: string | null;
            /**
             * Groups
             * @description With `by`: the same by the values of one field.
             * @default []
             */
            groups?: components["schemas"]["Group"][];
        };
        /**
         * GivenOutcome
         * @description What became of a case.
         */
        GivenOutcome: {
            /**
             * Right
             * @description Whether the answer was right.
             */
            right: boolean;
            /**
             * Truth
             * @description What it really was: a class by its name, or a number. Where the author asks for it.
             * @default null
             */
            truth?: string | number | null;
            /**
             * Comment
             * @default null
             */
            comment?: string | null;
        };
        /**
         * Group
         * @description The cases with one value of a field, or a stretch of its values.
         */
        Group: {
            /** Label */
            label: string;
            /** Cases */
            cases: number;
            /**
             * Is Small
             * @description Whether they are so few that little follows.
             */
            is_small: boolean;
            /** @default null */
            share_right?: components["schemas"]["Estimate"] | null;
            /**
             * Mean Absolute Error
             * @default null
             */
            mean_absolute_error?: number | null;
            /** @default null */
            mean_absolute_error_interval?: components["schemas"]["Estimate"] | null;
        };
        /**
         * InBrowser
         * @description Of a page that answers in its visitor's browser.
         */
        InBrowser: {
            /**
             * Made At
             * @description When the file was made; None for a page of a server.
             */
            made_at: string | null;
            /**
             * Mark
             * @description The SHA-256 of what is in it; empty where it was not read from its file.
             * @default
             */
            mark?: string;
            /**
             * Left Out
             * @description What it cannot do that the server's page can, in sentences.
             */
            left_out: string[];
        };
        /**
         * Interval
         * @description Where the outcome lies as often as `coverage` says.
         */
        Interval: {
            /** Low */
            low: number;
            /** High */
            high: number;
            /** Coverage */
            coverage: number;
            /**
             * Text
             * @description How far it may be off, rounded for reading: "34" for plus or minus 34.
             */
            text: string;
        };
        /**
         * JobFault
         * @description What is wrong with a row, counted from 1 below the header.
         */
        JobFault: {
            /** Row */
            row: number;
            /** Column */
            column: string;
            /** Message */
            message: string;
        };
        /**
         * JobFaults
         * @description Rows with a fault.
         */
        JobFaults: {
            /**
             * Total
             * @description Rows that have one.
             */
            total: number;
            /** Faults */
            faults: components["schemas"]["JobFault"][];
        };
        /**
         * JobList
         * @description An author's jobs, the newest first.
         */
        JobList: {
            /** Total */
            total: number;
            /** Jobs */
            jobs: components["schemas"]["JobView"][];
        };
        /**
         * JobParts
         * @description What a job is begun with: a table, or a film where the demo looks at a picture. Options may be parts of their
         *     own, or together in `options` as JSON.
         */
        JobParts: {
            /**
             * Kind
             * @default table
             * @enum {string}
             */
            kind?: "table" | "video" | "importance" | "drift";
            /**
             * Of
             * @description Of `importance`: the class, or number; all of them if left out.
             * @default null
             */
            of?: string | null;
            /**
             * Table
             * @description CSV, Parquet or a spreadsheet; a row a case.
             * @default null
             */
            table?: string | null;
            /**
             * Video
             * @description MP4, WebM, MOV, AVI, MPEG or Ogg; each of its frames asked about is a case.
             * @default null
             */
            video?: string | null;
            /**
             * Options
             * @description A `TableOptions` or `FilmOptions` as JSON.
             * @default null
             */
            options?: string | null;
        };
        /**
         * JobResult
         * @description What came of a job.
         */
        JobResult: {
            /**
             * Slug
             * @description Of the demo that was made or changed; then there is nothing to fetch.
             * @default
             */
            slug?: string;
            /**
             * Formats
             * @default []
             */
            formats?: ("csv" | "parquet" | "xlsx" | "film")[];
            /**
             * Rows
             * @default 0
             */
            rows?: number;
            /**
             * Answered
             * @default 0
             */
            answered?: number;
            /**
             * Faults
             * @default 0
             */
            faults?: number;
            /**
             * Kept Until
             * @default null
             */
            kept_until?: string | null;
        };
        /**
         * JobView
         * @description A job as it is now.
         */
        JobView: {
            /** Id */
            id: string;
            /** Kind */
            kind: string;
            /**
             * Demo
             * @description The demo's address; empty where it is only being made.
             */
            demo: string;
            /** Title */
            title: string;
            /** File */
            file: string;
            /**
             * State
             * @enum {string}
             */
            state: "waiting" | "running" | "done" | "failed" | "cancelled";
            /**
             * Held
             * @description Whether it waits for a word to begin.
             */
            held: boolean;
            /**
             * Done
             * @description Rows or frames so far; of `importance` hundredths.
             */
            done: number;
            /**
             * Total
             * @description Rows or frames in all, as far as that is known.
             */
            total: number | null;
            /**
             * Total Is Estimate
             * @description Whether `total` goes by what was read so far.
             */
            total_is_estimate: boolean;
            /**
             * Seconds Left
             * @description Until it is done, those before it included.
             */
            seconds_left: number | null;
            /**
             * Place
             * @description How many jobs are before this one.
             */
            place: number;
            /**
             * Detail
             * @description What there is to say of it.
             */
            detail: string;
            /** Answered */
            answered: number;
            /**
             * Faults
             * @description Rows that have a fault so far.
             */
            faults: number;
            /**
             * Created
             * Format: date-time
             */
            created: string;
            /** Started */
            started: string | null;
            /** Ended */
            ended: string | null;
            /** By Author */
            by_author: boolean;
            /** Release */
            release: number | null;
            table: components["schemas"]["TableLook"] | null;
            /**
             * @description What was found in the film, of a job of one.
             * @default null
             */
            film?: components["schemas"]["FilmFound"] | null;
            /**
             * @description Of a job that makes a model of a table.
             * @default null
             */
            starter?: components["schemas"]["StarterLook"] | null;
            result: components["schemas"]["JobResult"] | null;
            /**
             * Errors
             * @description What went wrong, of a job that would have made a demo.
             * @default []
             */
            errors?: components["schemas"]["FieldProblem"][];
            /**
             * Traceback
             * @description What its model reported, likewise.
             * @default null
             */
            traceback?: string | null;
            /**
             * Requirements
             * @description Libraries with which the model might open, likewise.
             * @default []
             */
            requirements?: string[];
        };
        /**
         * KeptError
         * @description The model's error on rows that no fit saw, and how it goes with what was said of it before.
         */
        KeptError: {
            /**
             * Measure
             * @description As of `Comparison`.
             * @enum {string}
             */
            measure: "wrong" | "missed" | "off";
            /** Error */
            error: number;
            /**
             * Low
             * @description The lower end of where it lies; 95 of 100 such intervals hold it.
             */
            low: number;
            /** High */
            high: number;
            /**
             * Guessing
             * @description The error of guessing on the same rows.
             */
            guessing: number;
            /** N Rows */
            n_rows: number;
            /**
             * Is Better
             * @description Whether it is better than guessing there, beyond doubt.
             */
            is_better: boolean;
            /**
             * Beside
             * @description Beside what trying it out showed, beyond chance; empty where nothing was tried out.
             * @enum {string}
             */
            beside: "" | "alike" | "worse" | "better";
            /** Sentence */
            sentence: string;
        };
        /**
         * Key
         * @description A key for programs.
         */
        Key: {
            /** Id */
            id: number;
            /** Name */
            name: string;
            /**
             * Created
             * Format: date-time
             */
            created: string;
            /**
             * Used
             * @description When it was last used, to within ten minutes.
             */
            used: string | null;
            /**
             * Key
             * @description The key itself: told once, when it is made.
             * @default null
             */
            key?: string | null;
        };
        /**
         * Keys
         * @description An author's keys.
         */
        Keys: {
            /** Keys */
            keys: components["schemas"]["Key"][];
        };
        /**
         * KnownCase
         * @description A known case, what the model says of it, and what happened.
         */
        KnownCase: {
            /**
             * Row
             * @description Its place in the author's table, the first row being 0.
             */
            row: number;
            /**
             * Name
             * @description Of a picture: its name in the archive.
             * @default null
             */
            name?: string | null;
            /** Inputs */
            inputs: {
                [key: string]: unknown;
            };
            /** Truth */
            truth: string | number | {
                [key: string]: number | boolean | null;
            };
            /** Answer */
            answer: components["schemas"]["ClassAnswer"] | components["schemas"]["NumberAnswer"] | components["schemas"]["NumbersAnswer"] | components["schemas"]["LabelsAnswer"] | components["schemas"]["BoxesAnswer"] | components["schemas"]["PictureAnswer"] | components["schemas"]["MaskAnswer"] | components["schemas"]["TextAnswer"] | components["schemas"]["TableAnswer"];
            /**
             * Is Right
             * @description For classes: whether the class that was said was right.
             * @default null
             */
            is_right?: boolean | null;
            /**
             * Error
             * @description For a number: the answer less the truth.
             * @default null
             */
            error?: number | null;
        };
        /**
         * KnownCases
         * @description Some of the known cases.
         */
        KnownCases: {
            /** Total */
            total: number;
            /** Cases */
            cases: components["schemas"]["KnownCase"][];
        };
        /**
         * LabelProbability
         * @description How likely one label applies, and whether it is taken to.
         */
        LabelProbability: {
            /** Label */
            label: string;
            /**
             * Name
             * @description The label by its name in the model, as `of` takes it.
             */
            name: string;
            /** Probability */
            probability: number;
            /** Of 100 */
            of_100: number;
            /**
             * Applies
             * @description Whether the probability reaches the label's threshold.
             */
            applies: boolean;
            /**
             * Calibrated
             * @description Whether known cases bear out this probability.
             * @default false
             */
            calibrated?: boolean;
        };
        /**
         * LabelReport
         * @description How one label did at its threshold.
         */
        LabelReport: {
            share_right: components["schemas"]["Estimate"];
            /** Precision */
            precision: number | null;
            /** Recall */
            recall: number | null;
            /**
             * Cases
             * @description How many have it.
             */
            cases: number;
            /** Calibration */
            calibration: components["schemas"]["CalibrationBin"][];
            /** Name */
            name: string;
            /** Label */
            label: string;
            /** Threshold */
            threshold: number;
        };
        /**
         * LabelWording
         * @description One label: how a visitor reads it, and from where on it applies.
         */
        LabelWording: {
            /** Name */
            name: string;
            /**
             * Label
             * @description Under the marks: "crack", as in "72 crack".
             */
            label: string;
            /**
             * Label One
             * @description The same of one: "cracks". Guessed from the label if left empty.
             * @default
             */
            label_one?: string;
            /**
             * Headline
             * @description Above the answer when this class is the likeliest: "Likely to crack".
             */
            headline: string;
            /**
             * Tone
             * @description Whether this class is good news or bad, if it is either.
             * @default
             * @enum {string}
             */
            tone?: "" | "calm" | "caution" | "alert";
            /**
             * Threshold
             * @description From this probability on the page says that the label applies.
             * @default 0.5
             */
            threshold?: number;
        };
        /**
         * LabelsAnswer
         * @description Several labels at once, likeliest first.
         */
        LabelsAnswer: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "labels";
            /** Labels */
            labels: components["schemas"]["LabelProbability"][];
        };
        /**
         * LabelsSetting
         * @description The answer is several labels, each of which may apply.
         */
        LabelsSetting: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "labels";
            /** Labels */
            labels: components["schemas"]["LabelWording"][];
            /**
             * Gives Probabilities
             * @default true
             */
            gives_probabilities?: boolean;
        };
        /**
         * LikenessFound
         * @description How cases unlike the known ones are told, and how often that would be a false alarm, counted on known ones.
         */
        LikenessFound: {
            /** Field */
            field: string;
            /**
             * By
             * @enum {string}
             */
            by: "description of the picture" | "letters of the text";
            /** N Known */
            n_known: number;
            /** False Alarms */
            false_alarms: number;
        };
        /**
         * Link
         * @description A picture's web address.
         */
        Link: {
            /** Link */
            link: string;
        };
        /**
         * LinkState
         * @description A secret link.
         */
        LinkState: {
            /** Id */
            id: number;
            /** Name */
            name: string;
            /**
             * Address
             * @description Its whole address; whoever has it can open the demo.
             */
            address: string;
            /**
             * Path
             * @description The same without this server's name.
             */
            path: string;
            /**
             * Created
             * Format: date-time
             */
            created: string;
            /** Expires */
            expires: string | null;
            /** Has Ended */
            has_ended: boolean;
            /**
             * Opened
             * @description How often the page was opened by it.
             */
            opened: number;
        };
        /**
         * Links
         * @description A demo's secret links, the newest first.
         */
        Links: {
            /** Total */
            total: number;
            /** Links */
            links: components["schemas"]["LinkState"][];
        };
        /**
         * LiveRelease
         * @description Which release visitors are to see.
         */
        LiveRelease: {
            /** Number */
            number: number;
        };
        /**
         * LiveReport
         * @description What visitors said of one release's answers. They chose to say it: it is no fair draw of all cases.
         */
        LiveReport: {
            /** Release */
            release: number;
            /** Cases */
            cases: number;
            /**
             * @description The share they called right, with its range.
             * @default null
             */
            share_right?: components["schemas"]["Estimate"] | null;
            /**
             * @description Where it is known what it really was.
             * @default null
             */
            confusion?: components["schemas"]["Confusion"] | null;
            /**
             * With Truth
             * @description Of numbers: cases with what it really was.
             * @default 0
             */
            with_truth?: number;
            /**
             * Mean Absolute Error
             * @default null
             */
            mean_absolute_error?: number | null;
            /**
             * Said
             * @description The newest of them.
             * @default []
             */
            said?: components["schemas"]["SaidCase"][];
        };
        /**
         * LogEntry
         * @description One call of a demo.
         */
        LogEntry: {
            /** Id */
            id: number;
            /**
             * At
             * Format: date-time
             */
            at: string;
            /**
             * Release
             * @description None for the draft.
             */
            release: number | null;
            /** Outcome */
            outcome: string;
            /** Milliseconds */
            milliseconds: number;
            /** By Author */
            by_author: boolean;
            /**
             * Inputs
             * @description None where they are not kept.
             */
            inputs: {
                [key: string]: unknown;
            } | null;
        };
        /**
         * LogPage
         * @description Some calls, the newest first.
         */
        LogPage: {
            /** Total */
            total: number;
            /** Entries */
            entries: components["schemas"]["LogEntry"][];
            /**
             * Called Right
             * @description Answers that visitors said were right.
             * @default 0
             */
            called_right?: number;
            /**
             * Called Wrong
             * @default 0
             */
            called_wrong?: number;
        };
        /**
         * Logo
         * @description A small picture beside the title.
         */
        Logo: {
            /**
             * Data
             * @description A PNG, JPEG or WebP picture in base64; empty for none.
             */
            data: string;
            /**
             * Alt
             * @description What it shows, for who does not see it; empty where it only adorns.
             * @default
             */
            alt?: string;
        };
        /**
         * MaskAnswer
         * @description A class for each pixel, the largest first. `data` is a grey PNG in base64; its values are the classes' places.
         */
        MaskAnswer: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "mask";
            /** Kinds */
            kinds: components["schemas"]["MaskedKind"][];
            /**
             * Type
             * @default image/png
             */
            type?: string;
            /** Data */
            data: string;
            /** Width */
            width: number;
            /** Height */
            height: number;
            /**
             * @default {
             *       "left": 0,
             *       "top": 0,
             *       "width": 1,
             *       "height": 1
             *     }
             */
            part?: components["schemas"]["ViewPart"];
        };
        /**
         * MaskReading
         * @description How a model's output is read as a class for each pixel.
         */
        MaskReading: {
            /** Output */
            output: string;
            /**
             * Layout
             * @description A score for each class, in front of height and width or behind them, or the class's number.
             * @default scores first
             * @enum {string}
             */
            layout?: "scores first" | "scores last" | "numbers";
            /**
             * Threshold
             * @description Of a model with one score a pixel: from here on a pixel is of the second class.
             * @default 0.5
             */
            threshold?: number;
            /**
             * Link
             * @description What makes a share of that score.
             * @default none
             * @enum {string}
             */
            link?: "none" | "sigmoid";
        };
        /**
         * MaskSetting
         * @description The answer is a class for each pixel of the picture.
         */
        MaskSetting: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "mask";
            /** Labels */
            labels: components["schemas"]["BoxLabel"][];
            /**
             * Nothing
             * @description The class that means nothing in particular, by its name.
             * @default
             */
            nothing?: string;
            reading: components["schemas"]["MaskReading"];
        };
        /**
         * MaskedKind
         * @description One class of a mask, and how much of the picture it has.
         */
        MaskedKind: {
            /** Label */
            label: string;
            /**
             * Name
             * @description The class by its name in the model.
             */
            name: string;
            /**
             * Place
             * @description The value its pixels have in the mask.
             */
            place: number;
            /** Share */
            share: number;
            /**
             * Of 100
             * @description Its share of 100 marks; the marks of all classes add up to 100.
             */
            of_100: number;
        };
        /**
         * NamedNumber
         * @description One of several numbers.
         */
        NamedNumber: {
            /** Name */
            name: string;
            /** Value */
            value: number;
            /** Unit */
            unit: string;
            /** Text */
            text: string;
            /**
             * @description None without enough known cases.
             * @default null
             */
            interval?: components["schemas"]["Interval"] | null;
        };
        /**
         * NewDemo
         * @description The parts of the multipart request that brings a model, or all of a demo as a `folder`.
         */
        NewDemo: {
            /**
             * Model
             * @default null
             */
            model?: string | null;
            /**
             * Function
             * @default null
             */
            function?: string | null;
            /**
             * Known Group
             * @description The column of the known cases that says what each is a case of, where several are of one thing: they go wrong together, and count as one for how sure the report is.
             * @default null
             */
            known_group?: string | null;
            /**
             * Function Name
             * @description Which function answers, where the file has several public ones.
             * @default null
             */
            function_name?: string | null;
            /**
             * Beside
             * @default null
             */
            beside?: string | null;
            /**
             * Folder
             * @default null
             */
            folder?: string | null;
            /**
             * Reference
             * @default null
             */
            reference?: string | null;
            /**
             * Preprocessor
             * @default null
             */
            preprocessor?: string | null;
            /**
             * Known
             * @default null
             */
            known?: string | null;
            /**
             * Labels
             * @description Class names: one a line, in class order, or a CSV with the model's classes in one column.
             * @default null
             */
            labels?: string | null;
            /**
             * Target
             * @description The outcome's column, in the reference table or the known cases; several parted by commas.
             * @default null
             */
            target?: string | null;
            /**
             * Answer
             * @description The kind of answer, where it is not to be concluded.
             * @default null
             */
            answer?: ("class" | "number" | "numbers" | "labels" | "picture" | "mask" | "text" | "table") | null;
            /**
             * Numbers
             * @description How the tables write numbers, if it cannot be told.
             * @default null
             */
            numbers?: ("1,234.5" | "1.234,5") | null;
            /**
             * Dates
             * @description How dates were counted for the model, where the tables hold them as dates.
             * @default null
             */
            dates?: ("days" | "ordinal" | "spreadsheet" | "seconds" | "milliseconds" | "microseconds" | "nanoseconds") | null;
            /**
             * Requirements
             * @description The text of a `requirements.txt`: libraries of the model's own, in an environment.
             * @default null
             */
            requirements?: string | null;
            /**
             * Title
             * @default null
             */
            title?: string | null;
            /**
             * Slug
             * @default null
             */
            slug?: string | null;
        };
        /**
         * NewEnvironment
         * @description The part that an environment is built from.
         */
        NewEnvironment: {
            /**
             * Requirements
             * @description A `requirements.txt`: packages by name and version, one a line.
             */
            requirements: string;
        };
        /**
         * NewKey
         * @description A key to be made.
         */
        NewKey: {
            /**
             * Name
             * @description What it is for.
             */
            name: string;
        };
        /**
         * NewLink
         * @description One more secret link.
         */
        NewLink: {
            /**
             * Name
             * @description For whom it is; only the author reads it.
             * @default
             */
            name?: string;
            /**
             * Expires
             * @description When it stops working, in UTC unless it says otherwise; never if left out.
             * @default null
             */
            expires?: string | null;
        };
        /**
         * NewParts
         * @description What may replace what a demo was made of; a part that is sent empty is taken away.
         */
        NewParts: {
            /**
             * Model
             * @default null
             */
            model?: string | null;
            /**
             * Function
             * @default null
             */
            function?: string | null;
            /**
             * Function Name
             * @default null
             */
            function_name?: string | null;
            /**
             * Beside
             * @default null
             */
            beside?: string | null;
            /**
             * Reference
             * @default null
             */
            reference?: string | null;
            /**
             * Preprocessor
             * @default null
             */
            preprocessor?: string | null;
            /**
             * Known
             * @default null
             */
            known?: string | null;
            /**
             * Known Group
             * @description The column of the known cases that says what each is a case of, where several are of one thing: they go wrong together, and count as one for how sure the report is.
             * @default null
             */
            known_group?: string | null;
            /**
             * Labels
             * @default null
             */
            labels?: string | null;
            /**
             * Target
             * @default null
             */
            target?: string | null;
            /**
             * Answer
             * @default null
             */
            answer?: ("class" | "number" | "numbers" | "labels" | "picture" | "mask" | "text" | "table") | null;
            /**
             * Numbers
             * @default null
             */
            numbers?: ("1,234.5" | "1.234,5") | null;
            /**
             * Dates
             * @default null
             */
            dates?: ("days" | "ordinal" | "spreadsheet" | "seconds" | "milliseconds" | "microseconds" | "nanoseconds") | null;
            /**
             * Requirements
             * @description The text of a `requirements.txt`: libraries of the model's own, in an environment.
             * @default null
             */
            requirements?: string | null;
            /**
             * Title
             * @default null
             */
            title?: string | null;
            /**
             * Slug
             * @default null
             */
            slug?: string | null;
            /**
             * Renames
             * @description A JSON object: of features with another name now the one each had, by the one it has.
             * @default null
             */
            renames?: string | null;
        };
        /**
         * NewPassword
         * @description A new password; the old one too, if there is one.
         */
        NewPassword: {
            /** Password */
            password: string;
            /**
             * Old Password
             * @default null
             */
            old_password?: string | null;
        };
        /**
         * NewRelease
         * @description What is said of a release when it is published.
         */
        NewRelease: {
            /**
             * Note
             * @default
             */
            note?: string;
            /**
             * Despite
             * @description A reason for each check that asks something.
             * @default {}
             */
            despite?: {
                [key: string]: string;
            };
        };
        /**
         * Note
         * @description Something a visitor should know about an answer that was given all the same.
         */
        Note: {
            /** Field */
            field: string | null;
            /**
             * Level
             * @enum {string}
             */
            level: "info" | "warn";
            /** Message */
            message: string;
            /**
             * Code
             * @default null
             */
            code?: ("not-explained" | "no-curves" | "not-looked" | "unlike-outcomes") | null;
        };
        /**
         * NumberAnswer
         * @description A number; `text` is the same rounded for reading.
         */
        NumberAnswer: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "number";
            /** Value */
            value: number;
            /** Unit */
            unit: string;
            /** Text */
            text: string;
            /**
             * @description None without enough known cases.
             * @default null
             */
            interval?: components["schemas"]["Interval"] | null;
            /**
             * @description The named stretch it lies in, where there are some.
             * @default null
             */
            band?: components["schemas"]["Band"] | null;
        };
        /**
         * NumberField
         * @description A number, dragged or typed. `minimum` and `maximum` bound the control, not what is accepted.
         */
        NumberField: {
            /** Name */
            name: string;
            /** Label */
            label: string;
            /**
             * Help
             * @default
             */
            help?: string;
            /**
             * Group
             * @default
             */
            group?: string;
            /**
             * Optional
             * @description May be left unknown (null): the reference column has gaps and the model takes them.
             * @default false
             */
            optional?: boolean;
            /**
             * Hidden
             * @description Visitors do not see it: every case has its start value. Chosen on purpose, and said.
             * @default false
             */
            hidden?: boolean;
            /**
             * Changeable
             * @description Whether a visitor could change this about the case at all.
             * @default true
             */
            changeable?: boolean;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "number";
            /**
             * Unit
             * @default
             */
            unit?: string;
            /** Minimum */
            minimum: number;
            /** Maximum */
            maximum: number;
            /** Step */
            step: number;
            /** Default */
            default: number | null;
            seen: components["schemas"]["Seen"];
            /**
             * Direction
             * @description Which way a visitor could change it: drying can go on, but not be taken back.
             * @default any
             * @enum {string}
             */
            direction?: "any" | "up" | "down";
            /**
             * Whole
             * @description Only whole numbers are taken. A fact, not a setting.
             * @default false
             */
            whole?: boolean;
            /**
             * Calendar
             * @description The number stands for a date, counted in this way; it is read and entered as a date.
             * @default
             * @enum {string}
             */
            calendar?: "" | "days" | "ordinal" | "spreadsheet" | "seconds" | "milliseconds" | "microseconds" | "nanoseconds";
        };
        /**
         * NumberReport
         * @description How one of several numbers did.
         */
        NumberReport: {
            /** Mean Absolute Error */
            mean_absolute_error: number;
            /** @description None for one case, which tells nothing of it. */
            mean_absolute_error_interval: components["schemas"]["Estimate"] | null;
            /** Root Mean Square Error */
            root_mean_square_error: number;
            /** Median Absolute Error */
            median_absolute_error: number;
            /**
             * R2
             * @description None where all truths are the same.
             */
            r2: number | null;
            /**
             * Coverage
             * @description How often the truth lay in intervals made from the other cases.
             */
            coverage: number | null;
            coverage_interval: components["schemas"]["Estimate"] | null;
            /** Stated Coverage */
            stated_coverage: number | null;
            /** Errors */
            errors: components["schemas"]["ErrorBin"][];
            /**
             * By Prediction
             * @description Errors where answers are low, and where they are high.
             * @default []
             */
            by_prediction?: components["schemas"]["ErrorStretch"][];
            /** Name */
            name: string;
            /**
             * Unit
             * @default
             */
            unit?: string;
            /** Cases */
            cases: number;
        };
        /**
         * NumberSetting
         * @description The answer is one number.
         */
        NumberSetting: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "number";
            /**
             * Name
             * @default Answer
             */
            name?: string;
            /**
             * Unit
             * @default
             */
            unit?: string;
            /**
             * Decimals
             * @default 2
             */
            decimals?: number;
            /**
             * Low
             * @description The lowest outcome in the reference table.
             * @default null
             */
            low?: number | null;
            /**
             * High
             * @description The highest outcome in the reference table.
             * @default null
             */
            high?: number | null;
            /**
             * Counts
             * @description Outcomes in equally wide bins from `low` to `high`.
             * @default []
             */
            counts?: number[];
            /**
             * Better
             * @description Which way is good news, if either is.
             * @default
             * @enum {string}
             */
            better?: "" | "low" | "high";
            /**
             * Coverage
             * @description How often the interval around the answer holds the outcome.
             * @default 0.9
             */
            coverage?: number;
            /**
             * Bands
             * @description Named stretches, the lowest first; the last has no end.
             * @default []
             */
            bands?: components["schemas"]["Band"][];
        };
        /**
         * NumbersAnswer
         * @description Several numbers.
         */
        NumbersAnswer: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "numbers";
            /** Values */
            values: components["schemas"]["NamedNumber"][];
        };
        /**
         * NumbersSetting
         * @description The answer is several numbers.
         */
        NumbersSetting: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "numbers";
            /** Values */
            values: components["schemas"]["NumberSetting"][];
        };
        /**
         * OddValue
         * @description A value that does not fit its column; `row` counts from 1 below the header.
         */
        OddValue: {
            /** Value */
            value: string;
            /** Row */
            row: number;
            /** Rows */
            rows: number;
        };
        /**
         * Option
         * @description One option of a choice: the value the model knows and the words a visitor reads.
         */
        Option: {
            /** Value */
            value: boolean | number | string;
            /** Label */
            label: string;
            /**
             * Count
             * @description Reference rows with it. A fact, not a setting.
             * @default 0
             */
            count?: number;
        };
        /**
         * OutputReport
         * @description How one of several numbers or labels did.
         */
        OutputReport: {
            /** Name */
            name: string;
            /** N Known */
            n_known: number;
            /**
             * Right Of 100
             * @description For a label at its threshold: how many of 100 are right.
             * @default null
             */
            right_of_100?: number | null;
            /**
             * Typical Error
             * @default null
             */
            typical_error?: string | null;
        };
        /**
         * OverallAnswer
         * @description What matters overall; ask again while `share_done` is below 1.
         */
        OverallAnswer: {
            /** Of */
            of: string;
            /** Unit */
            unit: string;
            /**
             * Fields
             * @description The most important first.
             */
            fields: components["schemas"]["OverallField"][];
            /** N Rows */
            n_rows: number;
            /** N Known */
            n_known: number;
            /** Share Done */
            share_done: number;
        };
        /**
         * OverallField
         * @description What one field does overall.
         */
        OverallField: {
            /** Field */
            field: string;
            /**
             * Importance
             * @description Mean absolute contribution, and its 95 % interval.
             */
            importance: number[];
            /**
             * Shuffled
             * @description By how much the error on known cases rises when the field is shuffled, and its 95 % interval.
             */
            shuffled: number[] | null;
            /** Parts */
            parts: components["schemas"]["OverallPart"][];
            /** X */
            x: unknown[];
            /**
             * Y
             * @description Average answer at each x, and the middle half of the cases.
             */
            y: number[][];
        };
        /**
         * OverallPart
         * @description A stretch of a field's values, or an option, and the contributions of the reference rows that have it.
         */
        OverallPart: {
            /**
             * Words
             * @enum {string}
             */
            words: "low" | "middle" | "high" | "option";
            /** Low */
            low: unknown;
            /** High */
            high: unknown;
            /** N Rows */
            n_rows: number;
            /**
             * Spread
             * @description Middle contribution, and a quarter below and above.
             */
            spread: number[];
        };
        /**
         * Page
         * @description All that a visitor's page needs.
         */
        Page: {
            /** Slug */
            slug: string;
            /** Title */
            title: string;
            /** Purpose */
            purpose: string;
            /**
             * Description Html
             * @description Sanitised.
             */
            description_html: string;
            /** Not For */
            not_for: string;
            /** Licence */
            licence: string;
            /** Fields */
            fields: (components["schemas"]["NumberField"] | components["schemas"]["ChoiceField"] | components["schemas"]["YesNoField"] | components["schemas"]["TextField"] | components["schemas"]["PictureField"] | components["schemas"]["DrawingField"])[];
            /**
             * Fixed
             * @description Fields that every case has its start value in.
             * @default []
             */
            fixed?: (components["schemas"]["NumberField"] | components["schemas"]["ChoiceField"] | components["schemas"]["YesNoField"] | components["schemas"]["TextField"] | components["schemas"]["PictureField"] | components["schemas"]["DrawingField"])[];
            /** Answer */
            answer: components["schemas"]["ClassSetting"] | components["schemas"]["NumberSetting"] | components["schemas"]["NumbersSetting"] | components["schemas"]["LabelsSetting"] | components["schemas"]["BoxesSetting"] | components["schemas"]["PictureSetting"] | components["schemas"]["MaskSetting"] | components["schemas"]["TextSetting"] | components["schemas"]["TableSetting"];
            /**
             * Release
             * @description None for a draft.
             */
            release: number | null;
            /** Records Inputs */
            records_inputs: boolean;
            /**
             * Record Days
             * @description For so many days it is kept, where it is.
             * @default 90
             */
            record_days?: number;
            /**
             * Asks
             * @description Whether the page asks at each change, or when its visitor says so.
             * @default live
             * @enum {string}
             */
            asks?: "live" | "button";
            /** @default null */
            logo?: components["schemas"]["PageLogo"] | null;
            parts: components["schemas"]["PageParts"];
            /**
             * Table Rows
             * @description How many rows a visitor's table may have.
             * @default 10000
             */
            table_rows?: number;
            /**
             * Film Rate
             * @description How many frames of a film's second it is asked about.
             * @default 5
             */
            film_rate?: number;
            /**
             * Ignored
             * @description Fields that the model makes no use of.
             */
            ignored: string[];
            /**
             * Folded
             * @description Where there are many fields, those that move answers the least.
             */
            folded: string[];
            /** @description None without known cases. */
            report: components["schemas"]["Report"] | null;
            /**
             * Outcome
             * @description The reference table's column of outcomes, if it has one.
             */
            outcome: string | null;
            /**
             * Samples
             * @description Ready cases to press.
             */
            samples: components["schemas"]["Sample"][];
            /**
             * Sample Films
             * @description Ready films to press, by their titles.
             * @default []
             */
            sample_films?: string[];
            /**
             * @description None where answers are not explained.
             * @default null
             */
            usual?: components["schemas"]["Usual"] | null;
            /**
             * @description None while its model answers as it should.
             * @default null
             */
            away?: components["schemas"]["PageAway"] | null;
            /**
             * @description None for a page that asks this server.
             * @default null
             */
            in_browser?: components["schemas"]["InBrowser"] | null;
            /**
             * @description Where its author has it answer in its visitor's browser; None where this server does.
             * @default null
             */
            browser?: components["schemas"]["BrowserAnswers"] | null;
            /**
             * Unconfirmed
             * @description Of a draft: what was concluded and is not confirmed yet.
             * @default []
             */
            unconfirmed?: string[];
        };
        /**
         * PageAway
         * @description The process that holds the model of what was published is not connected.
         */
        PageAway: {
            /** Since */
            since: string | null;
            /**
             * Release
             * @description What it answers when it is there.
             */
            release: number;
            /**
             * Published At
             * @description When the release was published that answers meanwhile; None where none does.
             */
            published_at: string | null;
        };
        /**
         * PageLogo
         * @description A small picture beside the title.
         */
        PageLogo: {
            /** Path */
            path: string;
            /** Alt */
            alt: string;
        };
        /**
         * PageParts
         * @description Which parts of the visitor's page are shown. Those about reference rows show visitors rows of that table.
         */
        PageParts: {
            /**
             * Curves
             * @description The curve of the answer under each field.
             * @default true
             */
            curves?: boolean;
            /**
             * Contributions
             * @description What each value adds to the answer, or takes off it.
             * @default true
             */
            contributions?: boolean;
            /**
             * Changes
             * @description What would change the answer.
             * @default true
             */
            changes?: boolean;
            /**
             * Similar
             * @description The reference rows most like the case, with what happened to them.
             * @default true
             */
            similar?: boolean;
            /**
             * Among
             * @description The case drawn among the reference rows.
             * @default true
             */
            among?: boolean;
            /**
             * Overall
             * @description What matters overall.
             * @default true
             */
            overall?: boolean;
            /**
             * Compare
             * @description Keeping answers and comparing them.
             * @default true
             */
            compare?: boolean;
            /**
             * Report
             * @description How the model did on known cases, in full, with the worst of them.
             * @default false
             */
            report?: boolean;
            /**
             * Outcomes
             * @description Visitors may say whether an answer was right; that is kept.
             * @default true
             */
            outcomes?: boolean;
            /**
             * Truth
             * @description They may also say what it really was.
             * @default false
             */
            truth?: boolean;
            /**
             * Tables
             * @description Visitors may have a whole table of cases answered.
             * @default false
             */
            tables?: boolean;
            /**
             * Films
             * @description Visitors may have a film answered frame by frame, or what their camera sees.
             * @default false
             */
            films?: boolean;
        };
        /**
         * PartsChanges
         * @description Parts to show or not; what is left out stays as it is.
         */
        PartsChanges: {
            /**
             * Curves
             * @default null
             */
            curves?: boolean | null;
            /**
             * Contributions
             * @default null
             */
            contributions?: boolean | null;
            /**
             * Changes
             * @default null
             */
            changes?: boolean | null;
            /**
             * Similar
             * @default null
             */
            similar?: boolean | null;
            /**
             * Among
             * @default null
             */
            among?: boolean | null;
            /**
             * Overall
             * @default null
             */
            overall?: boolean | null;
            /**
             * Compare
             * @default null
             */
            compare?: boolean | null;
            /**
             * Report
             * @default null
             */
            report?: boolean | null;
            /**
             * Outcomes
             * @default null
             */
            outcomes?: boolean | null;
            /**
             * Truth
             * @default null
             */
            truth?: boolean | null;
            /**
             * Tables
             * @default null
             */
            tables?: boolean | null;
            /**
             * Films
             * @default null
             */
            films?: boolean | null;
        };
        /**
         * Passcode
         * @description A visitor's passcode.
         */
        Passcode: {
            /** Passcode */
            passcode: string;
        };
        /**
         * PictureAnswer
         * @description A picture made of the one that was given, cut out and turned as that was, in the format it came in.
         */
        PictureAnswer: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "picture";
            /**
             * Type
             * @description Its media type.
             */
            type: string;
            /**
             * Data
             * @description The file in base64.
             */
            data: string;
            /** Width */
            width: number;
            /** Height */
            height: number;
            /**
             * @default {
             *       "left": 0,
             *       "top": 0,
             *       "width": 1,
             *       "height": 1
             *     }
             */
            part?: components["schemas"]["ViewPart"];
            /**
             * Is Full
             * @description Whether it has as many pixels as what was given.
             */
            is_full: boolean;
        };
        /**
         * PictureField
         * @description A picture: chosen, dropped, pasted, taken, linked to, or one of the demo's samples.
         */
        PictureField: {
            /** Name */
            name: string;
            /** Label */
            label: string;
            /**
             * Help
             * @default
             */
            help?: string;
            /**
             * Group
             * @default
             */
            group?: string;
            /**
             * Optional
             * @description May be left unknown (null): the reference column has gaps and the model takes them.
             * @default false
             */
            optional?: boolean;
            /**
             * Hidden
             * @description Visitors do not see it: every case has its start value. Chosen on purpose, and said.
             * @default false
             */
            hidden?: boolean;
            /**
             * Changeable
             * @description Whether a visitor could change this about the case at all.
             * @default true
             */
            changeable?: boolean;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "picture";
            /**
             * Default
             * @default null
             */
            default?: null;
            preparation: components["schemas"]["Preparation"];
            /**
             * Behind
             * @description The colour that see-through places are laid on.
             * @default [
             *       255,
             *       255,
             *       255
             *     ]
             */
            behind?: number[];
        };
        /**
         * PictureFindings
         * @description What known pictures told: the preparations that were tried, best first, and how many of all are right.
         */
        PictureFindings: {
            /**
             * Tries
             * @default []
             */
            tries?: components["schemas"]["PreparationTry"][];
            /**
             * N Known
             * @default 0
             */
            n_known?: number;
            /**
             * N Right
             * @default 0
             */
            n_right?: number;
        };
        /**
         * PicturePredictionRequest
         * @description One case with its pictures as files: a part named after each field of a picture.
         */
        PicturePredictionRequest: {
            /**
             * Inputs
             * @description JSON: a value for every other field, by the field's name.
             * @default {}
             */
            inputs?: string;
            /** Picture */
            picture: string;
        };
        /**
         * PictureReading
         * @description How a model's output is read as a picture.
         */
        PictureReading: {
            /** Output */
            output: string;
            /**
             * Layout
             * @description Where the channels stand; `grey` where one number a pixel has no axis for them.
             * @default channels first
             * @enum {string}
             */
            layout?: "channels first" | "channels last" | "grey";
            /**
             * Scale
             * @description What black and white are.
             * @default 0..1
             * @enum {string}
             */
            scale?: "0..255" | "0..1" | "-1..1";
            /**
             * Order
             * @default rgb
             * @enum {string}
             */
            order?: "rgb" | "bgr";
        };
        /**
         * PictureSetting
         * @description The answer is a picture, made of the one that was given.
         */
        PictureSetting: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "picture";
            /**
             * Name
             * @description What the answer shows: "fired". It stands over the picture.
             * @default after
             */
            name?: string;
            /**
             * Before
             * @description What the picture shows that was given: "raw".
             * @default before
             */
            before?: string;
            reading: components["schemas"]["PictureReading"];
        };
        /**
         * PossibleClasses
         * @description The classes that known cases do not rule out, likeliest first, each with the word for its probability.
         *
         *     `likely` is half or more, `possible` a tenth or more; what is less cannot be ruled out all the same.
         */
        PossibleClasses: {
            /** Classes */
            classes: string[];
            /**
             * Words
             * @default []
             */
            words?: ("likely" | "possible" | "not ruled out")[];
            /**
             * Coverage
             * @description How often such a set holds the true class.
             */
            coverage: number;
        };
        /**
         * PredictionAnswer
         * @description What the model says of one case.
         */
        PredictionAnswer: {
            /**
             * Id
             * @description To say what became of it with `…/predictions/{id}/outcome`; none for a draft.
             * @default null
             */
            id?: string | null;
            /** Answer */
            answer: components["schemas"]["ClassAnswer"] | components["schemas"]["NumberAnswer"] | components["schemas"]["NumbersAnswer"] | components["schemas"]["LabelsAnswer"] | components["schemas"]["BoxesAnswer"] | components["schemas"]["PictureAnswer"] | components["schemas"]["MaskAnswer"] | components["schemas"]["TextAnswer"] | components["schemas"]["TableAnswer"];
            /** Notes */
            notes: components["schemas"]["Note"][];
            /** @default null */
            explanation?: components["schemas"]["ExplanationAnswer"] | null;
            /**
             * Curves
             * @default null
             */
            curves?: components["schemas"]["CurveAnswer"][] | null;
            /**
             * @description With anything that comes along.
             * @default null
             */
            familiarity?: components["schemas"]["Familiarity"] | null;
            /**
             * Similar
             * @default null
             */
            similar?: components["schemas"]["SimilarCase"][] | null;
            /** @default null */
            changes?: components["schemas"]["ChangesAnswer"] | null;
            /**
             * Where
             * @description With `explanation`, for pictures and drawings.
             * @default null
             */
            where?: components["schemas"]["WhereAnswer"][] | null;
            /**
             * Seen
             * @description With `seen`: each picture as the model sees it, as the address of a PNG within itself.
             * @default null
             */
            seen?: {
                [key: string]: string;
            } | null;
            /** Release */
            release: number | null;
            timing_ms: components["schemas"]["Timing"];
        };
        /**
         * PredictionRequest
         * @description One case: a value for every field, by the field's name.
         */
        PredictionRequest: {
            /** Inputs */
            inputs: {
                [key: string]: unknown;
            };
        };
        /**
         * Preparation
         * @description How a picture becomes a model's input.
         */
        Preparation: {
            /** Width */
            width: number;
            /** Height */
            height: number;
            /**
             * Own Size
             * @description Pictures keep their own size, but for those larger than `width` and `height`.
             * @default false
             */
            own_size?: boolean;
            /**
             * Multiple
             * @description Of their own size: sides are made whole multiples of this.
             * @default 1
             */
            multiple?: number;
            /**
             * Fit
             * @description Stretched to the size, whole inside a border, or the middle of it.
             * @default stretch
             * @enum {string}
             */
            fit?: "stretch" | "border" | "crop";
            /**
             * Border
             * @description The border's colour: red, green, blue.
             * @default [
             *       0,
             *       0,
             *       0
             *     ]
             */
            border?: number[];
            /**
             * Colour
             * @default colour
             * @enum {string}
             */
            colour?: "colour" | "grey";
            /**
             * Trained On
             * @description What the pictures of the training were: light strokes on dark, or dark ones on light. Pictures, samples and drawings that are the other way round are turned; `any` leaves all as they come.
             * @default any
             * @enum {string}
             */
            trained_on?: "any" | "light on dark" | "dark on light";
            /**
             * Scale
             * @default 0..1
             * @enum {string}
             */
            scale?: "0..255" | "0..1" | "-1..1" | "spread";
            /**
             * Mean
             * @description For `spread`, of values from 0 to 1: one number a channel.
             * @default []
             */
            mean?: number[];
            /**
             * Spread
             * @description For `spread`: what is divided by, one number a channel.
             * @default []
             */
            spread?: number[];
            /**
             * Order
             * @default rgb
             * @enum {string}
             */
            order?: "rgb" | "bgr";
            /**
             * Layout
             * @default channels first
             * @enum {string}
             */
            layout?: "channels first" | "channels last" | "flat";
            /**
             * Batch
             * @description Whether a batch dimension of one stands in front.
             * @default true
             */
            batch?: boolean;
        };
        /**
         * PreparationTry
         * @description One way to prepare pictures that was tried, and how many of the known ones the model then got right.
         *
         *     Attributes
         *     ----------
         *     words : str
         *     preparation : Preparation
         *     n_right, n_tried : int
         *     log_loss : float or None
         *         The mean of the negative logarithm of what the right class was given; None in what was kept before.
         *     is_as_likely : bool
         *         Whether known pictures do not tell it from the first of those that were tried, though it says other things: as
         *         many right, and probabilities that fit as well, but for chance.
         */
        PreparationTry: {
            /** Words */
            words: string;
            preparation: components["schemas"]["Preparation"];
            /** N Right */
            n_right: number;
            /** N Tried */
            n_tried: number;
            /**
             * Log Loss
             * @default null
             */
            log_loss?: number | null;
            /**
             * Is As Likely
             * @default false
             */
            is_as_likely?: boolean;
        };
        /**
         * Problem
         * @description RFC 9457 problem details.
         */
        Problem: {
            /**
             * Type
             * @default about:blank
             */
            type?: string;
            /** Title */
            title: string;
            /** Status */
            status: number;
            /** Detail */
            detail: string;
            /**
             * Errors
             * @default null
             */
            errors?: components["schemas"]["FieldProblem"][] | null;
            /**
             * Traceback
             * @description What the library reported; for the demo's author only.
             * @default null
             */
            traceback?: string | null;
            /**
             * Requirements
             * @description Lines of a `requirements.txt` with which the model might open.
             * @default null
             */
            requirements?: string[] | null;
        };
        /**
         * Question
         * @description Something that was concluded and that publishing asks about, until known cases or the author have confirmed it.
         *
         *     `name` is the check it belongs to, `way_on` what its author can do, `note` the note that says the same in short
         *     where it is not `text`. `rows` are cases with what the model says of them, to compare with a notebook.
         */
        Question: {
            /**
             * Name
             * @enum {string}
             */
            name: "features" | "class-order" | "preparation" | "reading";
            /** Text */
            text: string;
            /**
             * Way On
             * @default
             */
            way_on?: string;
            /**
             * Note
             * @default
             */
            note?: string;
            /**
             * Rows
             * @default []
             */
            rows?: {
                [key: string]: unknown;
            }[];
            /**
             * Outputs
             * @default []
             */
            outputs?: number[][];
        };
        /**
         * RangeDifference
         * @description A number whose reference values lie elsewhere now: the lowest and the highest.
         */
        RangeDifference: {
            /** Field */
            field: string;
            /** Before */
            before: [
                number,
                number
            ];
            /** After */
            after: [
                number,
                number
            ];
        };
        /**
         * ReadingTry
         * @description One way to read a model's outputs as boxes that was tried.
         *
         *     `agreement` is how much the boxes share with those of the mirrored picture, mirrored back (None for a model that
         *     does not answer to pictures); `inside` how much of the boxes lies inside the picture; both from 0 to 1.
         */
        ReadingTry: {
            /** Words */
            words: string;
            reading: components["schemas"]["BoxReading"];
            /** Agreement */
            agreement: number | null;
            /** Inside */
            inside: number;
            /** N Boxes */
            n_boxes: number;
        };
        /**
         * ReferenceRow
         * @description One row of the reference table, as a visitor would enter it.
         */
        ReferenceRow: {
            /** Row */
            row: number;
            /** Inputs */
            inputs: {
                [key: string]: unknown;
            };
            /**
             * Outcome
             * @default null
             */
            outcome?: unknown;
        };
        /**
         * ReferenceRows
         * @description Some rows of the reference table.
         */
        ReferenceRows: {
            /** Total */
            total: number;
            /** Rows */
            rows: components["schemas"]["ReferenceRow"][];
        };
        /**
         * Region
         * @description A ninth of a picture, by its place in words.
         */
        Region: {
            /** Words */
            words: string;
            /** Contribution */
            contribution: number;
            /**
             * Error
             * @description Standard error; null while it is only a sketch.
             */
            error: number | null;
        };
        /**
         * ReleaseDetails
         * @description One release as it was published.
         */
        ReleaseDetails: {
            /** Number */
            number: number;
            /**
             * Created
             * Format: date-time
             */
            created: string;
            /**
             * Published At
             * Format: date-time
             */
            published_at: string;
            /**
             * Note
             * @default
             */
            note?: string;
            /**
             * Despite
             * @description The author's reason for each check that failed.
             * @default {}
             */
            despite?: {
                [key: string]: string;
            };
            /**
             * Is Live
             * @default true
             */
            is_live?: boolean;
            /**
             * Is Bridged
             * @description Whether its model stays in a process of its author's.
             * @default false
             */
            is_bridged?: boolean;
            document: components["schemas"]["DemoDocument"];
            found: components["schemas"]["Found"];
            evidence: components["schemas"]["Evidence"] | null;
        };
        /**
         * ReleaseDifferences
         * @description What differs between two states of a demo.
         */
        ReleaseDifferences: {
            /** Settings */
            settings: components["schemas"]["SettingDifference"][];
            /** Is Same Model */
            is_same_model: boolean;
            model: components["schemas"]["Differences"] | null;
        };
        /**
         * ReleaseState
         * @description A frozen, numbered state of a demo.
         */
        ReleaseState: {
            /** Number */
            number: number;
            /**
             * Created
             * Format: date-time
             */
            created: string;
            /**
             * Published At
             * Format: date-time
             */
            published_at: string;
            /**
             * Note
             * @default
             */
            note?: string;
            /**
             * Despite
             * @description The author's reason for each check that failed.
             * @default {}
             */
            despite?: {
                [key: string]: string;
            };
            /**
             * Is Live
             * @default true
             */
            is_live?: boolean;
            /**
             * Is Bridged
             * @description Whether its model stays in a process of its author's.
             * @default false
             */
            is_bridged?: boolean;
        };
        /**
         * ReleaseWhileAway
         * @description Which release answers while the process of the one that visitors see is away.
         */
        ReleaseWhileAway: {
            /**
             * Number
             * @description None if none does.
             */
            number: number | null;
        };
        /**
         * Releases
         * @description All releases of a demo, the newest first.
         */
        Releases: {
            /** Total */
            total: number;
            /** Releases */
            releases: components["schemas"]["ReleaseState"][];
        };
        /**
         * Replaced
         * @description What differs, and the demo as it is then.
         */
        Replaced: {
            differences: components["schemas"]["Differences"];
            demo: components["schemas"]["DemoState"];
        };
        /**
         * Report
         * @description How the model did on known cases it had not seen.
         */
        Report: {
            /** N Known */
            n_known: number;
            /**
             * Right Of 100
             * @description For classes: how many of 100 it had right.
             * @default null
             */
            right_of_100?: number | null;
            /**
             * Typical Error
             * @description For a number: half of its answers were off by less.
             * @default null
             */
            typical_error?: string | null;
            /**
             * Outputs
             * @description For several numbers or labels: each by itself.
             * @default []
             */
            outputs?: components["schemas"]["OutputReport"][];
        };
        /**
         * SaidCase
         * @description What a visitor said of one answer.
         */
        SaidCase: {
            /**
             * At
             * Format: date-time
             */
            at: string;
            /** Right */
            right: boolean;
            /** Answer */
            answer: string;
            /** Truth */
            truth: string | null;
            /** Comment */
            comment: string | null;
        };
        /**
         * Sample
         * @description A ready case that a visitor can press to see the demo work at once.
         */
        Sample: {
            /** Title */
            title: string;
            /** Inputs */
            inputs: {
                [key: string]: boolean | number | string | {
                    [key: string]: unknown;
                } | null;
            };
        };
        /**
         * SampleFilm
         * @description A ready film that a visitor can press.
         */
        SampleFilm: {
            /** Title */
            title: string;
            /**
             * Data
             * @description The film's file in base64.
             */
            data: string;
        };
        /**
         * Seen
         * @description How the reference values of a number lie, or what else its range is known by. Facts, not settings.
         */
        Seen: {
            /**
             * Source
             * @description Where the range is from: the reference table, or the function, which says what it is for. `none`: nobody said, and it is where the control goes.
             * @default table
             * @enum {string}
             */
            source?: "table" | "function" | "none";
            /** Low */
            low: number;
            /** High */
            high: number;
            /**
             * Usual Low
             * @description A quarter of the reference values lie below.
             */
            usual_low: number;
            /**
             * Usual High
             * @description A quarter of the reference values lie above.
             */
            usual_high: number;
            /**
             * Counts
             * @description Reference values in equally wide bins from `low` to `high`; none without a table.
             */
            counts: number[];
        };
        /**
         * SessionState
         * @description Who is signed in.
         */
        SessionState: {
            /** Author */
            author: string | null;
            /** Has Password */
            has_password: boolean;
            /**
             * Asks Old Password
             * @description Whether a new password needs the old one; a session that a one-time link has just begun does not.
             */
            asks_old_password: boolean;
            /** Csrf Token */
            csrf_token: string | null;
        };
        /**
         * SettingDifference
         * @description One setting that differs. What was not there, or is not any more, is None.
         */
        SettingDifference: {
            /** What */
            what: string;
            /**
             * Field
             * @default null
             */
            field?: string | null;
            /** Before */
            before: string | null;
            /** After */
            after: string | null;
        };
        /**
         * Sheet
         * @description All of it.
         */
        Sheet: {
            /** N Rows */
            n_rows: number;
            /** Columns */
            columns: components["schemas"]["ColumnLook"][];
            /**
             * Target
             * @description What is to be predicted: as it was said, or as it is suggested.
             */
            target: string;
            /**
             * Targets
             * @description What else may be, the likeliest first.
             */
            targets: string[];
            /**
             * Answer
             * @enum {string}
             */
            answer: "class" | "number";
            /**
             * Classes
             * @default []
             */
            classes?: components["schemas"]["ValueCount"][];
            /**
             * N Without Outcome
             * @default 0
             */
            n_without_outcome?: number;
            /** Findings */
            findings: components["schemas"]["Finding"][];
            /**
             * Questions
             * @default []
             */
            questions?: components["schemas"]["SheetQuestion"][];
            /**
             * Notes
             * @default []
             */
            notes?: string[];
            /**
             * Group
             * @description The column whose rows should stay together, as it is suggested.
             * @default
             */
            group?: string;
            /**
             * Time
             * @description The column of dates by which rows should be parted, as it is suggested.
             * @default
             */
            time?: string;
            /**
             * Dates
             * @description Columns of dates.
             * @default []
             */
            dates?: string[];
            /**
             * Drops Duplicates
             * @default false
             */
            drops_duplicates?: boolean;
        };
        /**
         * SheetQuestion
         * @description What can be read in two ways, and has to be said.
         */
        SheetQuestion: {
            /**
             * About
             * @enum {string}
             */
            about: "numbers" | "dates";
            /** Column */
            column: string;
            /** Example */
            example: string;
        };
        /**
         * Shelf
         * @description An author's demos.
         */
        Shelf: {
            /** Demos */
            demos: components["schemas"]["ShelfEntry"][];
            /**
             * Deleted
             * @description The last deleted first.
             */
            deleted: components["schemas"]["DeletedEntry"][];
        };
        /**
         * ShelfEntry
         * @description One demo on the shelf.
         */
        ShelfEntry: {
            /** Slug */
            slug: string;
            /** Title */
            title: string;
            /** Purpose */
            purpose: string;
            /**
             * Access
             * @enum {string}
             */
            access: "private" | "link" | "passcode" | "everyone";
            /** Release */
            release: number | null;
            /** Draft Differs */
            draft_differs: boolean;
            /**
             * Changed
             * Format: date-time
             */
            changed: string;
            /**
             * Predictions
             * @description Answers that visitors got.
             */
            predictions: number;
            /**
             * Last Prediction
             * @description When a visitor last got one.
             */
            last_prediction: string | null;
            /**
             * Failures
             * @description Calls of visitors that the model failed in the last seven days.
             */
            failures: number;
            /**
             * Own Tries
             * @description Answers that the author got.
             */
            own_tries: number;
            /**
             * Health
             * @description `failing`: the process is there, but the model failed each of the last calls.
             * @enum {string}
             */
            health: "ready" | "starting" | "failed" | "failing" | "asleep" | "finished";
            /**
             * Trouble
             * @description What its process was stopped for last, since the server began.
             * @default null
             */
            trouble?: string | null;
        };
        /**
         * SignIn
         * @description An author's name and password.
         */
        SignIn: {
            /** Name */
            name: string;
            /** Password */
            password: string;
        };
        /**
         * SignInToken
         * @description The token of a one-time link.
         */
        SignInToken: {
            /** Token */
            token: string;
        };
        /**
         * SimilarCase
         * @description A reference row like the case.
         */
        SimilarCase: {
            /** Inputs */
            inputs: {
                [key: string]: unknown;
            };
            /**
             * Outcome
             * @description What happened, if the table says so.
             */
            outcome: string | number | null;
            /** Outcome Text */
            outcome_text: string | null;
            /**
             * Answer
             * @description What the model says of it.
             */
            answer: components["schemas"]["ClassAnswer"] | components["schemas"]["NumberAnswer"] | components["schemas"]["NumbersAnswer"] | components["schemas"]["LabelsAnswer"] | components["schemas"]["BoxesAnswer"] | components["schemas"]["PictureAnswer"] | components["schemas"]["MaskAnswer"] | components["schemas"]["TextAnswer"] | components["schemas"]["TableAnswer"];
            /** Distance */
            distance: number;
        };
        /**
         * StarterChanges
         * @description What is wanted instead; what is left out stays as it is.
         */
        StarterChanges: {
            /**
             * Target
             * @default null
             */
            target?: string | null;
            /**
             * Answer
             * @default null
             */
            answer?: ("" | "class" | "number") | null;
            /**
             * Drop
             * @default null
             */
            drop?: string[] | null;
            /**
             * Keep
             * @default null
             */
            keep?: string[] | null;
            /**
             * Kinds
             * @default null
             */
            kinds?: {
                [key: string]: "number" | "category" | "text" | "date";
            } | null;
            /**
             * Group
             * @description Empty for none.
             * @default null
             */
            group?: string | null;
            /**
             * Time
             * @description Empty for none.
             * @default null
             */
            time?: string | null;
            /**
             * Numbers
             * @default null
             */
            numbers?: ("" | "1,234.5" | "1.234,5") | null;
            /**
             * Dates
             * @default null
             */
            dates?: ("" | "day" | "month") | null;
            /**
             * Duplicates
             * @default null
             */
            duplicates?: ("" | "keep" | "drop") | null;
            /**
             * Weights
             * @default null
             */
            weights?: ("" | "none" | "balanced") | null;
            /**
             * Model
             * @default null
             */
            model?: ("" | "linear" | "tree" | "neighbours" | "boosted") | null;
            /**
             * Title
             * @default null
             */
            title?: string | null;
            /**
             * Slug
             * @default null
             */
            slug?: string | null;
        };
        /**
         * StarterLook
         * @description What is known of a table that a model is made of.
         */
        StarterLook: {
            choices: components["schemas"]["Choices"];
            /**
             * Again
             * @description The address of the demo whose model is fitted again.
             * @default
             */
            again?: string;
            sheet: components["schemas"]["Sheet"];
            /**
             * Used
             * @description The columns that a model is told, by these choices.
             */
            used: string[];
            /**
             * Done
             * @description Of each of the sheet's findings, what is done about it by them.
             */
            done: string[];
            /** @description None until models were compared. */
            compared: components["schemas"]["Comparison"] | null;
            /**
             * @description Of the model that was made, on rows no fit saw.
             * @default null
             */
            kept_error?: components["schemas"]["KeptError"] | null;
            /**
             * Checks
             * @description What the demo's checks came to when it was made.
             * @default []
             */
            checks?: components["schemas"]["CheckResult"][];
        };
        /**
         * StarterOrigin
         * @description How a demo's model was made of a table.
         */
        StarterOrigin: {
            /** File Name */
            file_name: string;
            /** Target */
            target: string;
            /**
             * Columns
             * @description What the model is told.
             */
            columns: string[];
            /** Group */
            group: string | null;
            /** Time */
            time: string | null;
            /** Candidate */
            candidate: string;
            /** Settings */
            settings: {
                [key: string]: unknown;
            };
            /** @description None of a model that was fitted again by the same recipe. */
            compared: components["schemas"]["Comparison"] | null;
            /**
             * Sentences
             * @description What was found in the table, and what was done about it.
             */
            sentences: string[];
            /** N Rows */
            n_rows: number;
            /** N Learned */
            n_learned: number;
            /** N Known */
            n_known: number;
            /** N Kept Back */
            n_kept_back: number;
            /**
             * @description On the rows that were kept back, which no fit saw.
             * @default null
             */
            kept_error?: components["schemas"]["KeptError"] | null;
            /**
             * @description To the model before it, where it was fitted again.
             * @default null
             */
            differences?: components["schemas"]["Differences"] | null;
            /** Script */
            script: string;
            /** Requirements */
            requirements: string;
        };
        /**
         * StarterParts
         * @description What a demo is started with. Choices may be parts of their own, or together in `options` as JSON.
         */
        StarterParts: {
            /**
             * Table
             * @description CSV, Parquet or a spreadsheet; a row a case, with what happened in one of its columns.
             */
            table: string;
            /**
             * Target
             * @description The column that is to be predicted.
             * @default null
             */
            target?: string | null;
            /**
             * Again
             * @description The address of a demo that was made so: its model is fitted by the same recipe and replaced.
             * @default null
             */
            again?: string | null;
            /**
             * Options
             * @description A `Choices` as JSON.
             * @default null
             */
            options?: string | null;
        };
        /**
         * TableAnswer
         * @description A table: a value a column in each row, null where there is none.
         */
        TableAnswer: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "table";
            /** Columns */
            columns: string[];
            /** Rows */
            rows: (boolean | number | string | null)[][];
        };
        /**
         * TableChanges
         * @description How the table is to be read instead; what is left out stays as it is.
         */
        TableChanges: {
            /**
             * Columns
             * @default null
             */
            columns?: {
                [key: string]: string;
            } | null;
            /**
             * Numbers
             * @default null
             */
            numbers?: ("" | "1,234.5" | "1.234,5") | null;
            /**
             * Dates
             * @default null
             */
            dates?: ("" | "day" | "month") | null;
            /**
             * Outcome
             * @default null
             */
            outcome?: string | null;
            /**
             * Contributions
             * @default null
             */
            contributions?: number | null;
        };
        /**
         * TableDoubt
         * @description A field whose column can be read in two ways, as in `example`.
         */
        TableDoubt: {
            /** Field */
            field: string;
            /**
             * About
             * @enum {string}
             */
            about: "numbers" | "dates";
            /** Example */
            example: string;
        };
        /**
         * TableLook
         * @description What was found in the table.
         */
        TableLook: {
            /** Columns */
            columns: string[];
            /**
             * First
             * @description The first values of each column.
             */
            first: string[][];
            /** Matched */
            matched: components["schemas"]["ColumnOfField"][];
            /**
             * Missing
             * @description Fields for which there is no column.
             */
            missing: string[];
            /**
             * Alike
             * @description By field the columns that may be meant.
             */
            alike: {
                [key: string]: string[];
            };
            /**
             * Doubtful
             * @description What can be read in two ways.
             */
            doubtful: components["schemas"]["TableDoubt"][];
            /** Notes */
            notes: string[];
            /**
             * Outcome
             * @description The column with what happened.
             */
            outcome: string | null;
            /**
             * Headings
             * @description The result's columns.
             */
            headings: string[];
            /**
             * Preview
             * @description The result's first rows.
             */
            preview: string[][];
            /**
             * Ready
             * @description Whether it can be begun as it is.
             */
            ready: boolean;
        };
        /**
         * TableSetting
         * @description The answer is a table.
         */
        TableSetting: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "table";
            /**
             * Name
             * @description What the table lists; it stands over it.
             * @default Answer
             */
            name?: string;
        };
        /**
         * TakeAwayPart
         * @description Part of the file.
         */
        TakeAwayPart: {
            /**
             * Name
             * @enum {string}
             */
            name: "page" | "engine" | "model" | "rows" | "rest";
            /** Bytes */
            bytes: number;
        };
        /**
         * TakeAwayPlan
         * @description What the file would be, before it is made.
         */
        TakeAwayPlan: {
            /**
             * Obstacle
             * @description Why this demo cannot be taken away, and what else there is.
             * @default null
             */
            obstacle?: string | null;
            /**
             * Release
             * @description The release that would be in it; None for the draft.
             * @default null
             */
            release?: number | null;
            /**
             * Has Rows
             * @description Whether rows of the reference table would be in it.
             * @default false
             */
            has_rows?: boolean;
            /**
             * Shows Rows
             * @description Whether the page hands out rows already: with similar cases, or the case among others.
             * @default false
             */
            shows_rows?: boolean;
            /**
             * N Rows
             * @description How many rows there are to go along.
             * @default 0
             */
            n_rows?: number;
            /**
             * N Sample
             * @description Rows that contributions are counted against; these always go along.
             * @default 0
             */
            n_sample?: number;
            /**
             * Bytes
             * @description About what the file weighs.
             * @default 0
             */
            bytes?: number;
            /**
             * Parts
             * @description What weighs how much, the heaviest first.
             * @default []
             */
            parts?: components["schemas"]["TakeAwayPart"][];
            /**
             * Is Large
             * @description Whether mails and phones may have trouble with it.
             * @default false
             */
            is_large?: boolean;
            /**
             * Left Out
             * @description What it cannot do that the server's page can, in sentences.
             * @default []
             */
            left_out?: string[];
        };
        /**
         * TextAnswer
         * @description A text, as it was written: it is shown as plain text.
         */
        TextAnswer: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "text";
            /** Text */
            text: string;
        };
        /**
         * TextField
         * @description A piece of text.
         */
        TextField: {
            /** Name */
            name: string;
            /** Label */
            label: string;
            /**
             * Help
             * @default
             */
            help?: string;
            /**
             * Group
             * @default
             */
            group?: string;
            /**
             * Optional
             * @description May be left unknown (null): the reference column has gaps and the model takes them.
             * @default false
             */
            optional?: boolean;
            /**
             * Hidden
             * @description Visitors do not see it: every case has its start value. Chosen on purpose, and said.
             * @default false
             */
            hidden?: boolean;
            /**
             * Changeable
             * @description Whether a visitor could change this about the case at all.
             * @default true
             */
            changeable?: boolean;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "text";
            /** Default */
            default: string | null;
            /**
             * Max Length
             * @default 20000
             */
            max_length?: number;
        };
        /**
         * TextSetting
         * @description The answer is a text.
         */
        TextSetting: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "text";
            /**
             * Name
             * @description What the text is; it stands over it.
             * @default Answer
             */
            name?: string;
        };
        /**
         * ThresholdPoint
         * @description Known cases with one threshold.
         */
        ThresholdPoint: {
            /** Threshold */
            threshold: number;
            /**
             * Hits
             * @description It was so, and is said.
             */
            hits: number;
            /**
             * Misses
             * @description It was so, and is not said.
             */
            misses: number;
            /**
             * False Alarms
             * @description It was not so, and is said.
             */
            false_alarms: number;
            /**
             * Quiet
             * @description It was not so, and is not said.
             */
            quiet: number;
        };
        /**
         * Thresholds
         * @description What each threshold would do.
         */
        Thresholds: {
            /** Of */
            of: string;
            /** Cases */
            cases: number;
            /** Points */
            points: components["schemas"]["ThresholdPoint"][];
        };
        /**
         * Timing
         * @description Where the time went, in milliseconds.
         */
        Timing: {
            /** Predict */
            predict: number;
            /**
             * Explain
             * @default null
             */
            explain?: number | null;
            /** Total */
            total: number;
        };
        /**
         * Tried
         * @description What came of trying a model.
         */
        Tried: {
            /**
             * Candidate
             * @enum {string}
             */
            candidate: "guess" | "linear" | "tree" | "neighbours" | "boosted";
            /** Name */
            name: string;
            /**
             * Error
             * @description On rows that it had not seen; what is measured says `measure`.
             */
            error: number;
            /**
             * Text
             * @description That in words, with its interval.
             * @default
             */
            text?: string;
            /**
             * Low
             * @description The lower end of where it lies; 95 of 100 such intervals hold what they are about.
             */
            low: number;
            /** High */
            high: number;
            /** Standard Error */
            standard_error: number;
            /**
             * Settings
             * @description With which it is made of all rows that were not kept back.
             * @default {}
             */
            settings?: {
                [key: string]: unknown;
            };
            /**
             * Is Better
             * @description Whether it is better than guessing, beyond doubt.
             * @default false
             */
            is_better?: boolean;
            /**
             * Gain Low
             * @description By how much it is better than guessing, at least.
             * @default 0
             */
            gain_low?: number;
            /**
             * Gain High
             * @default 0
             */
            gain_high?: number;
            /**
             * Behind Low
             * @description By how much it is behind the best, at least, row by row.
             * @default 0
             */
            behind_low?: number;
            /**
             * Behind High
             * @default 0
             */
            behind_high?: number;
        };
        /**
         * Use
         * @description How visitors use a demo. Counted; what they entered is no part of it.
         */
        Use: {
            /** Answers */
            answers: number;
            /** Failures */
            failures: number;
            times: components["schemas"]["UseTimes"] | null;
            outcomes: components["schemas"]["UseOutcomes"];
            /** Days */
            days: components["schemas"]["UseDay"][];
            /**
             * @description Of the live release, once visitors have said something of it.
             * @default null
             */
            live?: components["schemas"]["LiveReport"] | null;
        };
        /**
         * UseDay
         * @description One day's calls by visitors, in UTC.
         */
        UseDay: {
            /**
             * Day
             * Format: date
             */
            day: string;
            /** Answers */
            answers: number;
            /**
             * Failures
             * @description Calls that the model failed or was too slow for.
             */
            failures: number;
            /**
             * Refused
             * @description Calls whose inputs did not fit.
             */
            refused: number;
        };
        /**
         * UseOutcomes
         * @description What visitors said of answers.
         */
        UseOutcomes: {
            /** Right */
            right: number;
            /** Wrong */
            wrong: number;
        };
        /**
         * UseTimes
         * @description How long the last answers took, in milliseconds.
         */
        UseTimes: {
            /** Median Ms */
            median_ms: number;
            /** P95 Ms */
            p95_ms: number;
        };
        /**
         * Usual
         * @description The average answer over the reference sample, from which contributions are counted.
         */
        Usual: {
            /** N Rows */
            n_rows: number;
            /**
             * Parts
             * @description Classes and labels the likeliest first.
             */
            parts: components["schemas"]["UsualPart"][];
        };
        /**
         * UsualPart
         * @description One output of the usual answer.
         */
        UsualPart: {
            /**
             * Name
             * @description The class, the label or the number.
             */
            name: string;
            /** Label */
            label: string;
            /** Value */
            value: number;
            /**
             * Text
             * @description As it is said: marks of 100, or a rounded number.
             */
            text: string;
            /**
             * Unit
             * @default
             */
            unit?: string;
        };
        /**
         * ValueChange
         * @description One field that changes.
         */
        ValueChange: {
            /** Field */
            field: string;
            /** Before */
            before: unknown;
            /** After */
            after: unknown;
        };
        /**
         * ValueCount
         * @description A value and how many rows have it.
         */
        ValueCount: {
            /** Value */
            value: string;
            /** Rows */
            rows: number;
        };
        /**
         * ViewPart
         * @description Which part of the picture, as it was cut out and turned, an answer is about: in shares of its sides.
         */
        ViewPart: {
            /**
             * Left
             * @default 0
             */
            left?: number;
            /**
             * Top
             * @default 0
             */
            top?: number;
            /**
             * Width
             * @default 1
             */
            width?: number;
            /**
             * Height
             * @default 1
             */
            height?: number;
        };
        /**
         * Way
         * @description Changes that together bring another answer, and that answer.
         */
        Way: {
            /** Changes */
            changes: components["schemas"]["ValueChange"][];
            /** Answer */
            answer: components["schemas"]["ClassAnswer"] | components["schemas"]["NumberAnswer"] | components["schemas"]["NumbersAnswer"] | components["schemas"]["LabelsAnswer"] | components["schemas"]["BoxesAnswer"] | components["schemas"]["PictureAnswer"] | components["schemas"]["MaskAnswer"] | components["schemas"]["TextAnswer"] | components["schemas"]["TableAnswer"];
        };
        /**
         * WhereAnswer
         * @description Where the model looked: what each patch of a picture, or each stroke of a drawing, adds to the answer.
         *
         *     Contributions run row by row and add up to `whole` − `covered`. Ask on until `is_done`: they get sharper.
         */
        WhereAnswer: {
            /** Field */
            field: string;
            /** Of */
            of: string;
            /** Unit */
            unit: string;
            /**
             * Parts
             * @enum {string}
             */
            parts: "patches" | "strokes";
            /**
             * Method
             * @enum {string}
             */
            method: "sketch" | "sampled" | "exact-enumeration";
            /**
             * Whole
             * @description The answer to the picture as it is.
             */
            whole: number;
            /**
             * Covered
             * @description The answer with all of it covered, or nothing drawn.
             */
            covered: number;
            /** N Rows */
            n_rows: number;
            /** N Columns */
            n_columns: number;
            /** Contributions */
            contributions: number[];
            /**
             * Errors
             * @description Standard errors; null while it is only a sketch.
             */
            errors: (number | null)[];
            /**
             * Regions
             * @description Ninths of a picture, the largest contribution first.
             */
            regions: components["schemas"]["Region"][];
            /**
             * N Asked
             * @description How many pictures with covered parts the model was asked about.
             */
            n_asked: number;
            /** Is Done */
            is_done: boolean;
        };
        /**
         * WordAnswer
         * @description What one word of a text did.
         */
        WordAnswer: {
            /** Word */
            word: string;
            /**
             * Places
             * @description Start and end of each occurrence, in characters.
             */
            places: number[][];
            /** Contribution */
            contribution: number;
            /**
             * Error
             * @description Standard error; 0 where it is exact.
             */
            error: number;
            /**
             * Left Out
             * @description By how much the answer falls when this word alone is left out.
             */
            left_out: number;
        };
        /**
         * WordsAnswer
         * @description What the words of one field did; contributions add up from the answer to no words to the answer.
         */
        WordsAnswer: {
            /** Field */
            field: string;
            /** Method */
            method: string;
            /**
             * Baseline
             * @description The answer to no words at all.
             */
            baseline: number;
            /**
             * Words
             * @description The strongest first.
             */
            words: components["schemas"]["WordAnswer"][];
        };
        /**
         * YesNoField
         * @description Yes or no. `no` and `yes` are the values the model knows them by.
         */
        YesNoField: {
            /** Name */
            name: string;
            /** Label */
            label: string;
            /**
             * Help
             * @default
             */
            help?: string;
            /**
             * Group
             * @default
             */
            group?: string;
            /**
             * Optional
             * @description May be left unknown (null): the reference column has gaps and the model takes them.
             * @default false
             */
            optional?: boolean;
            /**
             * Hidden
             * @description Visitors do not see it: every case has its start value. Chosen on purpose, and said.
             * @default false
             */
            hidden?: boolean;
            /**
             * Changeable
             * @description Whether a visitor could change this about the case at all.
             * @default true
             */
            changeable?: boolean;
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "yes_no";
            /** No */
            no: boolean | number | string;
            /** Yes */
            yes: boolean | number | string;
            /** Default */
            default: boolean | null;
        };
    };
    responses: never;
    parameters: never;
    requestBodies: never;
    headers: never;
    pathItems: never;
}
export type $defs = Record<string, never>;
export interface operations {
    list_bridges: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Your demos that are answered from a process of your own, and whether it is connected */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BridgeList"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_bridge_client: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                file: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The bridge's client as a wheel, for `pip install`; its name is in `GET /bridges` */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/zip": unknown;
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_page: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description All that a visitor's page needs */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Page"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_logo: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The small picture beside the title */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "image/png": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_schema: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description JSON Schema of the inputs */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_browser_content: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
                /** @description The page's `browser.mark`: keeps what belongs together together where it is kept. */
                mark?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description What answers rest on where a page answers in its visitor's browser: fields, wording, evidence, reference answers */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/gzip": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The model could not answer */
            502: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_browser_model: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
                /** @description The page's `browser.mark`: keeps what belongs together together where it is kept. */
                mark?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The compiled model where a page answers in its visitor's browser, or the ONNX graph; compressed with gzip */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/gzip": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    list_demos: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The author's demos, the one changed last first, and those that can be brought back */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Shelf"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    create_demo: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["NewDemo"];
            };
        };
        responses: {
            /** @description Bring a model and its reference table; fields and answer are inferred from them */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DemoState"];
                };
            };
            /** @description It goes on as a job */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobView"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_demo: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The draft, with all about the demo that its author sees */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DemoState"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    remove_demo: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Take the demo off the shelf; its runner goes. `restore` brings it back */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    patch_demo: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["DraftChange"];
            };
        };
        responses: {
            /** @description Change the draft, or the demo's address */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DemoState"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The draft was changed since it was read */
            412: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    restore: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Bring back the demo that was last deleted from this address */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DemoState"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    create_checks: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Run the checks on the draft. With `Accept: application/x-ndjson` a line a check comes as it ends */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["CheckRun"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    openapi: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description This description */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    demo_schema: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description JSON Schema of `demo.toml` */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_drift: {
        parameters: {
            query?: {
                /** @description How many weeks to look back; 8 if left out. */
                weeks?: number;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Whether visitors of the live release ask about cases like those of the reference table */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DriftReport"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    list_environments: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The libraries that demos here have of their own, the newest first, and which of your demos use each */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["EnvironmentList"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    create_environment: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["NewEnvironment"];
            };
        };
        responses: {
            /** @description Build an environment ahead of the demo that needs it: 202 and a job, unless the same was built before */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["EnvironmentView"];
                };
            };
            /** @description It goes on as a job */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobView"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    put_expected: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["ExpectedPart"];
            };
        };
        responses: {
            /** @description Bring what your notebook says of some cases: inputs, and a column `prediction` or one a class */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ExpectedState"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    delete_expected: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Take away what was brought to compare with */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_folder: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The draft as a zip of its folder: the files as they came, and `demo.toml` with all that was set */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/zip": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    put_folder: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["FolderPart"];
            };
        };
        responses: {
            /** @description Let the draft be what a zip of a folder holds; the address stays, and visitors keep the live release */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Replaced"];
                };
            };
            /** @description It goes on as a job */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobView"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    create_boxes: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
                /** @description Of boxes: the lowest score that counts; the author's if left out. */
                least_score?: number;
                /** @description `picture`: with the boxes drawn in, in the format it came in; or `csv`: a line a box. */
                as?: "picture" | "csv";
                /** @description A class by its name, several times for several: others are left out. */
                only?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["PredictionRequest"];
                "multipart/form-data": components["schemas"]["PicturePredictionRequest"];
            };
        };
        responses: {
            /** @description What is found in a picture as a file. Nothing of it is kept here */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/octet-stream": unknown;
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The model could not answer */
            502: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    create_made: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
                /** @description `picture`: what was made, in the format of what was given; of a mask that with the mask laid over it. `mask`: the mask itself, a grey PNG whose values are the classes' places. */
                as?: "picture" | "mask";
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["PredictionRequest"];
                "multipart/form-data": components["schemas"]["PicturePredictionRequest"];
            };
        };
        responses: {
            /** @description What a model makes of a picture as a file, in full size. Nothing of it is kept here */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/octet-stream": unknown;
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The model could not answer */
            502: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_frames: {
        parameters: {
            query?: {
                /** @description How many to leave out. */
                offset?: string;
                /** @description How many at most. */
                limit?: string;
            };
            header?: never;
            path: {
                job_id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description What came of a film's frames so far, with the job as it is. Whoever asks is taken to wait for the rest */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FilmFrames"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_sample_film: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
            };
            header?: never;
            path: {
                slug: string;
                place: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description One of the demo's ready films, as its file */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/octet-stream": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_job: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job_id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description How far a job is, and what came of it */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobView"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    cancel_job: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job_id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Cancel a job; one that is over is forgotten, with what came of it */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    change_table: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job_id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["TableChanges"];
            };
        };
        responses: {
            /** @description Read the table of a job that is held otherwise */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobView"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    start_job: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job_id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Begin a job that is held */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobView"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_table_report: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job_id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description How the model did on the table's rows, where the table says what happened; of very many on the first 200,000 */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FullReport"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_faults: {
        parameters: {
            query?: {
                /** @description How many to leave out. */
                offset?: string;
                /** @description How many at most. */
                limit?: string;
                /** @description `csv` for all as a table. */
                format?: string;
            };
            header?: never;
            path: {
                job_id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Which rows have a fault, and what is wrong with them */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobFaults"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    create_job: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["JobParts"];
            };
        };
        responses: {
            /** @description Have a whole table of cases answered, a film frame by frame, or something worked out about the model */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobView"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    list_jobs: {
        parameters: {
            query?: {
                /** @description How many to leave out. */
                offset?: string;
                /** @description How many at most. */
                limit?: string;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description All jobs of your demos, the newest first */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobList"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_events: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job_id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The job as it goes on: a line of JSON at each change, until it is over. Its log comes along as `log` */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/x-ndjson": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_result: {
        parameters: {
            query?: {
                /** @description `csv`, `parquet` or `xlsx`; of a film `csv`, or `film`: an MP4 with its boxes, where it has some. */
                format?: "csv" | "parquet" | "xlsx" | "film";
                /** @description Of a film: boxes with a lower score are left out. */
                least_score?: number;
                /** @description Of a film: a kind of box by its name, several times for several; others are left out. */
                only?: string;
            };
            header?: never;
            path: {
                job_id: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The table with its answers, or what came of a film, as a file */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "text/csv": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_log: {
        parameters: {
            query?: {
                /** @description Only calls that ended so: `answered`, `failed`, `overran`, `refused` or `unavailable`. */
                outcome?: "answered" | "failed" | "overran" | "refused" | "unavailable";
                /** @description How many of the newest to pass over. */
                offset?: number;
                /** @description How many to give, up to 500. */
                limit?: number;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description What was asked, the newest first. What was entered is there only where the author keeps it */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LogPage"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_log_table: {
        parameters: {
            query?: {
                /** @description Only calls that ended so: `answered`, `failed`, `overran`, `refused` or `unavailable`. */
                outcome?: "answered" | "failed" | "overran" | "refused" | "unavailable";
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The same as a table for spreadsheets, a column a field. Nothing in it is taken for a formula */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "text/csv": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_outcomes_table: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description What visitors said became of their cases, as a table for spreadsheets */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "text/csv": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    delete_inputs: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Forget what was entered: all of it, now. That something was asked stays counted */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    give_outcome: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
                answer: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["GivenOutcome"];
            };
        };
        responses: {
            /** @description Say whether an answer was right, and what it really was where the author asks for that */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    give_passcode: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["Passcode"];
            };
        };
        responses: {
            /** @description Give the passcode; this browser's further requests are then let through */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    create_prediction: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
                /** @description What comes along, parted by commas: `explanation`, `curves`, `similar`, `changes`, `where`, `seen`. */
                with?: string;
                /** @description With `changes`: the class that is wanted; any other than the likeliest if left out. */
                to?: string;
                /** @description With `changes`: the number that is to be reached; the usual answer if left out. */
                reach?: string;
                /** @description The class, or the number, that is explained; the likeliest class if left out. */
                of?: string;
                /** @description `score` explains the score behind a probability, where the model has one. */
                scale?: string;
                /** @description `full` gives every step of a curve, not only what a small chart can show; as many as an answer holds. */
                curves?: string;
                /** @description Of boxes: the lowest score that counts; the author's if left out. */
                least_score?: number;
                /** @description Of an answer that is a picture: no side of it is longer, in a format that browsers show. */
                most_side?: number;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["PredictionRequest"];
                "multipart/form-data": components["schemas"]["PicturePredictionRequest"];
            };
        };
        responses: {
            /** @description The model's answer for one case */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PredictionAnswer"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The model could not answer */
            502: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_releases: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description All releases, the newest first */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Releases"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    create_release: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: {
            content: {
                "application/json": components["schemas"]["NewRelease"];
            };
        };
        responses: {
            /** @description Freeze the draft as the next release and show it to visitors */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReleaseState"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    put_access: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["AccessChange"];
            };
        };
        responses: {
            /** @description Who may open the demo: only its author, who has a secret link, who knows the passcode, or everyone */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["AccessState"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_overall: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
                /** @description The class, or the number, that this is about; the first if left out. */
                of?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description What matters overall: importance, direction and average curves, worked out while nobody asks for answers */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["OverallAnswer"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The model could not answer */
            502: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_among: {
        parameters: {
            query: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
                /** @description The field, by its name. */
                field: string;
                /** @description The class, or the number, of the answers. */
                of?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Reference rows by one field and the model's answer, for a case to be drawn among */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["AmongAnswer"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The model could not answer */
            502: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    create_where: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
                /** @description Which picture; the first if left out. */
                field?: string;
                /** @description The class, or the number, that is explained; the likeliest class if left out. */
                of?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["PredictionRequest"];
                "multipart/form-data": components["schemas"]["PicturePredictionRequest"];
            };
        };
        responses: {
            /** @description Where the model looked, as it gets sharper: one JSON object a line, the last with `is_done` */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/x-ndjson": components["schemas"]["WhereAnswer"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The model could not answer */
            502: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    fetch_link: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["Link"];
            };
        };
        responses: {
            /** @description The picture a link leads to, as a page shows it before it is asked about. Nothing is kept */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "image/*": unknown;
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_sample: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
            };
            header?: never;
            path: {
                slug: string;
                name: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description A picture of one of the demo's samples, by its name `number.field` */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "image/*": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_release: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
                number: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description One release as it was published */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReleaseDetails"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    put_release: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["LiveRelease"];
            };
        };
        responses: {
            /** @description Show visitors that release again, at once and whole; the draft stays as it is */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DemoState"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    put_release_while_away: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ReleaseWhileAway"];
            };
        };
        responses: {
            /** @description Which release answers while the process of the one that visitors see is away; its pages say so */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DemoState"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_differences: {
        parameters: {
            query: {
                /** @description A release's number, or `draft`. */
                from: string;
                /** @description The same; `draft` if left out. */
                to?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description What differs between two releases, or a release and the draft, setting by setting */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReleaseDifferences"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    put_model: {
        parameters: {
            query?: {
                /** @description `1` compares only; the draft stays as it is. */
                try?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["NewParts"];
            };
        };
        responses: {
            /** @description Replace the model, or only some of what came with it */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Replaced"];
                };
            };
            /** @description It goes on as a job */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobView"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_report: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
                /** @description A field: the same by its values. */
                by?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description How the model did on known cases: for visitors where the author shows it */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["FullReport"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_known: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
                /** @description As they stand in the `table`, or the `worst` first. */
                order?: "table" | "worst";
                /** @description `all`; of classes those that were `right` or `wrong`, of a number those too `high` or too `low`. */
                show?: "all" | "right" | "wrong" | "high" | "low";
                /** @description Of a number, only cases that are further off than this. */
                over?: number;
                /** @description Only cases of this class. */
                truth?: string;
                /** @description Only cases that were answered with this class. */
                answered?: string;
                /** @description How many cases to pass over. */
                offset?: number;
                /** @description How many to give, up to 100. */
                limit?: number;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Known cases with what the model says of them, and what happened */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["KnownCases"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_known_picture: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
                row: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The picture of a known case of the draft, as it was brought */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "image/*": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_thresholds: {
        parameters: {
            query: {
                /** @description The class that is said from the threshold on. */
                class: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description What each threshold would do on the draft's known cases: for two classes with probabilities */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Thresholds"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_rows: {
        parameters: {
            query?: {
                /** @description How many rows to pass over. */
                offset?: number;
                /** @description How many to give, up to 100. */
                limit?: number;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Rows of the reference table as a visitor would enter them, in an order drawn once, with their outcomes */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ReferenceRows"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    add_sample: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                name: "will-it-crack" | "what-will-this-firing-use" | "what-went-wrong" | "whose-mark-is-it" | "how-is-the-glaze" | "where-are-the-flaws" | "along-the-belt" | "how-will-it-look-fired" | "kiln-by-hand";
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Put one of the sample demos on the shelf, as a draft */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DemoState"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_links: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The demo's secret links that were not revoked, the newest first */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Links"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    create_link: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["NewLink"];
            };
        };
        responses: {
            /** @description Make one more secret link; those there are go on working */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LinkState"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    delete_link: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
                link: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Revoke a secret link: it opens nothing any more, also for those who have opened it */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_session: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Who is signed in */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SessionState"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    sign_in: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["SignIn"];
            };
        };
        responses: {
            /** @description Sign in with name and password */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SessionState"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    sign_out: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Sign out: this session is worth nothing from now on, whoever has its cookie */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    sign_in_by_link: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["SignInToken"];
            };
        };
        responses: {
            /** @description Sign in with the token of a one-time link. Opening the link does not spend it; this does */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SessionState"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    sign_out_everywhere: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description End all of the author's sessions, this one too */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    change_password: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["NewPassword"];
            };
        };
        responses: {
            /** @description Set the password; all other sessions end */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["SessionState"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    list_keys: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The author's keys, the newest first. What they are is not kept, only their hashes */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Keys"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    create_key: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["NewKey"];
            };
        };
        responses: {
            /** @description Make a key for programs. It is told this once */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Key"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    remove_key: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                key_id: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Make a key worth nothing, at once */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    create_starter: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "multipart/form-data": components["schemas"]["StarterParts"];
            };
        };
        responses: {
            /** @description Make a model of a table, and a demo around it */
            202: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobView"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too large */
            413: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    patch_starter: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job_id: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["StarterChanges"];
            };
        };
        responses: {
            /** @description Want something else of the table of a job that is held */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobView"];
                };
            };
            /** @description Not JSON, or not what this call takes */
            400: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The body is not of the kind that this call takes */
            415: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Too many requests; `Retry-After` says when to come back */
            429: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_sample_table: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description A table to try it with: what a pottery studio wrote down of the pieces it fired, made up */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "text/csv": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_starter: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description How the draft's model was made of a table, with the script that makes it again */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StarterOrigin"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_script: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The training script of the draft's model with what it needs installed, as an archive */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/zip": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_plan: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
                /** @description `1` takes the rows of the reference table along, `0` leaves them out but for those that contributions are counted against; if left out they go along where the page hands out rows already. */
                rows?: string;
                /** @description `page` says what a page of this server would send that answers in its visitor's browser (`answers_in`); `file` what a file would be, which is meant if it is left out. */
                for?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description What the file would be: whether it can be made, what it weighs, what would not be in it */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["TakeAwayPlan"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_take_away: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
                /** @description `1` takes the rows of the reference table along, `0` leaves them out but for those that contributions are counted against; if left out they go along where the page hands out rows already. */
                rows?: string;
                /** @description `1` opens it instead of saving it. */
                show?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The demo as one HTML file, which answers in its visitor's browser and asks nobody */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "text/html": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The model could not answer */
            502: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_compiled: {
        parameters: {
            query?: {
                /** @description `1` asks the draft (its author only). */
                draft?: string;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The compiled model by itself, for a page or a program of one's own that reads it (docs/compiled-model.md) */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/octet-stream": unknown;
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is taken, or something is to be confirmed first */
            409: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    get_use: {
        parameters: {
            query?: {
                /** @description How many days to look back; 30 if left out. */
                days?: number;
            };
            header?: never;
            path: {
                slug: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Answers a day, times, failures, and what visitors said became of them. The author's own tries do not count */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Use"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
    ask_again: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                slug: string;
                call: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Ask the draft what was asked then: whether what failed still does. It needs what was entered to have been kept */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PredictionAnswer"];
                };
            };
            /** @description Not signed in */
            401: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The session's CSRF token is missing */
            403: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not there, or not for this caller */
            404: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The request came too slowly */
            408: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The address is too long */
            414: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The server does not go by that name */
            421: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Understood but not usable; every fault is listed */
            422: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description The model could not answer */
            502: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
            /** @description Not ready; `Retry-After` says when to come back */
            503: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/problem+json": components["schemas"]["Problem"];
                };
            };
        };
    };
}
