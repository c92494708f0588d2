#!/bin/sh
# Rewrites requirements/ with the newest versions that work together, without any address.
set -eu
cd "$(dirname "$0")/.."
work=$(mktemp -d)
names() { python3 -c "import tomllib;p=tomllib.load(open('pyproject.toml','rb'))['project'];print('\n'.join($1))"; }
python3 -m venv "$work/env"
names "p['dependencies']" > "$work/run.in"
"$work/env/bin/pip" install -q -r "$work/run.in"
"$work/env/bin/pip" freeze > "$work/run.txt"
{ echo "# Exact versions the application runs with; holds no addresses. Made by scripts/lock.sh."
  cat "$work/run.txt"; } > requirements/run.txt
names "p['optional-dependencies']['dev']" > "$work/dev.in"
"$work/env/bin/pip" install -q -r "$work/run.in" -r "$work/dev.in"
{ echo "# Exact versions for development and tests, besides run.txt. Made by scripts/lock.sh."
  echo "-r run.txt"
  "$work/env/bin/pip" freeze | grep -vxFf "$work/run.txt"; } > requirements/dev.txt
rm -r "$work"
