"""How often a visitor may ask."""

import time
from collections import Counter
from concurrent.futures import ThreadPoolExecutor

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


def test_guessing_a_passcode_takes_longer_and_longer_and_holds_up_nobody_else(tmp_path):
    """Thirty at once, from one address: visitors are answered as if they were not there."""
    studio = Studio(tmp_path / "home", environment={"PLAINWINDOW_RATE": "0"})
    url = "/api/v1/demos/will-it-crack"
    try:
        with studio.client(key=studio.new_key()) as author:
            author.put(f"{url}/access", json={"access": "passcode", "passcode": "celadon"})

        def guess(number: int) -> int:
            with studio.client() as guesser:
                answer = guesser.post(f"{url}/passcode", json={"passcode": f"a guess {number}"})
                if answer.status_code == 429:
                    assert int(answer.headers["retry-after"]) >= 1
                return answer.status_code

        with ThreadPoolExecutor(30) as guessers, studio.client() as visitor:
            guesses = guessers.map(guess, range(60))
            waits = []
            for _ in range(40):
                begun = time.monotonic()
                assert visitor.get("/api/v1/demos/whose-mark-is-it/page").status_code == 200
                waits.append(time.monotonic() - begun)
            statuses = Counter(guesses)
        assert set(statuses) == {401, 429}
        # Five are free; of those that follow some are looked at before the first of them was found wrong.
        assert statuses[401] <= 12
        print(f"longest wait of a visitor: {max(waits) * 1000:.0f} ms")
        with studio.client() as late:
            # Even the right one has to wait now.
            assert late.post(f"{url}/passcode", json={"passcode": "celadon"}).status_code == 429
    finally:
        studio.stop()
