<?php

declare(strict_types=1);

namespace Cli;

use Closure;
use RuntimeException;

/** Writes a folder of results whole: everything is written beside it first, so that what fails leaves nothing in it. */
final class WholeFolder
{
    /**
     * @template T
     *
     * @param  Closure(string): T  $write  told where to write
     * @return T what it returned
     */
    public static function write(string $out, Closure $write): mixed
    {
        $out = rtrim($out, '/') === '' ? $out : rtrim($out, '/');
        $made = ! is_dir($out);
        $partial = "$out.partial-".getmypid();
        if (! @mkdir($partial, 0777, true)) {
            throw new RuntimeException("The folder $out cannot be made; check the folder above it.");
        }
        try {
            $done = $write($partial);
            if ($made) {
                if (! @rename($partial, $out)) {
                    throw new RuntimeException("The folder $out cannot be made; check the folder above it.");
                }

                return $done;
            }
            foreach (scandir($partial) ?: [] as $name) {
                if ($name !== '.' && $name !== '..' && ! @rename("$partial/$name", "$out/$name")) {
                    throw new RuntimeException("The folder $out cannot be written; check that it may be and has room.");
                }
            }

            return $done;
        } finally {
            foreach (is_dir($partial) ? glob("$partial/*") ?: [] : [] as $left) {
                @unlink($left);
            }
            @rmdir($partial);
        }
    }
}
