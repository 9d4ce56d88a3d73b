"""The house stays simple: no function that cannot be read at a glance, no component that is a page's whole world."""

import ast

from tests.conftest import ROOT

LONGEST = 60  # lines of a function
LARGEST = 300  # lines of a component
DECLARATIONS = {"routes"}  # one declaration after the other, read like a table


def test_no_function_is_longer_than_a_screen() -> None:
    long = [
        f"{file.relative_to(ROOT)}: {node.name} has {node.end_lineno - node.lineno + 1} lines"
        for file in sorted((ROOT / "mainspring").rglob("*.py"))
        for node in ast.walk(ast.parse(file.read_text()))
        if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)) and node.name not in DECLARATIONS
        if node.end_lineno is not None and node.end_lineno - node.lineno >= LONGEST
    ]
    assert long == []


def test_no_component_is_larger_than_a_room() -> None:
    sizes = {f: len(f.read_text().splitlines()) for f in sorted((ROOT / "web/src").rglob("*.svelte"))}
    assert sizes
    assert {str(f.relative_to(ROOT)): n for f, n in sizes.items() if n > LARGEST} == {}


def test_the_layout_of_two_panes_is_declared_once() -> None:
    files = [*(ROOT / "web/src").rglob("*.svelte"), *(ROOT / "web/src").rglob("*.css")]
    assert [f.name for f in files if "\t.two {" in f.read_text()] == ["app.css"]


def test_every_expected_error_says_what_it_says_and_every_close_to_how_close() -> None:
    vague = []
    for file in sorted((ROOT / "tests").rglob("*.py")):
        for node in ast.walk(ast.parse(file.read_text())):
            if not isinstance(node, ast.Call):
                continue
            name = ast.unparse(node.func)
            given = {k.arg for k in node.keywords}
            wants = {"pytest.raises": {"match"}, "pytest.approx": {"rel", "abs"}, "approx": {"rel", "abs"}}.get(name)
            positional = name != "pytest.raises" and len(node.args) > 1  # approx(value, tolerance)
            if wants and not wants & given and not positional:
                vague.append(f"{file.relative_to(ROOT)}:{node.lineno} {name}")
    assert vague == []
