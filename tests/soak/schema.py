"""Every operation of the API called with what its schema allows and with what it does not, and the answers checked."""

from hypothesis import HealthCheck, Phase, given, settings
from hypothesis.errors import Unsatisfiable
from schemathesis import GenerationMode, openapi
from schemathesis.core.failures import FailureGroup
from schemathesis.specs.openapi.checks import positive_data_acceptance, response_schema_conformance

HOST = "testserver"
ROWS = {"job_id": 2, "line_id": 9, "setup_id": 3, "station_id": 20, "mark_id": 10, "kit_id": 1, "reading_id": 5}
"""How many rows the demo has, by the name of the path's parameter."""
_PATIENCE_S = 120.0  # whole jobs are judged, and others work the machine as well
_STREAMS, _LIVE = "/changes", "/live"  # the second is let go after a few of its events
_UNDERSTAND = "POST /api/jobs/{job_id}/site/understand"


def swept(app, rows, examples, mode):
    """Return how many calls were made and every answer that is not as described.

    `rows`: how many rows there are, by the name of the path's parameter; `mode`: "positive" or "negative".
    """
    calls, wrong = 0, []
    for found in openapi.from_asgi("/openapi.json", app).get_all_operations():
        operation = found.ok()
        if operation.path.endswith(_STREAMS):
            continue
        called = _Called(operation.label, rows)
        quiet = settings(
            max_examples=examples,
            deadline=None,
            derandomize=True,
            database=None,
            phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )
        try:
            _each(quiet, operation.as_strategy(generation_mode=GenerationMode(mode)), called)
        except Unsatisfiable:  # nothing can be wrong with a request that takes nothing
            assert mode == "negative"
        calls, wrong = calls + called.times, wrong + called.wrong
    return calls, wrong


def _each(quiet, strategy, called):
    @quiet
    @given(strategy)
    def one(case):
        called(case)

    one()


class _Called:
    """One operation, called again and again."""

    def __init__(self, label, rows):
        self.label, self.rows, self.times, self.wrong = label, rows, 0, []
        # a form's texts are what is typed: which of them make sense the words say, not the schema
        self.excluded = [positive_data_acceptance]
        if label == _UNDERSTAND:  # its tuples are turned into what the checker's own dialect refuses
            self.excluded.append(response_schema_conformance)

    def __call__(self, case):
        self.times += 1
        for name, value in (case.path_parameters or {}).items():
            if name in self.rows and isinstance(value, int):
                case.path_parameters[name] = 1 + value % self.rows[name]
        try:
            patience = {} if case.path.endswith(_LIVE) else {"timeout": _PATIENCE_S}
            case.call_and_validate(excluded_checks=self.excluded, **patience)
        except FailureGroup as e:
            self.wrong += [f"{self.label}: {x}" for x in e.exceptions]
