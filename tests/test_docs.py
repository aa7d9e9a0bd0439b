"""Documents that must keep step with the code."""

import ast
import dataclasses
import importlib
import inspect
import json
import pkgutil
import re
import runpy
from collections import Counter
from pathlib import Path

import vessel.core.signal
from vessel.api.app import create_app

ROOT = Path(__file__).parents[1]
UNITS = r"_(m|hz|ohm|ohm_m|a|a_m2|t|s_m|deg|h)$"


def test_nomenclature_names_every_quantity_of_the_signal_model():
    text = (ROOT / "docs" / "nomenclature.md").read_text()
    stated = set(re.findall(r"`([a-z0-9_]+)`", text))
    used = set()
    for module in pkgutil.walk_packages(vessel.core.signal.__path__, "vessel.core.signal."):
        for _, thing in inspect.getmembers(importlib.import_module(module.name)):
            if inspect.isfunction(thing) and thing.__module__.startswith("vessel.core.signal"):
                used |= set(inspect.signature(thing).parameters)
            elif dataclasses.is_dataclass(thing) and thing.__module__.startswith("vessel.core.signal"):
                used |= {f.name for f in dataclasses.fields(thing)}
    quantities = {name for name in used if re.search(UNITS, name)}
    assert len(quantities) > 25
    assert quantities - stated == set()


def test_generated_documents_are_fresh():
    for path, make in runpy.run_path(str(ROOT / "tools" / "docs.py"))["GENERATED"].items():
        assert path.read_text(encoding="utf-8") == make(), f"{path.name}: run `make docs`"


def test_the_interfaces_schema_is_the_apis(tmp_path):
    schema = create_app(tmp_path / "x.sqlite3").openapi()
    assert json.loads((ROOT / "web" / "openapi.json").read_text()) == json.loads(json.dumps(schema)), "run `make types`"


def test_readme_shows_every_picture_and_no_other():
    shown = set(re.findall(r"docs/screenshots/([a-z-]+\.png)", (ROOT / "README.md").read_text()))
    assert shown == {p.name for p in (ROOT / "docs" / "screenshots").glob("*.png")}


def test_documents_name_modules_that_are_there():
    package = ROOT / "src" / "vessel"
    modules = {".".join(p.relative_to(package).with_suffix("").parts): p for p in package.rglob("*.py")}
    packages = {m.removesuffix(".__init__") for m in modules if m.endswith("__init__")}
    missing = []
    for document in [*(ROOT / "docs").rglob("*.md"), ROOT / "README.md", ROOT / "CONTRIBUTING.md"]:
        for name in re.findall(r"`([a-z_]+(?:\.[A-Za-z_]\w*)+)[`(]", document.read_text(encoding="utf-8")):
            called = name.removeprefix("vessel.")
            above, _, last = called.rpartition(".")
            known = [m for m in (*modules, *packages) if f".{m}".endswith(f".{called}")]
            inside = [m for m in packages if f".{m}".endswith(f".{above}")]
            if not known and inside and last != "py":
                missing.append(f"{document.name}: {name}")
    assert missing == []


def test_no_two_modules_or_public_classes_share_a_name():
    package, of_each_feature = ROOT / "src" / "vessel", {"__init__", "routes", "forms", "views", "present"}
    modules = [p for p in package.rglob("*.py") if p.stem not in of_each_feature]
    classes = [
        node.name
        for p in modules
        for node in ast.parse(p.read_text(encoding="utf-8")).body
        if isinstance(node, ast.ClassDef) and not node.name.startswith("_")
    ]
    for names in ([p.stem for p in modules], classes):
        assert [n for n, count in Counter(names).items() if count > 1] == []
