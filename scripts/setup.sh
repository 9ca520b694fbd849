# Shared by the scripts: installs what is missing. Sourced, not run.
# Says clearly what to run where it lacks the right to install.

SYSTEM_WINDOW="libgl1 libegl1 libglib2.0-0 libfontconfig1 libxkbcommon0 libdbus-1-3 libxcb-cursor0 libxcb-icccm4 libxcb-keysyms1 libxcb-shape0 libxcb-image0 libxcb-render-util0 libxkbcommon-x11-0 xvfb xauth"
SYSTEM_TESTS="openbox xdotool poppler-utils desktop-file-utils appstream"

missing_packages() {
    local name
    for name in "$@"; do
        # Ubuntu 24.04 names some of these with a t64 ending.
        dpkg-query -W -f='${Status}\n' "$name" 2>/dev/null | grep -q '^install ok installed' && continue
        dpkg-query -W -f='${Status}\n' "${name}t64" 2>/dev/null | grep -q '^install ok installed' && continue
        printf '%s ' "$name"
    done
}

install_packages() {
    command -v dpkg-query >/dev/null || return 0
    local missing
    missing="$(missing_packages "$@")"
    [ -z "$missing" ] && return 0
    local run=""
    if [ "$(id -u)" != 0 ]; then
        if command -v sudo >/dev/null && sudo -n true 2>/dev/null; then
            run="sudo"
        else
            echo "Some system packages are missing and may not be installed from here. Run:" >&2
            echo "    sudo apt-get install -y $missing" >&2
            echo "and start this again." >&2
            return 1
        fi
    fi
    echo "Installing system packages: $missing"
    $run env DEBIAN_FRONTEND=noninteractive apt-get update -qq || true
    # shellcheck disable=SC2086
    $run env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq $missing >/dev/null
}

find_python() {
    local name
    for name in python3.11 python3.12 python3.13 python3; do
        if command -v "$name" >/dev/null && "$name" -c 'import sys; raise SystemExit(not (3, 11) <= sys.version_info[:2] < (3, 14))' 2>/dev/null; then
            echo "$name"
            return 0
        fi
    done
    echo "Python 3.11, 3.12 or 3.13 is needed. Run: sudo apt-get install -y python3 python3-venv" >&2
    return 1
}

# The newest Python that is supported and not the one in .venv; nothing if this machine has no other.
find_newest_python() {
    local name own
    own="$(.venv/bin/python -c 'import sys; print(sys.version_info[1])')"
    for name in python3.13 "${PYENV_ROOT:-$HOME/.pyenv}"/versions/3.13.*/bin/python \
        python3.12 "${PYENV_ROOT:-$HOME/.pyenv}"/versions/3.12.*/bin/python; do
        if "$name" -c "import sys, venv, ensurepip; raise SystemExit(sys.version_info[1] <= $own)" 2>/dev/null; then
            echo "$name"
            return 0
        fi
    done
}

# make_environment FOLDER EXTRAS [PYTHON]: a virtual environment with the project and those extras.
make_environment() {
    local folder="$1" extras="$2" python="${3:-}" stamp
    stamp="$folder/.installed"
    if [ ! -x "$folder/bin/python" ]; then
        [ -n "$python" ] || python="$(find_python)" || return 1
        if ! "$python" -c 'import ensurepip, venv' 2>/dev/null; then
            install_packages python3-venv || return 1
        fi
        "$python" -m venv "$folder"
    fi
    local want
    want="$(cksum < pyproject.toml) $extras"
    if [ "$(cat "$stamp" 2>/dev/null)" != "$want" ]; then
        echo "Installing Python packages into $folder …"
        "$folder/bin/python" -m pip install --quiet --disable-pip-version-check -e ".$extras"
        printf '%s' "$want" > "$stamp"
    fi
}

ensure_environment() {
    # shellcheck disable=SC2086
    install_packages $SYSTEM_WINDOW || return 1
    make_environment .venv "${1:-[window]}"
}
