# ruff: noqa: E501  a phrase is read whole
"""Phrases of a line that are neither amount nor name: when it joins, what it is brought to."""

from __future__ import annotations

import re
from typing import Final, cast

from elderberry.core.lines.line import Where

FIGURE: Final = r"(\d+(?:[.,]\d+)?)"
_TO = (
    r"(?:up |down |sweetened |acidified |brought )?(?:to|until|till|reaching)(?: it (?:reads|is))?"
)
_ABOUT = r"(?:about |around |roughly )?"

TO_TASTE: Final = re.compile(
    r"\b(?:to|as you|for) (?:your )?(?:taste|like)\b|\bas (?:needed|wanted)\b"
)
BRIX: Final = re.compile(
    rf"\b{_TO}\s+{_ABOUT}(?:{FIGURE}\s*(?:°\s*|degrees? )?(?:brix|bx)\b"
    rf"|(?:°\s*)?(?:brix|bx)\s*(?:of\s*)?{FIGURE}|{FIGURE}\s*(?:%|per ?cent)(?: (?:sugar|solids))?)"
)
PH: Final = re.compile(rf"\b{_TO}\s+{_ABOUT}(?:a\s+)?(?:ph\s*(?:of\s*)?{FIGURE}|{FIGURE}\s*ph\b)")
ACID: Final = re.compile(
    rf"\b{_TO}\s+{_ABOUT}{FIGURE}\s*g\s*(?:/|per )\s*l(?:itre|iter)?(?: of)? (?:acid|acidity|sharp(?:ness)?)\b"
)
COVER: Final = re.compile(
    r"\bcovered with\b|\b(?:just |barely )?(?:to|until) (?:just |barely |nearly |well )?cover(?:ed)?\b(?: (?:it|them|all|the \w+))?"
)
FILL: Final = re.compile(
    r"\b(?:to|and) (?:fill|top)(?: up)?(?: (?:the|each|every|all)?\s?(?:jars?|bottles?|pot|pan))?(?! to)\b"
    r"|\b(?:topp?ed|top|fill|filled) up(?: with)?\b(?! to)"
)
MADE_UP: Final = re.compile(
    r"\b(?:to (?:make|give)|made? up to|(?:topp?ed|top|fill|filled) up to|up to|to)"
    r"\s+(?:a total of |about |the )?(?=[\d¼½¾⅓⅔⅛]|an? |half |one |two |three )"
)
MARK: Final = re.compile(
    r"\b(?:up )?to (?:the )?(?P<mark>(?:[\w.]+ )*?(?:ring|mark|line|shoulder|rim|neck|brim|notch|rivet))\b"
    r"(?: (?:of|on|in|inside) (?:the |a |an |my |our |each )?(?P<vessel>[\w' ]+?))?(?=\s*$|,| with)"
)
REST: Final = re.compile(
    r"\b(?:all |for )?(?:the )?(?:rest|remainder|remaining|what(?:ever)? is left)\b(?: of)?(?: the)?"
)
LAST: Final = re.compile(
    r"\b(?:(?P<more>sweeter|stronger|sharper|sourer|tarter|more (?:sour|sharp|tart))"
    r"|(?P<less>less (?:sweet|sharp|sour|tart|strong)|milder|weaker|not (?:so|as) (?:sweet|sharp|sour)))"
    r"(?: (?:than|as|like) (?:the )?last (?:time|batch|year|one))?\b"
    r"|\b(?:(?:just )?as (?:sweet|sharp|sour|tart|strong) )?(?:as|like) (?:the )?last (?:time|batch|year|one)\b"
)
EQUAL: Final = re.compile(
    r"\b(?:an? |the )?(?:equal|same)\s+(?P<what>weights?|amounts?|mass|volumes?|parts?)"
    r"(?: by (?P<by>weight|volume))?(?: of| in)?\b"
    r"|\b(?:weight for weight|pound for pound|kilo for kilo)\b"
    r"|\b(?:1|one)\s*(?::|to)\s*(?:1|one)\b(?: by (?:weight|volume))?(?: of| in)?"
    r"|\bits (?:own )?weight (?:in|of)\b|\bas much\b(?=.*\bas\b)"
)
ROLE: Final = re.compile(
    r"\b(?:of )?(?:the )?(fruit|juice|pulp|liquid|base|water|berries|pot|batch)\b"
)
OF_WHAT: Final = re.compile(
    r"\b(?:as|to|with|of|and) (?:the |there is )?(?P<of>fruit|juice|pulp|liquid|base|water|berries|pot|batch)\b"
)
TIMES_WEIGHT: Final = re.compile(
    r"(?P<n>[\w½¼¾⅓⅔/.,-]+(?: [\w½¼¾⅓⅔/-]+){0,3}?)\s+(?:times )?(?:of )?(?:the|its|their) (?:own )?weight\b"
    r"(?: of (?:the )?(?:fruit|juice|pulp|base))?(?:\s+(?:in|of))?"
)
PER_CENT: Final = re.compile(
    rf"{FIGURE}\s*(?:%|per ?cent)(?: (?:of|by))?(?: (?:the|its))?(?: (?:weight|mass))?(?: (?:of|in))?"
)
PART_OF: Final = re.compile(r"\b(?P<n>[\w½¼¾⅓⅔/ -]{1,18}?) (?:of )?the (?P<of>[a-z]+)\b")
PER: Final = re.compile(
    r"(?:(?<!\d)\s*/\s*(?=[a-z])|(?<=\s)(?:to|per|for|in|on)\s+(?:each |every |the |an? |one )?)(?=\S)"
)
EACH_JAR: Final = re.compile(
    r"\b(?:(?:to|in|into|for|per) (?:each|every|a|the) |per )(?:hot |clean |empty |half-?pint |pint |quart )?(?:jar|bottle)\b|\ba jar\b$"
)

