"""Hostile values, many of them: at every calculation, and at every form and address of the running application."""

import random
import sys
import time
from collections import Counter

from starlette.testclient import TestClient
from tests.hostile import PageForm, forms_of, spoilt, spoilt_form
from tests.serving import filled_demo, own_cluster, served_as_bram
from tests.web.frame.test_fuzz_pages import ENDS_THE_SIGN_IN, PAGES, QUERY_NAMES, SENDABLE

from nomisma.core.calculation import BadInput
from nomisma.core.registry import calculations

SLOW_SECONDS = 2.0


class Found:
    """What was seen: how many cases of so many, the failures by kind, the slowest. It says how far it is every
    twentieth part.
    """

    def __init__(self, expected: int) -> None:
        self.expected = expected
        self.started = time.monotonic()
        self.cases = 0
        self.failures: Counter[str] = Counter()
        self.slowest = (0.0, "")

    def note(self, what: str, seconds: float, failure: str = "") -> None:
        """Count one case."""
        self.cases += 1
        if failure or seconds > SLOW_SECONDS:
            kind = failure or f"slow: {what[:120]}"
            if kind not in self.failures:
                print(f"  {kind}: {what[:300]}", flush=True)
            self.failures[kind] += 1
        self.slowest = max(self.slowest, (seconds, what[:160]))
        if self.cases % max(self.expected // 20, 1) == 0:
            minutes = (time.monotonic() - self.started) / 60
            print(
                f"  {self.cases:,} of {self.expected:,} in {minutes:.1f} min, {sum(self.failures.values())} failures",
                flush=True,
            )


def of_calculations(cases: int, seed: str, found: Found) -> None:
    """Every calculation in turn, with one to three of its values spoilt."""
    chance, known = random.Random(f"{seed} calculations"), list(calculations().values())
    for number in range(cases):
        calculation = known[number % len(known)]
        values = spoilt(calculation.example, list(calculation.input_model.model_fields), chance)
        started, failure = time.process_time(), ""
        try:
            calculation.run(values).model_dump_json()
        except BadInput:
            pass
        except Exception as error:  # whatever it is, it is what is looked for
            failure = f"{calculation.name}: {type(error).__name__}: {str(error)[:80]}"
        found.note(f"{calculation.name} {values}", time.process_time() - started, failure)


def of_pages(cases: int, seed: str, client: TestClient, found: Found) -> None:
    """Every form and address in turn."""
    chance = random.Random(f"{seed} pages")
    forms: list[PageForm] = []
    for path in PAGES:
        page = client.get(path).text
        forms += [form for form in forms_of(page, path) if form.action not in ENDS_THE_SIGN_IN]
        forms.append(PageForm(path.split("?")[0], "get", dict.fromkeys(QUERY_NAMES, "")))
    known = list({(form.method, form.action): form for form in forms}.values())
    for number in range(cases):
        form = known[number % len(known)]
        fields = spoilt_form(form, chance)
        if form.method == "get" and chance.random() < 0.5:
            fields = {name: chance.choice(SENDABLE) for name in chance.sample(QUERY_NAMES, 3)}
        started = time.process_time()
        answer = (
            client.get(form.action, params=fields) if form.method == "get" else client.post(form.action, data=fields)
        )
        failure = f"{form.method} {form.action}: {answer.status_code}" if answer.status_code >= 500 else ""
        found.note(f"{form.action} {fields}", time.process_time() - started, failure)


def run(cases: int, seed: str) -> Found:
    """Half of them at the calculations, half at the pages."""
    found = Found(cases)
    of_calculations(cases // 2, seed, found)
    with own_cluster() as (cluster, _), served_as_bram(cluster, filled_demo(cluster)) as client:
        of_pages(cases - cases // 2, seed, client, found)
    return found


def main(arguments: list[str]) -> int:
    """`fuzz [cases] [seed]`; 1 where anything failed or was slow."""
    cases = int(arguments[0]) if arguments else 100_000
    found = run(cases, arguments[1] if len(arguments) > 1 else "nomisma")
    print(
        f"{found.cases:,} hostile cases: {sum(found.failures.values())} answered by a failure or slower than"
        f" {SLOW_SECONDS:g} s"
    )
    print(f"slowest: {found.slowest[0]:.2f} s, {found.slowest[1]}")
    return 1 if found.failures else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
