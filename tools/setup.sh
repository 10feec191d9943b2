# Sourced by ./demo, ./test and ./ridgeline: makes the environment they share, and is quick when it is there.
# Sets RIDGELINE_PYTHON. Everything it says goes to stderr.

RIDGELINE_HOME="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
RIDGELINE_VENV="${RIDGELINE_VENV:-$RIDGELINE_HOME/.venv}"
RIDGELINE_PYTHON="$RIDGELINE_VENV/bin/python"
RIDGELINE_PACKAGES="python3-venv xvfb xauth libegl1 libgl1 libxkbcommon0 libxkbcommon-x11-0 libdbus-1-3 libfontconfig1 \
libxcb-cursor0 libxcb-icccm4 libxcb-image0 libxcb-keysyms1 libxcb-randr0 libxcb-render-util0 libxcb-shape0 \
libxcb-xinerama0 libxcb-xkb1"

say() { printf 'ridgeline: %s\n' "$*" >&2; }

missing_packages() {
    local package
    for package in $RIDGELINE_PACKAGES; do
        # A python3 from elsewhere that can already make environments needs no python3-venv.
        if [ "$package" = python3-venv ] && python3 -c 'import ensurepip, venv' 2>/dev/null; then continue; fi
        dpkg-query -W -f='${Status}\n' "$package" 2>/dev/null | grep -q 'ok installed' || printf '%s ' "$package"
    done
}

install_system_packages() {
    command -v dpkg-query >/dev/null || return 0    # not Debian or Ubuntu: the README names the libraries
    local missing root=""
    missing="$(missing_packages)"
    [ -n "$missing" ] || return 0
    if [ "$(id -u)" != 0 ]; then
        if command -v sudo >/dev/null && sudo -n true 2>/dev/null; then root="sudo -n"; else
            say "these system packages are missing; install them once with:"
            printf '    sudo apt-get install -y %s\n' "$missing" >&2
            exit 3
        fi
    fi
    say "installing system packages: $missing"
    # shellcheck disable=SC2086
    { $root apt-get update -qq && DEBIAN_FRONTEND=noninteractive $root apt-get install -y -qq $missing; } >&2 || {
        say "the system packages could not be installed; try: sudo apt-get install -y $missing"; exit 3; }
}

setup_environment() {
    local wish stamp="$RIDGELINE_VENV/.ridgeline-stamp"
    wish="$(cat "$RIDGELINE_HOME/pyproject.toml" "$RIDGELINE_HOME/constraints.txt" "$RIDGELINE_HOME/tools/setup.sh" | sha256sum)"
    [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$wish $RIDGELINE_HOME" ] && return 0
    install_system_packages
    if [ ! -x "$RIDGELINE_PYTHON" ]; then
        python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' || { say "Python 3.11 or newer is needed"; exit 3; }
        say "making the Python environment in $RIDGELINE_VENV"
        python3 -m venv "$RIDGELINE_VENV" >&2 || { say "no virtual environment could be made"; exit 3; }
    fi
    say "installing the pinned Python packages (once)"
    "$RIDGELINE_PYTHON" -m pip install --quiet --disable-pip-version-check \
        -c "$RIDGELINE_HOME/constraints.txt" -e "$RIDGELINE_HOME[dev]" >&2 || { say "the Python packages could not be installed"; exit 3; }
    "$RIDGELINE_PYTHON" -m compileall -q "$RIDGELINE_HOME/src" || true
    printf '%s' "$wish $RIDGELINE_HOME" > "$stamp"
}

setup_environment
