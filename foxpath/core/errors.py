"""Errors a painter can meet: each says what happened and what to do."""


class AppError(Exception):
    """Something the user can cause and mend.

    Parameters
    ----------
    message : str
        What happened, naming the file or value.
    hint : str
        What to do about it, as a sentence.
    """

    def __init__(self, message: str, hint: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.hint = hint

    def __str__(self) -> str:
        return f"{self.message} {self.hint}".strip()


class PictureError(AppError, ValueError):
    """A picture that cannot be read."""


class ProjectError(AppError, ValueError):
    """A project file that cannot be opened."""


class SizeError(AppError, ValueError):
    """A canvas size or a length that makes no sense."""


class InputError(AppError, ValueError):
    """An outline, comb or option that cannot be used."""
