<?php

declare(strict_types=1);

namespace Tests\Core;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;

/** A registry that breaks off now and then does not break bin/up and bin/test. */
final class InstallingTest extends TestCase
{
    use Folder;

    /** @return array<string, array{int, int, int}> failures before it works, exit code, tries */
    public static function failures(): array
    {
        return ['none' => [0, 0, 1], 'two' => [2, 0, 3], 'five' => [5, 0, 6], 'for good' => [99, 1, 6]];
    }

    #[DataProvider('failures')]
    public function test_what_the_network_cut_short_is_tried_again(int $failures, int $exit, int $tries): void
    {
        $log = $this->path('tries');
        // A composer that breaks off as often as told.
        $composer = $this->file('composer', "#!/bin/sh\necho \"\$1\" >>'$log'\n[ \$(wc -l <'$log') -gt $failures ]\n");
        chmod($composer, 0755);
        $library = dirname(__DIR__, 2).'/bin/lib.sh';
        $script = "root=. && . '$library' && PATH='".dirname($composer)."':\$PATH ISOTOME_PAUSE=0 patiently php_packages";
        exec('bash -c '.escapeshellarg($script).' 2>'.escapeshellarg($this->path('said')), $out, $code);
        self::assertSame($exit, $code);
        self::assertSame(array_fill(0, $tries, 'install'), file($log, FILE_IGNORE_NEW_LINES));
        self::assertSame(min($failures, 5), substr_count((string) file_get_contents($this->path('said')), 'once more'));
    }
}
