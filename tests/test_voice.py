"""Screens, sentences and docstrings speak plainly: without the words that nomenclature.md lists as to be avoided."""

import ast
import re
from pathlib import Path

from vessel.core.text.figures import counted

ROOT = Path(__file__).parents[1]
SOURCES = [
    *(p for p in (ROOT / "src" / "vessel").rglob("*.py") if "migrations" not in p.parts),
    *(p for p in (ROOT / "web" / "src").rglob("*.ts*") if p.name != "schema.d.ts"),
]


def avoided() -> list[str]:
    text = (ROOT / "docs" / "nomenclature.md").read_text()
    rows = text[text.index("### Words to avoid") :].splitlines()
    cells = [row.split("|")[1].strip() for row in rows if row.startswith("| ") and "avoid" not in row]
    return [word.strip() for cell in cells for word in cell.split(",")]


def said_in(path: Path) -> list[str]:
    """Sentences of a file: in Python string literals and docstrings; on the web quoted texts and text of elements."""
    text = path.read_text()
    if path.suffix != ".py":
        lines = [x for x in text.splitlines() if not x.strip().startswith(("/*", "*", "//", "import"))]
        plain = [x for x in lines if not re.search(r"[=;():?]", x)]
        return [
            *plain,
            *(t for x in lines for both in re.findall(r'"([^"]* [^"]*)"|>([^<>{}]* [^<>{}]*)<', x) for t in both),
        ]
    return [n.value for n in ast.walk(ast.parse(text)) if isinstance(n, ast.Constant) and isinstance(n.value, str)]


def test_no_sentence_uses_a_word_to_avoid():
    words = avoided()
    assert len(words) > 15
    stiff = re.compile(rf"\b({'|'.join(map(re.escape, words))})(s|ed)?\b", re.IGNORECASE)
    found = [
        f"{path.relative_to(ROOT)}: {text.strip()[:90]}"
        for path in SOURCES
        for text in said_in(path)
        # ids and paths are not sentences
        if " " in text and stiff.search(re.sub(r"`[^`]*`|^ *\w+:", "", text, flags=re.M))
    ]
    assert found == []


def test_one_line_two_lines():
    assert [counted(n, "line") for n in (0, 1, 2)] == ["0 lines", "1 line", "2 lines"]
    assert counted(2, "frequency", "frequencies") == "2 frequencies"
