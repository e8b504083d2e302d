"""What services raise.

ServiceError
├── NotFound        no such thing in this household
├── Conflict        it does not fit how things stand; carries a stable code
├── NotAllowed      not with this person's role in the household
├── FieldError      an entry that cannot be, with a pointer to its field
├── SignInFailed    no such person, or another password
└── Later           not now, but after some seconds
    ├── TooManyTries    sign-in is locked for a while
    └── Busy            more at once than there is room for
"""

from __future__ import annotations


class ServiceError(Exception):
    """Anything a service will not do; the message is for the person at the hob."""


class NotFound(ServiceError):
    """No such thing in this household; another household's things are not found either."""

    def __init__(self, what: str) -> None:
        super().__init__(f"There is no such {what} in this household.")


class Conflict(ServiceError):
    """It does not fit how things stand."""

    def __init__(self, code: str, message: str) -> None:
        self.code = code
        super().__init__(message)


class NotAllowed(ServiceError):
    """Not with this person's role in the household."""

    def __init__(self, message: str) -> None:
        super().__init__(f"{message} Nothing was changed.")


class FieldError(ServiceError):
    """An entry that cannot be; pointer is a JSON pointer to its field."""

    def __init__(self, pointer: str, message: str) -> None:
        self.pointer = pointer
        super().__init__(message)


class SignInFailed(ServiceError):
    """No such person, or another password; which of the two is not said."""


class Later(ServiceError):
    """Not now; after_s says in how many seconds it is worth trying again."""

    def __init__(self, message: str, after_s: int) -> None:
        self.after_s = after_s
        super().__init__(message)


class TooManyTries(Later):
    """Sign-in is locked for a while."""


class Busy(Later):
    """More at once than there is room for."""
