"""The reader of lines: what is understood is taken out of the text until nothing is left.

Phrases go first (to taste, to 46 Brix, off the heat), then the material by its longest name, what
it is a share of, and its forms; what remains has to be an amount. Whatever is left after that was
not understood, and is pointed at.
"""

from __future__ import annotations

import re
from dataclasses import replace

from elderberry.core import materials
from elderberry.core.errors import CannotTell, Unknown
from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.figures import CannotRead
from elderberry.core.lines import naming, phrases, shares, targets
from elderberry.core.lines.amounts import Measured, measured_at
from elderberry.core.lines.blanked import Blanked
from elderberry.core.lines.line import Line
from elderberry.core.lines.weights import in_grams, litre_kg
from elderberry.core.quantities import Customs, parse

WEIGHED_SPREAD = 0.05
"""What a weight that is said in brackets may be off [-]."""
MOST_G = 500_000.0
"""More than this of anything is a slip [g]."""
_APART = ({"juice", "zest"}, {"juice", "peel"})


def read(text: str, customs: Customs | None = None, of: str = "") -> Line:
    """What a person means by a line: what, how much of it, in which form, and when it joins.

    Args:
        text: such as "2 1/2 cups honey", "18 limes", "sugar to 46 Brix", "a handful of mint".
        customs: the household's cup, containers, marks and own ingredients; metric when not given.
        of: key of the material that is spoken of, where the line need not name it.

    Raises:
        CannotRead: it cannot be read, with the place. Of its kinds, CouldBe carries the meanings
            to choose from, and NotListed the name of something that no list knows.
        Unknown: the material that is spoken of is not listed.

    Source: data/fruits.csv, data/ingredients.csv, data/units.csv, data/loose.csv.

    >>> line = read("3 sticks cinnamon")
    >>> line.material, line.how, line.mass_g.lo, line.mass_g.hi
    ('spice_whole', 'amount', 7.5, 12.0)
    >>> read("sugar to 46 Brix").value
    46.0
    """
    if of and of not in materials.fruits() and of not in materials.ingredients():
        raise Unknown("material", of)
    line = Blanked(text, customs or Customs(), of)
    if not line.rest.strip():
        line.fail("There is nothing to read.", (0, len(text)))
    if below := re.match(r"\s*[-−]\s*\d", line.rest):
        line.fail("An amount goes from nought up.", below.span())
    _brackets(line)
    _phrases(line)
    material, called, guessed = naming.material(line)
    shares.share(line, materials.kind_of(material))
    form, measured_as = _forms(line, material)
    said = line.said
    found = Line(
        said=text, material=material, called=called, how="amount", form=form,
        measured_as=measured_as, where=said.where, leaves=said.leaves, guessed=guessed,
        of=said.of, places=line.places,
    )  # fmt: skip
    return _how_much(line, found)


def _brackets(line: Blanked) -> None:
    """What stands in brackets is a weight, a word that belongs to the name, or a note."""
    for match in re.finditer(r"[(\[]([^()\[\]]*)[)\]]", line.rest):
        inside = match[1].strip()
        grams = _weight(inside)
        if grams is None and any(pattern.fullmatch(inside) for pattern, _ in phrases.FORMS):
            for sign in (match.start(), match.end() - 1):
                line.take((sign, sign + 1))
            continue
        line.said.hints |= set(re.findall(r"\w+", inside))
        line.said.weighed_g = grams if line.said.weighed_g is None else line.said.weighed_g
        line.take(match.span())


def _weight(words: str) -> float | None:
    try:
        found = parse(re.sub(r"^(?:about|approx\.?|ca\.?|~)\s*", "", words))
    except CannotRead:
        return None
    return found.amount if found.dimension == "mass" else None


def _phrases(line: Blanked) -> None:
    said = line.said
    said.to_taste = bool(line.found(phrases.TO_TASTE, "amount"))
    said.leaves = bool(line.found(phrases.LEAVES, "leaves"))
    said.each_jar = bool(line.found(phrases.EACH_JAR, "where"))
    line.found(phrases.FROM, "source")
    targets.target(line)
    for pattern, where in phrases.WHERE:
        if line.found(pattern, "where"):
            said.where = said.where or where
    if said.each_jar:
        said.where = "jar"


