"""What services raise.

ServiceError
├── NotFound        no such thing in this household
├── Conflict        it does not fit how things stand; carries a stable code
├── NotAllowed      only a keeper of the household may do this
├── FieldError      an entry that cannot be, with a pointer to its field
├── SignInFailed    no such person, or another password
└── TooManyTries    sign-in is locked for a while
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
    """Only a keeper of the household may do this."""

    def __init__(self, what: str) -> None:
        super().__init__(f"Only a keeper of this household may {what}. Nothing was changed.")


class FieldError(ServiceError):
    """An entry that cannot be; pointer is a JSON pointer to its field."""

    def __init__(self, pointer: str, message: str) -> None:
        self.pointer = pointer
        super().__init__(message)


class SignInFailed(ServiceError):
    """No such person, or another password; which of the two is not said."""


class TooManyTries(ServiceError):
    """Sign-in is locked for a while."""
