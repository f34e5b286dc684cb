# Sourced by bin/start and bin/test: brings what is missing onto the machine and into the project.
# Everything it does is said in one line first.

root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$root"
export PHP_INI_SCAN_DIR="${PHP_INI_SCAN_DIR:-}:$root/php"
export COMPOSER_ALLOW_SUPERUSER=1

say() { printf '%s\n' "$*"; }
stop() { printf 'Yard Break cannot go on: %s\n' "$*" >&2; exit 1; }

as_root() {
    if [ "$(id -u)" = 0 ]; then "$@"
    elif command -v sudo >/dev/null; then sudo "$@"
    else stop "'$*' needs root. Run it yourself, or install sudo, then start again."
    fi
}

# need_debian PACKAGE... : installs Debian packages
need_debian() {
    say "Installing from Debian: $*"
    local log="$root/.run/debian.log"
    mkdir -p "$root/.run"
    if ! { as_root apt-get update -q && DEBIAN_FRONTEND=noninteractive as_root apt-get install -yq --no-install-recommends "$@"; } >"$log" 2>&1; then
        tail -5 "$log" >&2
        stop "these Debian packages could not be installed: $*. The whole log is in .run/debian.log."
    fi
}

need_php() {
    command -v php >/dev/null || stop "PHP 8.2 is missing. Install it with: apt-get install php-cli"
    command -v composer >/dev/null || stop "Composer is missing. Install it with: apt-get install composer"
    command -v node >/dev/null && command -v npm >/dev/null || stop "Node.js 20 with npm is missing."
    local have missing=() pair
    have=$(PHP_INI_SCAN_DIR= php -m; php -m)
    for pair in pdo_sqlite:php-sqlite3 zip:php-zip mbstring:php-mbstring dom:php-xml curl:php-curl gd:php-gd; do
        grep -qix "${pair%%:*}" <<<"$have" || missing+=("${pair##*:}")
    done
    command -v unzip >/dev/null || missing+=(unzip)
    [ ${#missing[@]} -eq 0 ] || need_debian "${missing[@]}"
}

# fresh STAMP FILE... : whether the stamp was set since the files last changed
fresh() {
    local stamp="$root/.run/$1"; shift
    [ -e "$stamp" ] || return 1
    local f
    for f in "$@"; do [ ! "$f" -nt "$stamp" ] || return 1; done
}

done_with() { mkdir -p "$root/.run" && touch "$root/.run/$1"; }

install_php() {
    if [ -e vendor/autoload.php ] && fresh composer composer.json core/composer.json packages/framework-gaps/composer.json; then return; fi
    say "Installing PHP packages"
    composer install --no-interaction --no-progress --quiet || stop "the PHP packages could not be installed; the lines above say why."
    done_with composer
}

install_node() {
    if [ -d node_modules ] && fresh npm package.json package-lock.json; then return; fi
    say "Installing browser packages"
    npm install --no-audit --no-fund --loglevel=error || stop "the browser packages could not be installed; the lines above say why."
    done_with npm
}

# Film files are read by ffmpeg; without it numbered pictures still are, and the page says so.
install_film() {
    command -v ffmpeg >/dev/null && return
    (need_debian ffmpeg) || say "ffmpeg could not be installed: plates can be brought in as numbered pictures only."
}

# The front is Debian's nginx, unpacked into the project: installed, it would run as a service of the machine.
install_front() {
    front=$(command -v nginx || echo "$root/.run/debian/usr/sbin/nginx")
    if [ -x "$front" ]; then return; fi
    say "Fetching from Debian: nginx"
    mkdir -p .run/debian
    (
        cd .run/debian
        apt-get download -q nginx || { as_root apt-get update -q && apt-get download -q nginx; } && dpkg -x nginx_*.deb . && rm nginx_*.deb
    ) >.run/debian.log 2>&1 || { tail -5 .run/debian.log >&2; stop "Debian's nginx could not be fetched; the whole log is in .run/debian.log."; }
}

# write_front ADDRESS:PORT BACK FOLDER : the front's settings, in FOLDER/front.conf
write_front() {
    mkdir -p "$3/front"
    local user=
    [ "$(id -u)" != 0 ] || user='user root;'
    sed -e "s|{user}|$user|; s|{address}|$1|; s|{back}|$2|; s|{folder}|$3|" php/front.conf >"$3/front.conf"
}

build_page() {
    if [ -e public/build/manifest.json ] && [ -z "$(find resources/ts resources/css core/resources vite.config.ts package.json -newer public/build/manifest.json -print -quit)" ]; then return; fi
    say "Building the page"
    npm run --silent build || stop "the page could not be built; the lines above say why."
}

prepare_storage() {
    mkdir -p storage/app storage/logs storage/framework/cache/data storage/framework/views storage/framework/sessions bootstrap/cache 2>/dev/null \
        && [ -w storage ] && [ -w storage/app ] || stop "the folder $root/storage cannot be written to. Give yourself the right to, then start again."
}

# keep LOG MOST COMMAND... : runs a command in a group of its own, and again when it ends or is killed; with MOST, until it
# has ended at once so many times one after the other
keep() {
    local log=$root/.run/$1.log most=$2 pid='' begun short=0
    shift 2
    trap 'end_group "$pid"; exit 0' TERM INT
    trap - EXIT
    while :; do
        begun=$SECONDS
        setsid "$@" >>"$log" 2>&1 &
        pid=$!
        : >"$root/.run/groups/$pid"
        wait "$pid"
        # What it has started may live on, and holds its port or its locks.
        kill -KILL -- "-$pid" 2>/dev/null
        rm -f "$root/.run/groups/$pid"
        if [ $((SECONDS - begun)) -ge 2 ]; then short=0; else short=$((short + 1)); fi
        if [ "$most" -gt 0 ] && [ "$short" -ge "$most" ]; then exit 1; fi
        sleep 0.5
    done
}

# end_group PID : ends a group that `keep` has started; what does not go by itself within two seconds is killed
end_group() {
    local i
    [ -n "$1" ] || return 0
    kill -TERM -- "-$1" 2>/dev/null
    for ((i = 0; i < 20; i++)); do kill -0 -- "-$1" 2>/dev/null || break; sleep 0.1; done
    kill -KILL -- "-$1" 2>/dev/null
    rm -f "$root/.run/groups/$1"
}

# ours PID : whether a process works in this folder
ours() {
    case $(readlink "/proc/$1/cwd" 2>/dev/null) in "$root" | "$root"/* | "$(pwd -P)" | "$(pwd -P)"/*) return 0 ;; *) return 1 ;; esac
}

# end_groups : ends every group that is left, by whatever end its keeper came to
end_groups() {
    local file pid member
    for file in "$root"/.run/groups/*; do
        [ -e "$file" ] || continue
        pid=${file##*/}
        for member in $(pgrep -g "$pid"); do
            if ours "$member"; then kill -KILL -- "-$pid" 2>/dev/null; break; fi
        done
        rm -f "$file"
    done
}
