"""Every sentence of the demo's lines: no doubled stops, no bare numbers of the core, no words of another machine."""

import re

import pytest

from tools.sentences import catalogue

SAID = [line for line in catalogue().splitlines() if line.startswith(("- ", "**"))]


@pytest.mark.parametrize(
    ("what", "pattern"),
    [
        ("a doubled full stop", r"\.\.|\.:|\. \."),
        ("a slot that nothing filled", r"[{}]"),
        ("doubled spaces", r"\S  +\S"),
        ("a number without a unit that only the core counts in", r"(?<![\d.,\u202f ])\d{6,}(?! ?[A-Za-z%°])"),
        ("years as a letter", r"\d a of|\d a\."),
        ("the same word twice", r"\b(\w+) and \1\b(?! )"),
        ("nothing known", r"\bNone and|\bnan\b"),
    ],
)
def test_no_sentence_has(what: str, pattern: str) -> None:
    assert [s for s in SAID if re.search(pattern, s)] == [], what


def test_the_catalogue_covers_what_is_said() -> None:
    assert len(SAID) > 500
