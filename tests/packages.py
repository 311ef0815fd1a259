"""Files zipped on the fly from parts that stand readable in the tests."""

import io
import zipfile
from pathlib import Path

PARTS = Path(__file__).parent / "files" / "parts"


def package(kind, changed=(), without=()):
    """The package of a kind with some parts changed: name to what its bytes become."""
    parts = {
        str(path.relative_to(PARTS / kind)): path.read_bytes()
        for path in sorted((PARTS / kind).rglob("*"))
        if path.is_file()
    }
    if "mimetype" in parts:
        parts["mimetype"] = parts["mimetype"].strip()
    for name, change in dict(changed).items():
        parts[name] = change(parts.get(name, b"")) if callable(change) else change
    for name in without:
        del parts[name]
    return zipped(parts)


def zipped(parts):
    """Parts as a zip archive."""
    stream = io.BytesIO()
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in parts.items():
            archive.writestr(name, data)
    return stream.getvalue()


def unzipped(data):
    """The parts of a zip archive."""
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def flat_document():
    """The content of the document, as one XML text."""
    content = (PARTS / "open_document" / "content.xml").read_text()
    return content.replace("office:document-content", "office:document").encode()
