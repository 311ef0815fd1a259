"""Packages: zip archives of parts, looked at before anything in them is believed.

What is too large, too dense, encrypted, damaged or declares entities is refused before a library
gets it (ISO/IEC 26300-2 and ISO/IEC 29500-2 say what a package is).
"""

from __future__ import annotations

import io
import zlib
from xml.parsers import expat
from zipfile import BadZipFile, LargeZipFile, ZipFile, ZipInfo

from dreieck.files.exceptions import FileRefused

MAX_FILE = 50_000_000
"""How many bytes a file can have."""
MAX_PARTS = 5_000
"""How many parts a package can have."""
MAX_UNPACKED = 400_000_000
"""How many bytes all parts can have together once they are unpacked."""
_DENSE, _SMALL = 400, 2_000_000
_ENCRYPTED = 0x1
_CHUNK = 1 << 16


class _SeenEnough(Exception):
    """The root element begins: nothing can be declared any more."""


def opened(data: bytes, what: str) -> ZipFile:
    """The package in ``data``, which should be ``what``. Raises FileRefused."""
    try:
        archive = ZipFile(io.BytesIO(data))
        infos = archive.infolist()
        _check_size(infos)
        for info in infos:
            if info.flag_bits & _ENCRYPTED:
                raise FileRefused(
                    "The file is locked with a password. Save it without one, then open it again."
                )
            if info.filename.lower().endswith((".xml", ".rels")):
                check_declarations(archive, info)
    except (BadZipFile, LargeZipFile, NotImplementedError, EOFError, OSError, zlib.error) as error:
        raise damaged(what) from error
    return archive


def damaged(what: str) -> FileRefused:
    """What to say of a file that breaks off or contradicts itself."""
    return FileRefused(
        f"The file is damaged, or is no {what}: it cannot be unpacked. Save it anew in the program"
        " that made it, and open that."
    )


def missing(name: str, what: str) -> FileRefused:
    """What to say of a package without a part."""
    return FileRefused(
        f"The file is no {what}: its part {name} is missing. Save it anew in the program that made"
        " it, and open that."
    )


def part(archive: ZipFile, name: str, what: str) -> bytes:
    """A part of a package, whole. Raises FileRefused where it is missing or damaged."""
    try:
        return archive.read(name)
    except KeyError:
        raise missing(name, what) from None
    except (BadZipFile, EOFError, OSError, zlib.error, NotImplementedError) as error:
        raise damaged(what) from error


def _check_size(infos: list[ZipInfo]) -> None:
    if len(infos) > MAX_PARTS:
        raise FileRefused(f"The file has {len(infos):,} parts; it can have {MAX_PARTS:,}.")
    unpacked = sum(info.file_size for info in infos)
    if unpacked > MAX_UNPACKED:
        raise FileRefused(
            f"Unpacked, the file has {unpacked / 1e6:,.0f} million bytes; it can have"
            f" {MAX_UNPACKED / 1e6:,.0f} million. Save less of it, such as one sheet."
        )
    for info in infos:
        if info.file_size > _SMALL and info.file_size > _DENSE * max(info.compress_size, 1):
            raise FileRefused(
                f"The part {info.filename[:80]} is packed so densely that unpacking it would"
                " flood the memory; it was left alone."
            )


def check_declarations(archive: ZipFile, info: ZipInfo) -> None:
    """See that a part declares no entities or other files. Raises FileRefused."""
    with archive.open(info) as file:
        check_text(iter(lambda: file.read(_CHUNK), b""), info.filename)


def check_text(chunks: object, name: str) -> None:
    """See that an XML text declares no entities or other files. Raises FileRefused."""
    parser = expat.ParserCreate()

    def declared(*_: object) -> None:
        raise FileRefused(
            f"The part {name[:80]} declares a document type, by which a file could reach for"
            " others or grow without end. Spreadsheets need none; it was left alone."
        )

    def begun(*_: object) -> None:
        raise _SeenEnough

    parser.StartDoctypeDeclHandler = declared
    parser.StartElementHandler = begun
    try:
        for chunk in chunks:  # type: ignore[attr-defined]
            parser.Parse(chunk)
    except _SeenEnough:
        return
    except expat.ExpatError as error:
        raise FileRefused(
            f"The part {name[:80]} cannot be read: {error}. The file is damaged; save it anew in"
            " the program that made it."
        ) from None
