"""Documents of what is entered: their fields are those of the tables in `core.model.entry_fields`."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Any, Literal

from pydantic import Field, create_model

from vessel.core.model.entry_fields import EntryField
from vessel.formats.document import Doc, Number

_SHAPES: dict[str, Any] = {
    "number": Number | None,
    "numbers": Annotated[list[Number], Field(max_length=50)],
    "pairs": Annotated[list[tuple[Number, Number]], Field(max_length=60)],
    "beside": Annotated[list[tuple[Number, Number | None, Number | None]], Field(max_length=12)],
    "tick": bool,
}


def with_fields(base: type[Doc], fields: Sequence[EntryField], name: str) -> Any:
    """Return a document with the columns of `fields`; what came with a later version may be missing."""
    made: dict[str, Any] = {f.column: (_type(f), _default(f)) for f in fields}
    made |= {name: (info.annotation, info) for name, info in base.model_fields.items()}
    return create_model(name, __base__=Doc, __doc__=base.__doc__, __module__=base.__module__, **made)


def _type(f: EntryField) -> Any:
    if f.shape == "choice":
        return Literal[tuple(value for _, value in f.choices)]
    return Number if f.required else _SHAPES[f.shape]


def _default(f: EntryField) -> Any:
    if not f.since and not f.early:
        return ...
    return Field(default_factory=list) if f.nothing == [] else f.nothing
