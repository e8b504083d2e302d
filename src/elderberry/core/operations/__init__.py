"""Every kind of operation, and how it is applied to a draft of a flow."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from elderberry.core.flow.draft import Draft, Step
from elderberry.core.operations import clearing, extracting, filling, preparing

Apply = Callable[[Draft, Step], Draft]

APPLY: Mapping[str, Apply] = {
    "soak": preparing.soak,
    "sort": preparing.sort,
    "mash": preparing.mash,
    "blend": preparing.blend,
    "simmer": preparing.simmer,
    "steam_juice": extracting.steam_juice,
    "press": extracting.press,
    "squeeze": extracting.squeeze,
    "drain": extracting.drain,
    "drain_cold": extracting.drain,
    "press_again": extracting.press_again,
    "steep": extracting.steep,
    "infuse": extracting.infuse,
    "strain": clearing.strain,
    "settle": clearing.settle,
    "skim": clearing.skim,
    "combine": clearing.combine,
    "split": clearing.split,
    "dissolve": clearing.dissolve,
    "set_aside": clearing.set_aside,
    "heat_to": filling.heat_through,
    "sterilise": filling.sterilise,
    "fill": filling.fill,
    "process": filling.process_loads,
    "seal_check": filling.carry(10),
    "chill": filling.carry(10),
    "freeze": filling.carry(10),
}
"""How each kind of step is applied to a draft."""


def apply(draft: Draft, step: Step) -> Draft:
    """The draft with one more step laid out.

    Raises:
        CoreError: what it takes is not there, or a figure of it cannot be.
    """
    return APPLY[step.kind](draft, step)
