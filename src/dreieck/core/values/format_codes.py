"""Number formats written as codes, such as ``#,##0.00``, ``0.0%``, ``# ?/?`` or ``yyyy-mm-dd``."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from decimal import Decimal

from dreieck.core.values.decimals import exact, joined_text, quantized
from dreieck.core.values.format_fractions import fraction_text
from dreieck.core.values.format_pieces import FormatCodeError, Part, Piece, parts_of, plain_text
from dreieck.core.values.numerals import DAYS, MONTHS, date_of


def formatted(value: float | str, code: str) -> str:
    """A number or text written by a code. Raises FormatCodeError."""
    parts = parts_of(code)
    if isinstance(value, str):
        part = parts[3] if len(parts) > 3 else parts[0]
        held = any(piece.kind == "value" for piece in part.pieces)
        return "".join(plain_text(piece, value) for piece in part.pieces) if held else value
    part = _part_for(value, parts)
    pieces = part.pieces
    kinds = {piece.kind for piece in pieces}
    if kinds & {"date", "elapsed", "half"}:
        return _Moment(value, pieces).text()
    if part.tells_sign:
        value = abs(value)
    if "general" in kinds or "value" in kinds:
        return "".join(plain_text(piece, joined_text(value)) for piece in pieces)
    if (written := fraction_text(exact(abs(value)), pieces)) is not None:
        return "-" + written if value < 0 and any(map(str.isdigit, written)) else written
    return _number(value, pieces)


def _part_for(value: float, parts: list[Part]) -> Part:
    """The part of a code that a number is written by. Raises FormatCodeError."""
    for part in parts[:3]:
        if part.holds is None or part.holds(value):
            return part
    raise FormatCodeError("None of the conditions in the number format holds for this number.")


@dataclass
class _Digits:
    """How the digits of a number are laid out by a part of a code."""

    before: list[str] = field(default_factory=list)
    behind: list[str] = field(default_factory=list)
    power: str = ""
    percents: int = 0
    thousands: int = 0
    grouped: bool = False

    @classmethod
    def of(cls, part: list[Piece]) -> _Digits:
        found = cls()
        pointed = False
        commas = 0
        for piece in part:
            if piece.kind == "digit":
                if commas and found.before and not pointed:
                    found.grouped = True
                commas = 0
                (found.behind if pointed else found.before).append(piece.text)
            elif piece.kind == "comma":
                commas += 1
            elif piece.kind == "point":
                found.thousands, commas, pointed = found.thousands + commas, 0, True
            elif piece.kind == "percent":
                found.percents += 1
            elif piece.kind == "power":
                found.power = piece.text
        found.thousands += commas if found.before or found.behind else 0
        return found


def _number(value: float, part: list[Piece]) -> str:
    layout = _Digits.of(part)
    number = exact(abs(value)).scaleb(2 * layout.percents - 3 * layout.thousands)
    power = 0
    if layout.power and number:
        power = number.adjusted() - max(len(layout.before) - 1, 0)
        number = number.scaleb(-power)
        if quantized(number, len(layout.behind)) >= Decimal(10) ** max(len(layout.before), 1):
            power, number = power + 1, number.scaleb(-1)
    whole, _, behind = f"{quantized(number, len(layout.behind)):f}".partition(".")
    whole = whole.lstrip("0")
    nothing = not whole and not behind.strip("0")
    text = "".join(_written(part, layout, whole, behind, power))
    return "-" + text if value < 0 and not nothing else text


def _written(part: list[Piece], layout: _Digits, whole: str, behind: str, power: int) -> list[str]:
    written: list[str] = []
    count, index, pointed = len(layout.before), 0, False
    kept = len(behind.rstrip("0"))
    for piece in part:
        match piece.kind:
            case "digit" if not pointed:
                place = count - index
                start = len(whole) - place
                # The first place takes all digits above as well.
                digits = whole[0 if index == 0 else max(start, 0) : max(start + 1, 0)]
                written.append(_digits(digits, place, piece.text, layout))
                index += 1
            case "digit":
                at = index - count
                shows = piece.text == "0" or at < kept
                written.append(behind[at] if shows else " " * (piece.text == "?"))
                index += 1
            case "point":
                if not layout.before:
                    written.append(whole)
                pointed, index = True, count
                written.append(".")
            case "comma":
                pass
            case "power":
                sign = "-" if power < 0 else "+" * (piece.text[1] == "+")
                written.append(f"E{sign}{abs(power):0{len(piece.text) - 2}d}")
            case _:
                written.append(plain_text(piece))
    return written


def _digits(digits: str, place: int, sign: str, layout: _Digits) -> str:
    """The digits of one place and above, counted from the right; or what stands for none."""
    if not digits:
        zeros = "0" in layout.before[: len(layout.before) - place + 1]
        digits = "0" if zeros else " " if sign == "?" else ""
    if not layout.grouped or not digits.strip():
        return digits
    first = place + len(digits) - 1
    return "".join(
        digit + "," * ((first - index) % 3 == 1 and first - index > 1)
        for index, digit in enumerate(digits)
    )


class _Moment:
    """A date and time written by a part of a code."""

    def __init__(self, value: float, part: list[Piece]) -> None:
        self.part = part
        fractions = (len(p.text.partition(".")[2]) for p in part if p.kind == "date")
        self.seconds = quantized(exact(value) * 86400, max(fractions, default=0))
        self.elapses = any(piece.kind == "elapsed" for piece in part)
        self.halved = any(piece.kind == "half" for piece in part)
        # Time that passes has a sign; a moment before the first date lies in the day before it.
        told = abs(self.seconds) if self.elapses else self.seconds
        days = math.floor(told / 86400)
        self.day = date_of(days)
        self.clock = told - days * 86400

    def text(self) -> str:
        """The whole text."""
        if self.day is None:
            raise FormatCodeError("The number is no date: the calendar goes from year 1 to 9999.")
        sign = "-" if self.seconds < 0 and self.elapses else ""
        return sign + "".join(self._written(index) for index in range(len(self.part)))

    def _written(self, index: int) -> str:
        piece = self.part[index]
        match piece.kind:
            case "date":
                return self._of_date(piece.text.lower(), index)
            case "elapsed":
                unit = {"h": 3600, "m": 60, "s": 1}[piece.text[1].lower()]
                return f"{int(abs(self.seconds) // unit):0{len(piece.text) - 2}d}"
            case "half":
                return piece.text.split("/")[int(self.clock >= 43200)]
            case "point" | "comma" | "percent" | "digit":
                return piece.text
            case _:
                return plain_text(piece)

    def _of_date(self, code: str, index: int) -> str:
        assert self.day is not None
        day, width = self.day, len(code)
        if code.startswith("m") and self._is_minutes(index):
            return f"{int(self.clock // 60 % 60):0{min(width, 2)}d}"
        match code[0]:
            case "y":
                return f"{day.year:04d}" if width > 2 else f"{day.year % 100:02d}"
            case "m":
                return _named(MONTHS[day.month - 1], day.month, width)
            case "d":
                return _named(DAYS[day.weekday()], day.day, width)
            case "h":
                hour = int(self.clock // 3600)
                hour = (hour - 1) % 12 + 1 if self.halved else hour
                return f"{hour:0{min(width, 2)}d}"
            case _:
                whole, _, digits = code.partition(".")
                seconds = self.clock % 60
                text = f"{seconds:.{len(digits)}f}" if digits else str(int(seconds))
                return text.zfill(min(len(whole), 2) + len(digits) + bool(digits))

    def _is_minutes(self, index: int) -> bool:
        """Whether an m stands behind hours or in front of seconds."""
        codes = [p.text.strip("[]").lower()[0] if p.kind in ("date", "elapsed") else ""
                 for p in self.part]  # fmt: skip
        before = next((each for each in reversed(codes[:index]) if each), "")
        behind = next((each for each in codes[index + 1 :] if each), "")
        return before == "h" or behind == "s"


def _named(name: str, number: int, width: int) -> str:
    """A month or day by number, or by name, shortened to three letters or one."""
    if width <= 2:
        return f"{number:0{width}d}"
    return {3: name[:3], 5: name[:1]}.get(width, name)
