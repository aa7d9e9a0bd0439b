"""Write the API's OpenAPI schema to a file, for the types of the interface."""

import json
import sys
import tempfile
from pathlib import Path

from vessel.api.app import create_app

with tempfile.TemporaryDirectory() as folder:
    schema = create_app(Path(folder) / "schema.sqlite3").openapi()
Path(sys.argv[1]).write_text(json.dumps(schema, indent=1) + "\n", encoding="utf-8")
