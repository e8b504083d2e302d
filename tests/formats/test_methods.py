"""Methods as files: the same file in, the same method out; what is not known is refused."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from jsonschema_rs import validator_for
from pydantic import ValidationError

from elderberry.core.errors import CoreError
from elderberry.core.figures import CannotRead
from elderberry.core.method import methods, of_row
from elderberry.formats.methods import MethodFile, file_of, row_of

SCHEMA = MethodFile.model_json_schema()


@pytest.mark.parametrize("key", methods())
def test_every_method_goes_out_and_comes_in_as_it_was(key: str) -> None:
    written = file_of(methods()[key])
    validator_for(SCHEMA).validate(written)
    row = json.loads(json.dumps(row_of(MethodFile.model_validate(written))))
    assert of_row(row) == replace(methods()[key], key="", evidence="own", version=1, rank=50)
    assert file_of(of_row(row)) == written


def written(**other: Any) -> dict[str, Any]:
    """A method that somebody wrote by hand."""
    return {
        "name": "Quince over the fence", "source": "a neighbour", "adapted_from": "her aunt's",
        "fruits": ["quince"], "inputs": [{"line": "120 g honey to the litre"}],
        "steps": [{"kind": "simmer", "params": {"water": 0.3}}, {"kind": "drain"},
                  {"kind": "heat_to"}, {"kind": "fill"}],
        **other,
    }  # fmt: skip


def test_a_file_by_hand_needs_no_names_of_lots() -> None:
    validator_for(SCHEMA).validate(written())
    made = of_row(row_of(MethodFile.model_validate(written())))
    assert [s.kind for s in made.steps] == ["simmer", "drain", "heat_to", "fill"]
    assert made.inputs[0].material == "honey"
    assert (made.source, made.adapted_from) == ("a neighbour", "her aunt's")


@pytest.mark.parametrize(
    "other",
    [
        {"steps": [{"kind": "fly"}]}, {"steps": [{"kind": "fill", "takes": ["nothing"]}]},
        {"inputs": [{"line": "a heap of moonlight"}]}, {"forms": ["frozn"]},
        {"fruits": ["moonberry"]}, {"fruits": [], "natures": ["airy"]},
        {"inputs": [{"key": "x", "material": "moonlight", "amount": {"how": "share", "share": 1}}]},
        {"forms": ["as_sold"], "fruits": [], "begins": "added", "of": "moonlight"},
        {"steps": [{"kind": "simmer", "params": {"water": 900}}, {"kind": "fill"}]},
        {"steps": [{"kind": "simmer", "params": {"spin": 3}}, {"kind": "fill"}]},
    ],
)  # fmt: skip
def test_what_does_not_hang_together_is_refused_in_words(other: dict[str, Any]) -> None:
    with pytest.raises((CoreError, CannotRead)):
        row_of(MethodFile.model_validate(written(**other)))


@pytest.mark.parametrize(
    "other", [{"tested": True}, {"version": 2}, {"format": "jam"}, {"name": ""}, {"steps": []}]
)
def test_what_no_file_says_is_refused(other: dict[str, Any]) -> None:
    with pytest.raises(ValidationError):
        MethodFile.model_validate(written(**other))


def test_the_example_of_the_docs_is_one() -> None:
    docs = (Path(__file__).parents[2] / "docs" / "files.md").read_text()
    example = json.loads(docs.split("```json")[1].split("```")[0])
    validator_for(SCHEMA).validate(example)
    assert of_row(row_of(MethodFile.model_validate(example))).inputs[0].material == "honey"