WHERE: Final[tuple[tuple[re.Pattern[str], Where], ...]] = tuple(
    (re.compile(pattern), cast("Where", where))
    for pattern, where in (
        (r"\b(?:in|into|to) (?:the |all )?(?:hot |clean |empty )?(?:jars?|bottles?)\b", "jar"),
        (r"\bin(?:to)? the glass\b", "glass"),
        (r"\boff (?:the )?(?:heat|boil|fire)\b|\bat the (?:very )?end\b|\bafter (?:the )?(?:boil(?:ing)?|cooking|heating)\b"
         r"|\b(?:when|once) (?:it is |it's )?(?:cool|cooled|cold)\b", "off_heat"),
        (r"\bafter (?:it is )?strain(?:ing|ed)\b|\bonce strained\b|\binto the (?:strained )?juice\b", "strained"),
        (r"\bat the simmer\b|\bin(?:to)? the (?:simmer|pot|pan)\b|\bwhile it simmers\b"
         r"|\b(?:simmered|boiled|cooked)(?: with (?:it|them|the fruit))?\b", "simmer"),
        (r"\bwith the fruit\b|\b(?:from|at) the start\b", "start"),
    )
)  # fmt: skip
LEAVES: Final = re.compile(
    r"\b(?:and )?(?:(?:strained|taken|fished|lifted|sieved|picked|pulled|out) (?:out|again|at the strain)(?: again)?"
    r"(?: (?:at the (?:end|strain)|later|before filling))?|removed(?: (?:later|again|before filling))?"
    r"|in a (?:bag|muslin|cloth|spice bag|tea ball))\b"
)

