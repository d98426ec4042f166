# What bin/up and bin/test share: installing, building, and PHP's switches. Sourced, with $root set.

# Meshes are long lists: with memory in pages of 2 MB instead of 4 KB a cut takes a fifth less time. Systems that have no such pages ignore it.
export USE_ZEND_ALLOC_HUGE_PAGES=1
php_flags=(
    -d memory_limit="${ISOTOME_MEMORY:-6G}"
    -d opcache.enable=1 -d opcache.enable_cli=1
    # PHP 8.2's JIT computes wrong results where it keeps values in registers beyond a basic block (the 2 in 1205, which is called
    # "function", and in "tracing"); 1105 does not, and is as fast. tests/Core/JitTest.php has an example.
    -d opcache.jit=1105 -d opcache.jit_buffer_size=128M -d opcache.file_update_protection=0
    -d max_execution_time=0
)

# Tries again what a registry or the network cut short, with longer and longer pauses; what was fetched already is kept by the tools.
patiently() {
    local pause
    for pause in 5 10 20 40 60; do
        "$@" && return 0
        echo "$1 did not finish; once more in $pause s." >&2
        sleep "${ISOTOME_PAUSE:-$pause}"
    done
    "$@"
}

server= plain=()
packages=()
need() { php -m | grep -qix "$1" || packages+=("$2"); }

