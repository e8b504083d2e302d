"""A method as a JSON file that says what it is: its steps, what goes in, its ends, its source.

It claims nothing: what a plan of it says, and whether it may start, is found anew wherever it is
read. Its JSON Schema is that of MethodFile.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from elderberry.core import materials
from elderberry.core import method as methods
from elderberry.core.errors import CannotTell, Unknown
from elderberry.core.flow import wiring
from elderberry.core.flow.inputs import End, Input, forms
from elderberry.core.flow.rows import row_of_end, row_of_input
from elderberry.core.method import Method

Name = Annotated[str, Field(min_length=1, max_length=60)]
Words = Annotated[str, Field(max_length=200)]


class Exactly(BaseModel):
    """What is not known is refused, and not passed over."""

    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True, allow_inf_nan=False)


class LineFile(Exactly):
    """Something that goes in besides, as one says it: "130 g honey to the litre"."""

    line: Annotated[str, Field(min_length=1, max_length=200)]
    key: Annotated[str, Field(max_length=60)] = ""


class StepFile(Exactly):
    """A step: its kind, what it takes and gives by name, and what is chosen of it.

    What is not said is as usual: it takes what the step before it gives.
    """

    kind: Name
    key: Annotated[str, Field(max_length=60)] = ""
    takes: Annotated[list[Name], Field(max_length=20)] = []
    gives: Annotated[list[Name], Field(max_length=8)] = []
    params: Annotated[dict[Name, bool | float | Words], Field(max_length=30)] = {}


class MethodFile(Exactly):
    """A method that can be kept in Elderberry, or taken along.

    fruits, natures: which fruit it was made for, or what kind of fruit it asks for; any where there
    are none. forms: what it begins with. begins, of: the kind of lot, and what it is shown by,
    where it begins with no fruit.
    """

    format: Literal["elderberry method"] = "elderberry method"
    version: Literal[1] = 1
    name: Annotated[str, Field(min_length=2, max_length=80)]
    school: Words = ""
    source: Words = ""
    adapted_from: Words = ""
    note: Annotated[str, Field(max_length=400)] = ""
    fruits: Annotated[list[Name], Field(max_length=60)] = []
    natures: Annotated[list[Name], Field(max_length=20)] = []
    forms: Annotated[list[Name], Field(min_length=1, max_length=12)] = ["whole", "frozen"]
    begins: Annotated[str, Field(max_length=60)] = ""
    of: Annotated[str, Field(max_length=60)] = "sugar_white"
    inputs: Annotated[list[LineFile | Input], Field(max_length=20)] = []
    ends: Annotated[list[End], Field(max_length=8)] = []
    steps: Annotated[list[StepFile], Field(min_length=1, max_length=wiring.MOST_STEPS)]


SAME = ("name", "school", "source", "adapted_from", "note", "fruits", "natures", "forms", "begins",
        "of")  # fmt: skip
"""What of a method stands in its file as it is."""


def file_of(method: Method) -> dict[str, Any]:
    """A method as its file: method_of(file_of(m)) is the same but for its key and version."""
    row = methods.row_of(method)
    told = {key: row[key] for key in (*SAME, "inputs", "ends", "steps")}
    return MethodFile.model_validate(told).model_dump(mode="json")


def row_of(file: MethodFile) -> Mapping[str, Any]:
    """A method's stored form of its file, without key and version.

    Raises:
        DoesNotConnect: a step that there is none of, or that does not hang together.
        Unknown, CannotRead: something goes in that no list knows, or it begins with such.
        CannotTell: there is no fruit that it suits.
    """
    for form in file.forms:
        if form != methods.NO_FRUIT and form not in forms():
            raise Unknown("form", form)
    for key in file.fruits:
        materials.fruit(key)
    told = file.model_dump(mode="json", include={*SAME, "steps"})
    inputs = [
        {k: v for k, v in given.model_dump().items() if v} if isinstance(given, LineFile)
        else row_of_input(given)
        for given in file.inputs
    ]  # fmt: skip
    row = {
        **told, "key": "", "version": 1, "evidence": "own", "inputs": inputs,
        "ends": [row_of_end(e) for e in file.ends],
    }  # fmt: skip
    made = methods.of_row(row)
    wiring.check(made.steps, made.begins_with)
    if methods.NO_FRUIT not in made.forms:
        suited = (f for f in materials.fruits().values() if made.suits(f))
        if next(suited, None) is None:
            raise CannotTell("there is no fruit that this method suits")
    elif made.begins:
        materials.ingredient(made.of)
    return methods.row_of(made)
