"""Every public function of core says what it takes, gives and refuses."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import vessel.core

ROOT = Path(vessel.core.__file__).parent
PROPERTIES = {"property", "cached_property", "setter"}


def public_functions() -> Iterator[tuple[str, ast.FunctionDef]]:
    """Yield every public function and method of core with its address."""
    for path in sorted(ROOT.rglob("*.py")):
        scopes: list[ast.Module | ast.ClassDef] = [ast.parse(path.read_text())]
        while scopes:
            for node in scopes.pop().body:
                if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
                    scopes.append(node)
                elif isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
                    yield f"{path.relative_to(ROOT)}:{node.lineno} {node.name}", node


def sections(text: str) -> dict[str, str]:
    """Return a docstring's sections by their headings."""
    parts = re.split(r"^(Args|Returns|Yields|Raises|Notes|References):$", text, flags=re.MULTILINE)
    return dict(zip(parts[1::2], parts[2::2], strict=True))


def named(section: str) -> set[str]:
    """Return the names that a section describes."""
    return set(re.findall(r"^ {4}\*{0,2}(\w+):", section, flags=re.MULTILINE))


def lacking(function: ast.FunctionDef) -> str:
    """Return what a function's docstring leaves out; "" if nothing."""
    text = ast.get_docstring(function) or ""
    said = sections(text)
    every = [*function.args.args, *function.args.kwonlyargs]
    asked = {a.arg for a in every} - {"self", "cls"}
    if not text.split("\n")[0].endswith("."):
        return "a summary in one line"
    if asked != named(said.get("Args", "")) - {function.args.kwarg.arg if function.args.kwarg else ""}:
        return f"Args {sorted(asked)}"
    wrapped = {d.attr if isinstance(d, ast.Attribute) else getattr(d, "id", "") for d in function.decorator_list}
    gives = function.returns is not None and ast.unparse(function.returns) != "None"
    if gives and not wrapped & PROPERTIES and not said.keys() & {"Returns", "Yields"}:
        return "Returns"
    raised = {
        ast.unparse(r.exc.func).split(".")[-1]
        for r in ast.walk(function)
        if isinstance(r, ast.Raise) and isinstance(r.exc, ast.Call)
    }
    if raised - {"AssertionError"} - named(said.get("Raises", "")):
        return f"Raises {sorted(raised)}"
    return ""


def test_every_public_function_says_what_it_takes_gives_and_refuses():
    found = list(public_functions())
    assert len(found) > 400
    assert [f"{where}: {what}" for where, f in found if (what := lacking(f))] == []