JOINS_AS: Final = (
    (re.compile(r"\b(?:then |to be )?(?:puréed|pureed|blended|liquidised|liquidized|blitzed)\b"
                r"|\b(?:through|in) (?:the|a) (?:blender|mouli|food mill|sieve)\b|\bto (?:a )?pur[eé]e\b"), "puree"),
    (re.compile(r"\b(?:then |to be )?(?:mashed|crushed|bruised|pounded)\b"), "crushed"),
    (re.compile(r"\b(?:then |to be )?(?:juiced|squeezed|juice only|pressed)\b"), "juice"),
    (re.compile(r"\b(?:then |to be )?(?:zested|zest only|peel only)\b"), "zest"),
)  # fmt: skip
"""What is done with it before it joins, said after a comma."""
FORMS: Final = tuple(
    (re.compile(rf"\b(?:{words})\b"), form)
    for words, form in (
        ("juice|juiced", "juice"),
        ("pur[eé]e|puréed|pureed|pulp|pulped|sauce|blended", "puree"),
        ("zest|zested", "zest"),
        ("peel|peels|rind|rinds|skins?", "peel"),
        ("powder|powdered|ground", "powder"),
        ("pomace|press cake|press residue", "pomace"),
        ("dried|dry|dehydrated", "dried"),
        ("sliced", "sliced"),
        (
            r"chopped|diced|cubed|quartered|halved|halves|grated|shredded|minced|cut(?: up| small| in \w+)?",
            "chopped",
        ),
        ("mashed|crushed|bruised|pounded", "crushed"),
        ("frozen|thawed|from the freezer", "frozen"),
    )
)
"""Forms, one before another: dried fruit that is sliced is dried, cut fruit that is frozen is cut."""

SIZES: Final = {"tiny": 0.5, "small": 0.7, "smallish": 0.8, "medium": 1.0, "middling": 1.0,
                "medium-sized": 1.0, "large": 1.35, "big": 1.35, "huge": 1.7}  # fmt: skip
HEAPED: Final = frozenset({"heaped", "heaping", "rounded", "generous", "scant", "scanty", "good"})
LEVEL: Final = frozenset(
    {"level", "packed", "loosely", "firmly", "tightly", "lightly", "full", "loose"}
)
ABOUT: Final = frozenset({"about", "approx", "approximately", "roughly", "around", "circa", "ca", "~", "nearly", "almost", "say", "maybe"})  # fmt: skip
FEW: Final = {"few": (3.0, 4.0, 5.0), "several": (4.0, 5.0, 7.0), "couple": (2.0, 2.0, 3.0)}
NOISE: Final = LEVEL | frozenset(
    [
        "whole",
        "fresh",
        "freshly",
        "ripe",
        "unripe",
        "very",
        "washed",
        "rinsed",
        "cleaned",
        "picked",
        "hulled",
        "stripped",
        "stemmed",
        "trimmed",
        "topped",
        "tailed",
        "stoned",
        "pitted",
        "cored",
        "peeled",
        "unpeeled",
        "skinned",
        "deseeded",
        "seeded",
        "unwaxed",
        "waxed",
        "organic",
        "best",
        "firm",
        "soft",
        "cold",
        "warm",
        "hot",
        "boiling",
        "fine",
        "finely",
        "coarsely",
        "roughly",
        "thinly",
        "thickly",
        "thin",
        "thick",
        "well",
        "extra",
        "unsweetened",
        "pure",
        "plain",
        "raw",
        "local",
        "own",
        "homemade",
        "home",
        "made",
        "bought",
        "natural",
        "new",
        "old",
        "enough",
        "good",
        "some",
        "of",
        "the",
        "and",
        "a",
        "an",
        "any",
        "bare",
        "prepared",
        "untreated",
        "destemmed",
        "clean",
        "sweet",
        "sour",
        "tart",
        "piece",
        "pieces",
        "yellow",
        "fleshed",
        "or",
        "so",
        "with",
        "red",
        "black",
        "white",
        "green",
        "dark",
        "golden",
        "pink",
        "light",
        "pared",
    ]
)
"""Words that a line may hold and that change nothing."""
OF_PLANTS: Final = frozenset(
    ["leaf", "leaves", "needle", "needles", "petal", "petals", "flower", "flowers", "seed", "seeds"]
)
"""Parts of herbs and spices that change nothing; a fruit's leaves and seeds do."""
FROM: Final = re.compile(
    r"\b(?:picked |bought )?from (?:the |our |my |a |an |his |her )?(?:\w+ )?(?:tree|trees|bush|bushes|plot|"
    r"market|garden|orchard|shop|hedge|hedges|allotment|neighbour|neighbours|neighbor|farm|cellar|shelf|fridge)\b"
)
"""Where something came from, which changes nothing of how much there is."""
