#!/usr/bin/env bash
# Copies the parts of npm packages that the pages use into static/vendor, at pinned versions.
set -euo pipefail
here=$(cd "$(dirname "$0")" && pwd)
target=$here/../src/dreieck/web/static/vendor
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
cd "$work"

fetch() { # NAME VERSION FOLDER: unpacks the package below FOLDER
  local archive
  archive=$(npm pack --silent "$1@$2")
  mkdir "$3" && tar -xzf "$archive" -C "$3" --strip-components=1
}

fetch bootstrap 5.3.9 bootstrap
fetch bootstrap-icons 1.13.2 icons
fetch htmx.org 2.0.11 htmx
fetch echarts 6.1.0 echarts
fetch @fontsource/ibm-plex-sans 5.3.0 sans
fetch @fontsource/ibm-plex-mono 5.3.0 mono

rm -rf "$target" && mkdir -p "$target"/{bootstrap,icons,htmx,echarts,plex}
cp bootstrap/dist/css/bootstrap.min.css bootstrap/LICENSE "$target/bootstrap/"
cp icons/LICENSE "$target/icons/"
# Of two thousand icons only those that the pages show are shipped.
python3 -m pip install --quiet --target fonttools fonttools==4.60.1 brotli==1.1.0
PYTHONPATH=fonttools python3 "$here/icons.py" icons/font "$target/icons"
cp htmx/dist/htmx.min.js htmx/LICENSE "$target/htmx/"
cp echarts/dist/echarts.common.min.js echarts/LICENSE echarts/NOTICE "$target/echarts/"
cp sans/LICENSE "$target/plex/"
for subset in latin latin-ext; do
  for weight in 400 600; do
    cp "sans/files/ibm-plex-sans-$subset-$weight-normal.woff2" "$target/plex/"
    cp "mono/files/ibm-plex-mono-$subset-$weight-normal.woff2" "$target/plex/"
  done
done

# What is shipped is looked at by its sums: make check.
(cd "$target" && find . -type f ! -name SHA256SUMS | LC_ALL=C sort | xargs sha256sum > SHA256SUMS)
