"""What was said in metric is said again as a kitchen measures."""

from __future__ import annotations

import re

import pytest

from elderberry.core.rules import rules
from elderberry.core.telling import told
from elderberry.core.wording import retold

METRIC = re.compile(r"\d (?:ml|mm|cm|kg|°C)\b")


def test_no_rule_speaks_metric_in_an_american_kitchen_but_of_ratios() -> None:
    for rule in rules().values():
        for text in (rule.message, rule.remedy):
            for sentence in retold(text, "us").split(". "):
                assert not METRIC.search(sentence) or "litre" in sentence, sentence
            assert retold(text, "metric") == text


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("between 5 and 60 °C", "between 41 °F and 140 °F"),
        ("in 946 ml jars", "in 1 quart jars"),
        ("3.5 g is the most", "3.5 g is the most"),
        ("more than 20 g a litre", "more than 20 g a litre"),
        ("at 10 000 ft (3 048 m)", "at 10 000 ft (3 048 m)"),
        ("pH 4.2 was read", "pH 4.2 was read"),
        ("12 min at 5 mg/l", "12 min at 5 mg/l"),
    ],
)
def test_figures_with_a_unit_change_and_nothing_else(text: str, words: str) -> None:
    assert retold(text, "us") == words


def test_a_finding_keeps_all_but_its_words() -> None:
    finding = rules()["ice-needs-room"].finding("fill")
    again = told(finding, "us")
    assert (again.id, again.level, again.place) == (finding.id, finding.level, finding.place)
    assert again.remedy != finding.remedy
    assert told(finding, "metric") is finding
