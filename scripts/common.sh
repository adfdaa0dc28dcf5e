# Shared by the scripts. Sourced from the project's root.

# Installs the Debian packages of the list that are not there yet.
install_packages() {
    local missing=() p
    while read -r p; do
        dpkg-query -W -f='${Status}' "$p" 2>/dev/null | grep -q '^install ok installed' || missing+=("$p")
    done < <(grep -v '^#' packaging/debian-packages.txt)
    [[ ${#missing[@]} -eq 0 ]] && return
    echo "Installing: ${missing[*]}"
    local root=()
    [[ $EUID -eq 0 ]] || root=(sudo)
    "${root[@]}" apt-get update -qq
    "${root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
}

build_release() {
    cmake --preset release >/dev/null
    cmake --build --preset release
}

# Runs a command on the present display, or on a virtual one when there is none.
with_display() {
    export XDG_RUNTIME_DIR="${XDG_RUNTIME_DIR:-$(mktemp -d)}"
    if [[ -n "${DISPLAY:-}${WAYLAND_DISPLAY:-}" ]]; then
        "$@"
    else
        echo "No display here: starting a virtual one (Xvfb, 1280x800)."
        xvfb-run -a -s "-screen 0 1280x800x24" "$@"
    fi
}
