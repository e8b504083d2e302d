"""Findings in the units of a kitchen."""

from __future__ import annotations

from dataclasses import replace

from elderberry.core.findings import Finding
from elderberry.core.quantities import System
from elderberry.core.wording import retold


def told(finding: Finding, system: System) -> Finding:
    """A finding with the figures of its sentences in the units of a kitchen.

    >>> from elderberry.core.rules import rule
    >>> told(rule("ice-needs-room").finding(), "us").remedy.partition(";")[0]
    'Leave 1 1/2 in in straight-sided jars'
    """
    if system == "metric":
        return finding
    message, remedy = (retold(text, system) for text in (finding.message, finding.remedy))
    return replace(finding, message=message, remedy=remedy)
