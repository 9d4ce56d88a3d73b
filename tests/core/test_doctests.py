"""The examples in the docstrings run."""

import doctest
import importlib
import pkgutil

import pytest

import mainspring.core

MODULES = [m.name for m in pkgutil.walk_packages(mainspring.core.__path__, "mainspring.core.")]


@pytest.mark.parametrize("name", MODULES)
def test_examples(name: str) -> None:
    result = doctest.testmod(importlib.import_module(name))
    assert result.failed == 0
