"""Two plans of one site drawn from the same one: put together thing by thing, or refused where both changed one."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any, TypeVar

from pydantic import BaseModel

from vessel.formats.plan_doc import SitePlanDoc

T = TypeVar("T")
D = TypeVar("D", bound=BaseModel)
_NAMED: dict[str, Callable[[Any], Any]] = {
    "access": lambda x: x.name,
    "structures": lambda x: x.name,
    "hard": lambda x: x.name,
    "bonds": lambda x: (x.a, x.b, x.a_m),
}


class BothChanged(Exception):
    """Both changed the same thing, called `name`."""

    def __init__(self, name: str) -> None:
        super().__init__(name)
        self.name = name


def one_of(base: T, mine: T, theirs: T, name: str) -> T:
    """Return what was changed of two, against what both began with; raise `BothChanged` if both were, differently."""
    if mine in (base, theirs):
        return theirs
    if theirs == base:
        return mine
    raise BothChanged(name)


def merged_plan(base: SitePlanDoc, mine: SitePlanDoc, theirs: SitePlanDoc) -> SitePlanDoc:
    """Return the plan with what either changed: access points, structures, areas and bonds one by one."""
    lists: dict[str, Any] = {
        field: _merged(getattr(base, field), getattr(mine, field), getattr(theirs, field), name)
        for field, name in _NAMED.items()
    }
    single: dict[str, Any] = {
        field: one_of(getattr(base, field), getattr(mine, field), getattr(theirs, field), label)
        for field, label in (("dig", "the dig area"), ("school", "the approach"), ("origin", "the tie to the earth"))
    }
    return SitePlanDoc(**lists, **single)


def _merged(base: Sequence[D], mine: Sequence[D], theirs: Sequence[D], name: Callable[[D], Any]) -> list[D]:
    was, own, other = ({name(x): x for x in each} for each in (base, mine, theirs))
    order = [*other, *(k for k in own if k not in other)]
    found = [one_of(was.get(k), own.get(k), other.get(k), str(k)) for k in order]
    return [x for x in found if x is not None]


def merged_routes(
    base: Mapping[int, T], mine: Mapping[int, T], theirs: Mapping[int, T], names: Mapping[int, str]
) -> dict[int, T | None]:
    """Return the route of each line, None where it has none, with what either changed."""
    return {k: one_of(base.get(k), mine.get(k), theirs.get(k), name) for k, name in names.items()}
