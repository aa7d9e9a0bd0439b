"""What the open file formats have in common: strict documents, one way of reading them, a published schema."""

from __future__ import annotations

import json
import re
from typing import Annotated, TypeVar

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from vessel.core.base.errors import BadInput

Name = Annotated[str, Field(min_length=1, max_length=200)]
Text = Annotated[str, Field(max_length=4000)]
Number = Annotated[float, Field(allow_inf_nan=False)]
File = TypeVar("File", bound=BaseModel)


class Doc(BaseModel):
    """Base: strict about unknown keys, readable from database rows."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)


def parse(text: str, model: type[File], *, format_name: str, version: int, what: str, minor: int = 0) -> File:
    """Return the file in `text`; raise `BadInput` saying where a broken, foreign or newer file fails.

    Files of `version` open up to the `minor` version known here: 1 is 1.0, then comes "1.1".
    """
    raw = as_json(text, what=what)
    if not isinstance(raw, dict) or raw.get("format") != format_name:
        raise BadInput(
            f"This is not a Vessel {what} file.", field="file", fix=f'It must say "format": "{format_name}".'
        )
    known = written(version, minor)
    told = re.fullmatch(r"(\d+)(?:\.(\d+))?", str(raw.get("version")))
    if told is None or int(told[1]) != version or int(told[2] or 0) > minor:
        raise BadInput(
            f"The file is of version {raw.get('version')}; this Vessel reads version {known}.",
            field="file.version",
            fix=f"Update Vessel, or export the {what} from there as version {known}.",
        )
    raw = {**raw, "version": version}
    try:
        return model.model_validate(raw)
    except ValidationError as e:
        first = e.errors()[0]
        path = ".".join(str(p) for p in first["loc"])
        raise BadInput(
            f"{path}: {first['msg']}.", field=f"file.{path}", fix="Correct that entry. Nothing was imported."
        ) from e


def written(version: int, minor: int) -> int | str:
    """Return a version as files say it: 1, then "1.1"."""
    return f"{version}.{minor}" if minor else version


def as_json(text: str, *, what: str) -> object:
    """Return the JSON in `text`; raise `BadInput` where it breaks off."""
    try:
        return json.loads(text)
    except RecursionError as e:
        raise BadInput(
            "The JSON is nested too deep to be a file of Vessel's.",
            field="file",
            fix=f"Export the {what} again; nothing was imported.",
        ) from e
    except ValueError as e:
        where = f" at line {e.lineno}" if isinstance(e, json.JSONDecodeError) else ""
        raise BadInput(
            f"The JSON is incomplete: it ends early{where}.",
            field="file",
            fix=f"Export the {what} again, or copy the file again; nothing was imported.",
        ) from e


def schema_of(model: type[BaseModel]) -> str:
    """Return the published JSON Schema of a file."""
    schema = {"$schema": "https://json-schema.org/draft/2020-12/schema", **model.model_json_schema()}
    return json.dumps(schema, indent=1) + "\n"