def _forms(line: Blanked, material: str) -> tuple[str, str]:
    """The form it joins in, and the form it was measured in."""
    named = line.places.get("material", (0, 0))[0]
    comma = line.rest.find(",", named)
    joins = ""
    for pattern, form in phrases.JOINS_AS:
        match = pattern.search(line.rest, comma if comma >= 0 else len(line.rest))
        if match:
            joins = joins or form
            line.take(match.span(), "form")
    measured = line.said.form
    for pattern, form in phrases.FORMS:
        while match := line.found(pattern, "form"):
            if {measured, form} in _APART:
                line.fail("Those are two things: give each a line of its own.", match.span())
            measured = measured or form
    measured = measured or _plainly(material)
    return joins or measured, measured


def _plainly(material: str) -> str:
    """The form of what is only named."""
    fruit = materials.fruits().get(material)
    if fruit is None:
        return "as_sold"
    return "dried" if fruit.comes_dried else "whole"


def _how_much(line: Blanked, found: Line) -> Line:
    said = line.said
    if said.target:
        _nothing_left(line, found.material)
        return replace(found, how="target", target=said.target, value=said.value)
    if said.share is not None:
        _nothing_left(line, found.material)
        if said.by_volume:
            litre_g = 1000.0 * litre_kg(found.material, found.measured_as)
            return replace(found, how="share", share=said.share * litre_g, per="g/l",
                           by_volume=True)  # fmt: skip
        return replace(found, how="share", share=said.share)
    measured = _measured(line, found)
    _nothing_left(line, found.material)
    if measured is None:
        if said.to_taste:
            return replace(found, how="to_taste")
        place = line.places.get("material", (0, len(line.text)))
        words = f"How much {found.called}? Write an amount, “to taste”, or what it goes to."
        line.fail(words, place)
    return _weighed(line, found, measured)


def _measured(line: Blanked, found: Line) -> Measured | None:
    try:
        measured = measured_at(line.kept(), found.called, found.material, line.customs)
    except CannotRead as error:
        line.fail(str(error), (error.start, error.end))
    if measured is not None and measured.times.hi <= 0:
        line.fail("Nothing of it? Leave the line out.", measured.amount_place)
    if measured is not None:
        line.take((measured.start, measured.end))
        line.places.setdefault("amount", measured.amount_place)
        if measured.unit_place:
            line.places["unit"] = measured.unit_place
    return measured


def _nothing_left(line: Blanked, material: str) -> None:
    """Refuse what was not understood."""
    noise = phrases.NOISE | (
        phrases.OF_PLANTS if materials.kind_of(material) == "flavour" else frozenset()
    )
    for match in re.finditer(r"[^\s,.;:–—-]+", line.rest):
        word = match[0].strip("'")
        if word not in noise and re.search(r"\w", word):
            said = line.text[slice(*match.span())]
            words = f"“{said}” is not understood here: leave it out, or put it in brackets."
            line.fail(words, match.span())


def _weighed(line: Blanked, found: Line, measured: Measured) -> Line:
    said = line.said
    mass = _mass(line, found, measured)
    if mass.typ > MOST_G:
        line.fail("More than 500 kg at once is no kitchen's batch.", measured.amount_place)
    uncut = found.form in {"whole", "as_sold"}
    found = replace(
        found, mass_g=mass, amount=measured.words, by_volume=measured.by_volume,
        form=measured.cut if measured.cut and uncut else found.form,
        measured_as=measured.cut or found.measured_as,
    )  # fmt: skip
    if said.each_jar:
        return replace(found, how="share", share=mass.typ, per="g/jar")
    if said.per is None:
        return found
    if said.per.dimension == "mass":
        return replace(found, how="share", share=mass.typ / said.per.amount)
    return replace(found, how="share", share=1000.0 * mass.typ / said.per.amount, per="g/l")


def _mass(line: Blanked, found: Line, measured: Measured) -> Estimate:
    grams = line.said.weighed_g
    if grams is not None:
        off = WEIGHED_SPREAD * grams
        return Estimate(grams - off, grams, grams + off, Evidence.READ)
    try:
        return in_grams(found, measured)
    except CannotTell as error:
        words = str(error)
        line.fail(f"{words[0].upper()}{words[1:]}.", measured.amount_place)