system_packages() {
    packages=()
    need pdo_sqlite php8.2-sqlite3
    need zip php8.2-zip
    need xml php8.2-xml
    need mbstring php8.2-mbstring
    # Whole numbers of any size, for what rounding cannot decide.
    need gmp php8.2-gmp
    # What serves; without it the plain server does, for development.
    local tool
    for tool in nginx:nginx-light php-fpm8.2:php8.2-fpm supervisord:supervisor; do
        [ -n "${ISOTOME_PLAIN:-}" ] || PATH="$PATH:/usr/sbin" command -v "${tool%%:*}" >/dev/null || packages+=("${tool##*:}")
    done
    # For the tests: a browser, and an independent reader of mesh files.
    [ "${1:-}" = tests ] && ! command -v chromium >/dev/null && packages+=(chromium)
    [ "${1:-}" = tests ] && ! command -v assimp >/dev/null && packages+=(assimp-utils)
    # Models that many programs have written, sound ones and damaged ones.
    [ "${1:-}" = tests ] && [ ! -d /usr/share/assimp/models ] && packages+=(assimp-testmodels)
    # Voronoi cells by another program, for the references.
    [ "${1:-}" = tests ] && ! command -v voro++ >/dev/null && packages+=(voro++)
    [ ${#packages[@]} -eq 0 ] && return 0
    if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
        echo "Installing ${packages[*]}"
        patiently debian_packages || return 1
    elif php -m | grep -qix pdo_sqlite && php -m | grep -qix zip && php -m | grep -qix gmp && [ "${1:-}" != tests ]; then
        echo "Missing: ${packages[*]}; install them as root (apt-get install ${packages[*]}) for serving as it is meant."
    else
        echo "Missing: ${packages[*]}. Install them (apt-get install ${packages[*]}) and start again." >&2
        return 1
    fi
}

# Isotome starts its own nginx, PHP-FPM and supervisor; Debian's packages would each start one for the whole machine, now and at every boot.
debian_packages() {
    local policy=/usr/sbin/policy-rc.d ours= code service
    [ -e "$policy" ] || { printf '#!/bin/sh\nexit 101\n' >"$policy" && chmod 755 "$policy" && ours=1; }
    { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq "${packages[@]}"; } >/dev/null
    code=$?
    [ -z "$ours" ] || rm -f "$policy"
    for service in nginx-light:nginx php8.2-fpm:php8.2-fpm supervisor:supervisor; do
        case " ${packages[*]} " in *" ${service%%:*} "*) systemctl disable --quiet "${service##*:}" 2>/dev/null ;; esac
    done
    return "$code"
}

# Runs a command only when the files it depends on have changed since it last succeeded here.
when_changed() {
    local stamp="$root/.phpunit.cache/stamp-$1" now
    shift
    local files="$1"
    shift
    now=$(cd "$root" && eval "cat $files" 2>/dev/null | sha256sum)
    [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$now" ] && return 0
    mkdir -p "$root/.phpunit.cache"
    (cd "$root" && "$@") || return 1
    echo "$now" >"$stamp"
}

# The lock file may have been written for another registry's choice of packages; then the ranges of package.json decide.
npm_packages() {
    npm ci --no-audit --no-fund --silent 2>/dev/null || npm install --no-audit --no-fund --silent --no-save
}

# Few connections at a time: a registry behind a proxy may refuse a dozen.
php_packages() {
    COMPOSER_ALLOW_SUPERUSER=1 COMPOSER_MAX_PARALLEL_HTTP=${COMPOSER_MAX_PARALLEL_HTTP:-6} composer install --no-interaction --no-progress --quiet
}

# The page, and beside each file of it the same compressed.
build_page() {
    npm run --silent build -- --logLevel warn && find public/build -name '*.js' -o -name '*.css' -o -name '*.svg' | xargs gzip -9kf
}

# Two that start in one clone at once do not install and build into each other's files.
dependencies() {
    mkdir -p "$root/.phpunit.cache"
    (command -v flock >/dev/null && flock 9; fresh_dependencies) 9>"$root/.phpunit.cache/installing"
}

fresh_dependencies() {
    [ -d "$root/vendor/bin" ] || rm -f "$root/.phpunit.cache/stamp-composer"
    [ -d "$root/node_modules/.bin" ] || rm -f "$root/.phpunit.cache/stamp-npm"
    [ -f "$root/public/build/manifest.json" ] || rm -f "$root/.phpunit.cache/stamp-build"
    when_changed composer composer.json patiently php_packages || return 1
    when_changed npm package-lock.json patiently npm_packages || return 1
    when_changed build '$(git ls-files -co --exclude-standard resources vite.config.ts package-lock.json tsconfig.json 2>/dev/null || find resources vite.config.ts package-lock.json tsconfig.json -type f)' build_page || return 1
}

# Is there what serves: nginx, PHP-FPM and a supervisor, and the tools that see to their end?
can_serve() {
    local tool
    for tool in nginx php-fpm8.2 supervisord setpriv setsid flock; do
        PATH="$PATH:/usr/sbin" command -v "$tool" >/dev/null || return 1
    done
    [ -z "${ISOTOME_PLAIN:-}" ]
}

# Migrates and writes the configuration; then starts everything under a supervisor, or the plain server where that cannot be had.
serve() { # data host port
    export ISOTOME_DATA="$1" APP_URL="http://$2:$3" PATH="$PATH:/usr/sbin"
    umask 077
    mkdir -p "$1/storage/framework/views" "$1/storage/framework/cache" "$1/storage/logs" "$1/storage/uploads" "$1/storage/downloads" "$1/storage/spool" "$1/storage/run" || return 1
    chmod 700 "$1"
    # Of a version that was less careful.
    [ "$(stat -c %a "$1/storage")" = 700 ] || chmod -R go-rwx "$1"
    # Compiling the program takes longer than preparing does, but for the meshes of the demo at the first start.
    local compiled=("${php_flags[@]}")
    if [ -s "$1/isotome.sqlite" ]; then compiled=(-d opcache.enable_cli=0 -d memory_limit=2G); else touch "$1/isotome.sqlite"; fi
    # Routes and settings worked out once; in the data folder, so that nothing else that runs here sees them.
    export APP_CONFIG_CACHE="$1/storage/framework/config.php" APP_ROUTES_CACHE="$1/storage/framework/routes.php"
    rm -f "$APP_CONFIG_CACHE" "$APP_ROUTES_CACHE"
    local demo=() flag flags=()
    [ "${ISOTOME_DEMO:-1}" = 1 ] && demo=(--demo)
    for flag in "${php_flags[@]}"; do flags+=("--php=$flag"); done
    php "${compiled[@]}" "$root/artisan" isotome:prepare "${demo[@]}" "${flags[@]}" -- "$2" "$3" || return 1
    if can_serve; then
        start_supervisor "$1"
    else
        echo "nginx, PHP-FPM or supervisor is missing: serving with PHP's own web server, which is for development only." >&2
        serve_plainly "$@"
    fi
    for _ in $(seq 150); do
        kill -0 "$server" 2>/dev/null || break
        answers "$2" "$3" && return 0
        sleep 0.1
    done
    echo "The web server did not start on $2:$3: $(tail -qn 1 "$1"/storage/logs/{nginx,fpm,supervisor,web}.log 2>/dev/null | tail -n 3)" >&2
    return 1
}

# Ends when whoever called this ends, however that ends: the system tells it.
start_supervisor() { # data
    setsid setpriv --pdeathsig TERM supervisord -n -c "$1/storage/run/supervisor.conf" >/dev/null 2>&1 &
    server=$!
}

serve_plainly() { # data host port
    local limit="${ISOTOME_LARGEST_UPLOAD:-268435456}"
    PHP_CLI_SERVER_WORKERS=${ISOTOME_WEB_WORKERS:-4} setsid setpriv --pdeathsig TERM php "${php_flags[@]}" -d variables_order=EGPCS -d expose_php=0 -d post_max_size="$((limit + 1048576))" -d display_errors=0 \
        -S "$2:$3" -t "$root/public" "$root/bin/router.php" >"$1/storage/logs/web.log" 2>&1 &
    server=$!
    local work
    for work in work keep 'work questions'; do
        # The last has two words.
        # shellcheck disable=SC2086
        setsid setpriv --pdeathsig TERM bash "$root/bin/part" "$1/storage/run" "plain-${work// /-}" php "${php_flags[@]}" "$root/artisan" isotome:$work >>"$1/storage/logs/${work%% *}.log" 2>&1 &
        plain+=($!)
    done
}

# Does the page come?
answers() { # host port
    local line
    (exec 3<>"/dev/tcp/$1/$2" && printf 'GET / HTTP/1.0\r\nHost: %s:%s\r\n\r\n' "$1" "$2" >&3 && read -r -t 5 line <&3 && [[ $line == *" 200 "* ]]) 2>/dev/null
}

stop_serving() {
    local process
    for process in "${server:-}" "${plain[@]}"; do
        # The plain server's workers outlive it, so it goes with its group.
        [ -n "$process" ] && { [ ${#plain[@]} -gt 0 ] && kill -TERM -- "-$process" 2>/dev/null || kill -TERM "$process" 2>/dev/null; }
    done
    wait 2>/dev/null
}
