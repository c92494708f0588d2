#!/bin/sh
# Copies the front-end files that ship with the application out of their npm packages, and builds
# the parts of Bulma that the pages use with our tokens.
# Usage: scripts/vendor.sh, on a machine with npm and its registry.
set -eu
here=$(cd "$(dirname "$0")" && pwd)
target=$(cd "$here/../caldarium/web/static" && pwd)
work=$(mktemp -d)
cd "$work"
npm init -y >/dev/null
npm install --no-save htmx.org@2.0.11 idiomorph@0.8.0 @alpinejs/csp@3.17.4 bulma@1.0.4 sass@1 \
  @fontsource-variable/atkinson-hyperlegible-next@5.3.0
cp node_modules/htmx.org/dist/htmx.min.js "$target/vendor/"
cp node_modules/idiomorph/dist/idiomorph-ext.min.js "$target/vendor/"
cp node_modules/@alpinejs/csp/dist/cdn.min.js "$target/vendor/alpine-csp.min.js"
npx sass --quiet --load-path=node_modules --style=compressed --no-source-map \
  "$here/bulma.scss" "$target/vendor/bulma.min.css"
cp node_modules/@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2 \
  "$target/fonts/atkinson-hyperlegible-next.woff2"
rm -r "$work"
