"""What the core refuses, and why.

* DreieckError                 everything below; its text is fit for a user
  + AddressError               text that is no address, or one beyond the limits
  + EntryError                 an entry that no cell can hold
  + FormulaError               a formula that cannot be read; knows the place
  + FillError                  a fill that cannot be planned
  + NameRefused                a name that no range can have; knows one that would do
  + SheetError                 a sheet name that cannot be, or a sheet that is not there
"""


class DreieckError(Exception):
    """A refusal whose text says what is wrong and what would do."""


class AddressError(DreieckError):
    """Text that is not an address, or an address beyond the limits of a sheet."""


class EntryError(DreieckError):
    """An entry that no cell can hold."""


class FormulaError(DreieckError):
    """A formula that cannot be read.

    ``position`` is the place in the text, counted from 0, and ``length`` how many
    characters of it are at fault (0 where something is missing).
    """

    def __init__(self, message: str, position: int, length: int = 0) -> None:
        super().__init__(message)
        self.position = position
        self.length = length


class FillError(DreieckError):
    """A fill that cannot be planned: it leaves the sheet, or is too large."""


class NameRefused(DreieckError):
    """A name that cannot be; ``proposal`` is one that would do."""

    def __init__(self, message: str, proposal: str) -> None:
        super().__init__(f"{message} “{proposal}” would do.")
        self.proposal = proposal


class SheetError(DreieckError):
    """A sheet name that cannot be, or a sheet that is not there."""
