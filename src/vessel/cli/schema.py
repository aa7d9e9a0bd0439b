"""`vessel schema`: the JSON Schema of a file format."""

from __future__ import annotations

import argparse

from vessel.formats import job_file, lesson_file, site_file
from vessel.instruments import messages

SCHEMAS = {
    "job": job_file.schema_text,
    "site": site_file.schema_text,
    "lesson": lesson_file.schema_text,
    "instruments": messages.schema_text,
}


def schema_command(args: argparse.Namespace) -> str:
    """Return the schema of a file format as text."""
    return SCHEMAS[args.format]()
