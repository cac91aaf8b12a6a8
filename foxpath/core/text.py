"""Texts from outside, made fit to be shown and saved."""


def sound_text(text: str) -> str:
    """Return a text that any file can hold: half characters, as names that are no UTF-8 bring them, become stand-ins."""
    if text.isascii():
        return text
    return text.encode("utf-16", "surrogatepass").decode("utf-16", "replace")
