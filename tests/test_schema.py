"""The schema tells the truth: what it allows is answered as it says, what it does not is refused in words."""

from pathlib import Path
from shutil import copy

import pytest

from tests.soak.schema import HOST, ROWS, swept
from vessel.api.app import create_app


@pytest.mark.long
@pytest.mark.parametrize(("mode", "examples", "least"), [("positive", 1, 80), ("negative", 1, 70)])
def test_every_operation_answers_as_its_schema_says(tmp_path, demo_database, mode, examples, least):
    app = create_app(Path(copy(demo_database, tmp_path / "demo.sqlite3")), hosts=[HOST])
    calls, wrong = swept(app, ROWS, examples, mode)
    assert wrong == []
    assert calls >= least
