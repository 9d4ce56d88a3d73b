"""Do the tests notice? Each threshold of the rules moved by a tenth, each comparison turned, one at a time."""

import ast
import importlib.abc
import importlib.util
import os
import random
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from types import ModuleType

ROOT = Path(__file__).parents[1]
RULES = (*sorted((ROOT / "mainspring/core/checks").glob("*.py")), ROOT / "mainspring/core/limits.py")
RULES = (*RULES, *sorted((ROOT / "mainspring/core/settings").glob("*.py")))
RULES = (*RULES, *(f for f in sorted((ROOT / "mainspring/core/practice").glob("*.py")) if f.name != "__main__.py"))
TESTS = [
    "test_checks.py",
    "test_practice.py",
    "test_practice_edges.py",
    "test_thresholds.py",
    "test_applications.py",
    "test_procedure.py",
    "test_judgement.py",
    "test_benches.py",
]
TURNED = {ast.Lt: ast.GtE, ast.LtE: ast.Gt, ast.Gt: ast.LtE, ast.GtE: ast.Lt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq}
EXCUSED = Path(__file__).with_name("mutations_excused.txt")  # survivors that change nothing, each with its reason


@dataclass(frozen=True)
class Mutant:
    """One change: where, and what it says then."""

    file: Path
    node: int  # position of the node in the walk of the file's tree
    change: str  # up, down, turned
    line: int
    text: str

    @property
    def name(self) -> str:
        """How it is listed: by what it says and not by its line, which moves."""
        return f"{self.file.relative_to(ROOT)}: {self.text} [{self.change}]"


def mutants_of(file: Path) -> Iterator[Mutant]:
    """Every change of a file: numbers that are compared or named as a constant, and comparisons."""
    tree = ast.parse(file.read_text())
    thresholds: set[ast.AST] = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Compare):
            thresholds |= {n for n in ast.walk(node) if _number(n)}
        if isinstance(node, ast.Assign) and all(isinstance(t, ast.Name) and t.id.isupper() for t in node.targets):
            own = {
                n for k in ast.walk(node.value) if isinstance(k, ast.keyword) and k.arg == "own" for n in ast.walk(k)
            }
            thresholds |= {n for n in ast.walk(node.value) if _number(n)} - own  # what a site may set is tested apart
    parents = {child: parent for parent in ast.walk(tree) for child in ast.iter_child_nodes(parent)}
    for index, node in enumerate(ast.walk(tree)):
        if node in thresholds:
            text = ast.unparse(_statement(node, parents)).split("\n")[0][:110]
            yield Mutant(file, index, "up", node.lineno, text)  # type: ignore[attr-defined]
            yield Mutant(file, index, "down", node.lineno, text)  # type: ignore[attr-defined]
        elif isinstance(node, ast.Compare) and len(node.ops) == 1 and type(node.ops[0]) in TURNED:
            yield Mutant(file, index, "turned", node.lineno, ast.unparse(node)[:110])


def _number(node: ast.AST) -> bool:
    return (
        isinstance(node, ast.Constant)
        and isinstance(node.value, (int, float))
        and not isinstance(node.value, bool)
        and node.value not in (0, 1)
    )


def _statement(node: ast.AST, parents: dict[ast.AST, ast.AST]) -> ast.AST:
    while not isinstance(node, (ast.Compare, ast.stmt)):
        node = parents[node]
    return node


def mutated(mutant: Mutant) -> ast.Module:
    """The file's tree with the change in it."""
    tree = ast.parse(mutant.file.read_text())
    node = list(ast.walk(tree))[mutant.node]
    if isinstance(node, ast.Constant):
        node.value = node.value * (1.1 if mutant.change == "up" else 0.9)  # type: ignore[operator]
    else:
        assert isinstance(node, ast.Compare)
        node.ops = [TURNED[type(node.ops[0])]()]
    return ast.fix_missing_locations(tree)


class _Loader(importlib.abc.Loader, importlib.abc.MetaPathFinder):
    """Gives the changed module in place of the one on the disk."""

    def __init__(self, mutant: Mutant) -> None:
        self.mutant = mutant
        self.name = ".".join(mutant.file.relative_to(ROOT).with_suffix("").parts).removesuffix(".__init__")
        self.inside = [str(mutant.file.parent)] if mutant.file.name == "__init__.py" else None

    def find_spec(self, name: str, *_: object) -> object:  # type: ignore[override]
        """Only for the one."""
        if name != self.name:
            return None
        file = self.mutant.file
        return importlib.util.spec_from_file_location(name, file, loader=self, submodule_search_locations=self.inside)

    def exec_module(self, module: ModuleType) -> None:
        """The changed tree."""
        exec(compile(mutated(self.mutant), str(self.mutant.file), "exec"), module.__dict__)


def tried(mutant: Mutant | None) -> int:
    """Run the tests on it, or on the rules as they are, in a child of this process, which has loaded much: its id."""
    child = os.fork()
    if child == 0:
        import pytest

        if mutant is not None:
            sys.meta_path.insert(0, _Loader(mutant))
        null = os.open(os.devnull, os.O_WRONLY)
        os.dup2(null, 1)
        os.dup2(null, 2)
        os.chdir(ROOT)
        arguments = ["-x", "-q", "-p", "no:xdist", "-p", "no:schemathesis", "--no-header"]
        arguments += ["-k", "not named_once"]  # a list of the values kills every one of them and shows nothing
        tests = [f"tests/core/{t}" for t in TESTS if (ROOT / "tests/core" / t).exists()]
        os._exit(int(pytest.main([*arguments, *tests]) != 0))
    return child


def unnoticed(mutants: list[Mutant], jobs: int) -> Iterator[Mutant]:
    """Those on which no test fails, as they are found, so many children at a time."""
    waiting, running = list(mutants), dict[int, Mutant]()
    while waiting or running:
        while waiting and len(running) < jobs:
            mutant = waiting.pop(0)
            running[tried(mutant)] = mutant
        child, status = os.wait()
        mutant = running.pop(child)
        if os.waitstatus_to_exitcode(status) == 0:
            yield mutant


def measure(n: float = 0, seed: float = 1, jobs: float = 2) -> dict[str, float]:
    """Share of changes that the tests notice; all of them, or `n` drawn by `seed`."""
    import numba  # noqa: F401 loaded once, here, for every child
    import peewee  # noqa: F401
    import pytest  # noqa: F401

    if os.waitstatus_to_exitcode(os.waitpid(tried(None), 0)[1]) != 0:
        raise SystemExit("the tests fail on the rules as they are: make them pass first")
    every = [m for file in RULES for m in mutants_of(file)]
    if n:
        every = random.Random(int(seed)).sample(every, min(int(n), len(every)))
    excused = {line.split("  #")[0].strip() for line in EXCUSED.read_text().splitlines() if line.strip()}
    counted = [m for m in every if m.name not in excused]
    survivors = []
    for mutant in unnoticed(counted, int(jobs)):
        survivors.append(mutant)
        print(f"  {mutant.name}  # line {mutant.line}", flush=True)
    return {
        "mutants": len(counted),
        "killed": len(counted) - len(survivors),
        "killed_share": 1 - len(survivors) / max(1, len(counted)),
        "excused": len(every) - len(counted),
    }
