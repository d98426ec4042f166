# What bin/up and bin/test share: installing, building, and PHP's switches. Sourced, with $root set.

php_flags=(
    -d memory_limit="${ISOTOME_MEMORY:-6G}"
    -d opcache.enable=1 -d opcache.enable_cli=1
    # The tracing JIT of PHP 8.2 computes wrong results on large meshes; the function JIT does not.
    -d opcache.jit=function -d opcache.jit_buffer_size=128M -d opcache.file_update_protection=0
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

packages=()
need() { php -m | grep -qix "$1" || packages+=("$2"); }

system_packages() {
    packages=()
    need pdo_sqlite php8.2-sqlite3
    need zip php8.2-zip
    need xml php8.2-xml
    need mbstring php8.2-mbstring
    # For the tests: a browser, and an independent reader of mesh files.
    [ "${1:-}" = tests ] && ! command -v chromium >/dev/null && packages+=(chromium)
    [ "${1:-}" = tests ] && ! command -v assimp >/dev/null && packages+=(assimp-utils)
    # Voronoi cells by another program, for the references.
    [ "${1:-}" = tests ] && ! command -v voro++ >/dev/null && packages+=(voro++)
    [ ${#packages[@]} -eq 0 ] && return 0
    if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
        echo "Installing ${packages[*]}"
        patiently debian_packages || return 1
    else
        echo "Missing: ${packages[*]}. Install them (apt-get install ${packages[*]}) and start again." >&2
        return 1
    fi
}

debian_packages() {
    { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq "${packages[@]}"; } >/dev/null
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

dependencies() {
    [ -d "$root/vendor/bin" ] || rm -f "$root/.phpunit.cache/stamp-composer"
    [ -d "$root/node_modules/.bin" ] || rm -f "$root/.phpunit.cache/stamp-npm"
    [ -f "$root/public/build/manifest.json" ] || rm -f "$root/.phpunit.cache/stamp-build"
    when_changed composer composer.json patiently php_packages || return 1
    when_changed npm package-lock.json patiently npm_packages || return 1
    when_changed build '$(git ls-files -co --exclude-standard resources vite.config.ts package-lock.json tsconfig.json 2>/dev/null || find resources vite.config.ts package-lock.json tsconfig.json -type f)' npm run --silent build -- --logLevel warn || return 1
}

# The web server and one queue worker, each in its own process group; ends with stop_serving.
serve() { # data host port
    export ISOTOME_DATA="$1" APP_URL="http://$2:$3"
    mkdir -p "$1/storage/framework/views" "$1/storage/framework/cache" "$1/storage/logs" "$1/storage/uploads" "$1/storage/downloads"
    touch "$1/isotome.sqlite"
    # Routes and settings worked out once; in the data folder, so that nothing else that runs here sees them.
    export APP_CONFIG_CACHE="$1/storage/framework/config.php" APP_ROUTES_CACHE="$1/storage/framework/routes.php"
    rm -f "$APP_CONFIG_CACHE" "$APP_ROUTES_CACHE"
    php "${php_flags[@]}" "$root/artisan" migrate --force --quiet || return 1
    php "${php_flags[@]}" "$root/artisan" config:cache --quiet && php "${php_flags[@]}" "$root/artisan" route:cache --quiet || return 1
    # Once, to its end: a demo project that a person removed does not come back.
    if [ ! -f "$1/storage/demo-made" ] && [ "${ISOTOME_DEMO:-1}" = 1 ]; then
        echo "Making the demo shelf"
        php "${php_flags[@]}" "$root/artisan" db:seed --force --quiet || return 1
        touch "$1/storage/demo-made"
    fi
    local limit="${ISOTOME_LARGEST_UPLOAD:-268435456}"
    PHP_CLI_SERVER_WORKERS=${ISOTOME_WEB_WORKERS:-4} setsid php "${php_flags[@]}" -d variables_order=EGPCS -d expose_php=0 \
        -d upload_max_filesize="$limit" -d post_max_size="$((limit + 1048576))" -d upload_tmp_dir="$1/storage/uploads" -d display_errors=0 \
        -S "$2:$3" -t "$root/public" "$root/bin/router.php" >"$1/storage/logs/web.log" 2>&1 &
    web=$!
    setsid bash -c 'while :; do php "$@" artisan isotome:take-up && php "$@" artisan queue:work --sleep=0.2 --timeout=3600 --max-jobs=200 --quiet; sleep 0.5; done' \
        worker "${php_flags[@]}" >"$1/storage/logs/worker.log" 2>&1 &
    worker=$!
    for _ in $(seq 100); do
        kill -0 "$web" 2>/dev/null || break
        (exec 3<>"/dev/tcp/$2/$3") 2>/dev/null && return 0
        sleep 0.1
    done
    echo "The web server did not start on $2:$3: $(tail -n 1 "$1/storage/logs/web.log")" >&2
    return 1
}

stop_serving() {
    for group in "${web:-}" "${worker:-}"; do
        [ -n "$group" ] && kill -TERM -- "-$group" 2>/dev/null
    done
    wait 2>/dev/null
}
