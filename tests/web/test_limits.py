"""How often a visitor may ask."""

import time

from ..studio import Studio


def test_visitors_are_limited_by_address_and_keys_are_not(tmp_path):
    studio = Studio(tmp_path / "home", environment={"PLAINWINDOW_RATE": "5", "PLAINWINDOW_WORKERS": "2"})
    try:
        url = "/api/v1/demos/will-it-crack/predictions"
        with studio.client() as visitor, studio.client(key=studio.new_key()) as program:
            started = time.monotonic()
            answers = [visitor.post(url, json={"inputs": {}}) for _ in range(40)]
            seconds = time.monotonic() - started
            let_through = sum(answer.status_code == 422 for answer in answers)
            # Five saved up, and five for each second it took, whichever worker was asked.
            assert 5 <= let_through <= 6 + 5 * seconds
            late = next(answer for answer in answers if answer.status_code == 429)
            assert int(late.headers["retry-after"]) >= 1
            assert {program.post(url, json={"inputs": {}}).status_code for _ in range(40)} == {422}
    finally:
        studio.stop()
