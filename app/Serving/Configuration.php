<?php

declare(strict_types=1);

namespace App\Serving;

use App\Http\Refusals;
use App\Http\SecurityHeaders;
use RuntimeException;

/**
 * Writes what nginx, PHP-FPM and supervisor need for one data folder, from the templates in serving/. All they write is in that folder.
 */
final class Configuration
{
    /** Seconds that a question, and long work in a request, may take. */
    private const QUICK = 130;

    private const LONG = 660;

    /** Bytes of any body that is not a file: the longest recipe, or list of faces, with room to spare. */
    private const BODY = 2_500_000;

    /** Bytes: the system's limit for the address of a socket is 107. */
    private const LONGEST_SOCKET = 90;

    /**
     * @param  string  $host  an address of this machine's own
     * @param  list<string>  $php  switches of PHP
     */
    public function write(string $host, int $port, array $php): void
    {
        $run = storage_path('run');
        foreach ([storage_path(), base_path()] as $path) {
            if (preg_match('/["\\\\$;%*?\[\]{}\x00-\x1f]/', $path) === 1) {
                throw new RuntimeException("The path $path holds a character that the web server's configuration cannot (one of \" \\ \$ ; % * ? [ ] { }); choose another folder.");
            }
        }
        foreach ([$run, "$run/fastcgi", "$run/proxy", "$run/uwsgi", "$run/scgi", storage_path('spool'), storage_path('downloads'), storage_path('logs')] as $folder) {
            if (! is_dir($folder) && ! @mkdir($folder, 0700, true)) {
                throw new RuntimeException("The folder $folder cannot be made; check that the data folder can be written.");
            }
        }
        $isRoot = function_exists('posix_geteuid') && posix_geteuid() === 0;
        $sockets = strlen($run) <= self::LONGEST_SOCKET ? $run : $this->shortFolder();
        $headers = '';
        foreach (SecurityHeaders::all() as $name => $value) {
            $headers .= "add_header $name \"$value\" always;\n            ";
        }
        $values = [
            'run' => $run, 'logs' => storage_path('logs'), 'spool' => storage_path('spool'), 'geometry' => storage_path('geometry'), 'answers' => storage_path('answers'), 'public' => public_path(), 'sockets' => $sockets,
            'listen' => "$host:$port", 'names' => trim(($host === '127.0.0.1' ? '' : "$host ").implode(' ', array_filter((array) config('isotome.hosts'), static fn (mixed $name): bool => is_string($name) && preg_match('/^[\w.-]+$/', $name) === 1))),

            'body' => (string) self::BODY, 'upload' => (string) config('isotome.largest_upload'), 'headers' => trim($headers),
            'quick' => (string) self::QUICK, 'long' => (string) self::LONG, 'quick_children' => (string) (int) config('isotome.web_workers'), 'long_children' => '3',
            'too_large' => self::quoted(Refusals::tooLarge()), 'too_long' => self::quoted('The request is longer than Isotome takes; pick fewer pieces.'),
            'too_slow' => self::quoted('The request did not arrive in time; try again.'), 'again' => self::quoted('A part of Isotome is being started again, or did not answer in time; try again in a moment.'),
            'full' => self::quoted('The file could not be stored: the disk that holds Isotome\'s data is full, or cannot be written; remove projects or free space, then bring it in again.'),
            'foreign_host' => self::quoted('Isotome does not answer under this name; open it as http://127.0.0.1 or set ISOTOME_HOSTS.'),
            'foreign_page' => self::quoted('This request came from another page and was not carried out; use Isotome\'s own page.'),
        ];
        $user = $isRoot ? 'root' : '';
        $this->fill('nginx.conf', [...$values, 'user' => $user === '' ? '' : "user $user;"]);
        $this->fill('php.conf', $values);
        $this->fill('fpm.conf', [...$values, 'user' => $user === '' ? '' : "user = $user\ngroup = $user"]);
        $this->fill('supervisor.conf', [...$values, 'user' => $user === '' ? '' : "user = $user", 'programs' => $this->programs($php, $isRoot)]);
    }

    /** @param  list<string>  $php */
    private function programs(array $php, bool $isRoot): string
    {
        $run = storage_path('run');
        $web = ['-d', 'post_max_size='.(self::BODY + 1000), '-d', 'file_uploads=0', '-d', 'display_errors=0', '-d', 'expose_php=0', '-d', 'cgi.fix_pathinfo=0'];
        $artisan = ['php', ...$php, base_path('artisan')];
        $programs = [
            'php' => ['php-fpm8.2', ...($isRoot ? ['-R'] : []), '-F', '-y', "$run/fpm.conf", ...$php, ...$web],
            'nginx' => ['nginx', '-e', storage_path('logs/nginx.log'), '-p', $run, '-c', "$run/nginx.conf"],
            // It computes nothing: compiling the framework for it would take longer than all it does.
            'keeper' => ['php', '-d', 'opcache.enable_cli=0', base_path('artisan'), 'isotome:keep'],
        ];
        for ($n = 1; $n <= (int) config('isotome.workers'); $n++) {
            $programs["worker$n"] = [...$artisan, 'isotome:work'];
        }
        for ($n = 1; $n <= (int) config('isotome.answer_workers'); $n++) {
            $programs["answerer$n"] = [...$artisan, 'isotome:work', 'questions'];
        }
        $text = '';
        foreach ($programs as $name => $command) {
            $quoted = implode(' ', array_map(static fn (string $word): string => '"'.str_replace(['\\', '"', '%'], ['\\\\', '\\"', '%%'], $word).'"', ['setpriv', '--pdeathsig', 'TERM', 'bash', base_path('bin/part'), $run, $name, ...$command]));
            $text .= "[program:$name]\ncommand = $quoted\ndirectory = ".str_replace('%', '%%', base_path())."\nautorestart = true\nstartsecs = 0\nstopsignal = TERM\nstopwaitsecs = 40\n"
                .'stdout_logfile = '.str_replace('%', '%%', storage_path("logs/$name.out.log"))."\nredirect_stderr = true\nstdout_logfile_maxbytes = 1MB\nstdout_logfile_backups = 1\n\n";
        }

        return $text;
    }

    /** @param  array<string, string>  $values */
    private function fill(string $template, array $values): void
    {
        $text = (string) file_get_contents(base_path("serving/$template"));
        foreach ($values as $name => $value) {
            $text = str_replace('{{'.$name.'}}', $value, $text);
        }
        if (file_put_contents(storage_path("run/$template"), $text) !== strlen($text)) {
            throw new RuntimeException("The file $template could not be written to the data folder; check that its disk has room.");
        }
    }

    private function shortFolder(): string
    {
        $folder = sys_get_temp_dir().'/isotome-'.substr(hash('sha256', storage_path()), 0, 16);
        if ((! is_dir($folder) && ! @mkdir($folder, 0700)) || is_link($folder) || fileowner($folder) !== posix_geteuid()) {
            throw new RuntimeException("The folder $folder cannot be made or is somebody else's; use a data folder with a shorter path.");
        }

        return $folder;
    }

    /** For a text in single quotes within JSON. */
    private static function quoted(string $sentence): string
    {
        return str_replace(["'", '$'], ['\\u0027', '\\u0024'], trim((string) json_encode($sentence, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE), '"'));
    }
}
