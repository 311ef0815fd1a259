"""The icons that the pages show, cut out of a whole font of icons: ``icons.py FONT INTO``.

The folder ``FONT`` is that of the package: a style sheet, and the font below it.
"""

from __future__ import annotations

import re
import subprocess
import sys
from pathlib import Path

WEB = Path(__file__).parent.parent / "src" / "dreieck" / "web"
SHOWN = re.compile(r"\bbi-([a-z0-9-]+)")


def used() -> set[str]:
    """The names of the icons that templates and scripts name."""
    pages = [*WEB.glob("templates/*.html"), *WEB.glob("static/js/*.js")]
    return {name for page in pages for name in SHOWN.findall(page.read_text("utf-8"))}


def main(package: Path, into: Path) -> None:
    """Write the style sheet and the font with the used icons alone."""
    style = (package / "bootstrap-icons.min.css").read_text("utf-8")
    codes = dict(re.findall(r'\.bi-([a-z0-9-]+)::before\{content:"\\([0-9a-f]+)"\}', style))
    rules = "".join(f'.bi-{name}::before{{content:"\\{codes[name]}"}}' for name in sorted(used()))
    glyph = re.search(r"\.bi::before,[^{]*\{([^}]*)\}", style)
    assert glyph is not None
    (into / "icons.css").write_text(
        '@font-face{font-family:"bootstrap-icons";src:url("icons.woff2") format("woff2")}\n'
        f".bi::before{{{glyph[1]}}}\n{rules}\n",
        "utf-8",
    )
    font = package / "fonts" / "bootstrap-icons.woff2"
    characters = ",".join(codes[name] for name in sorted(used()))
    output = f"--output-file={into / 'icons.woff2'}"
    subset = [f"--unicodes={characters}", "--flavor=woff2", output]
    subprocess.run([sys.executable, "-m", "fontTools.subset", font, *subset], check=True)


if __name__ == "__main__":
    main(Path(sys.argv[1]), Path(sys.argv[2]))
