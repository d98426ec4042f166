<?php

declare(strict_types=1);

namespace App\Disk;

/** Files that the web server has received and somebody's request, or a kill, has left: in the folders for what is on its way. */
final class Spool
{
    /** Seconds after which a file belongs to nobody: no body is longer on its way, no answer longer worked out. */
    private const AGES = ['spool' => 3600, 'downloads' => 21_600];

    public function sweep(): void
    {
        foreach (self::AGES as $folder => $age) {
            foreach (glob(storage_path("$folder/*")) ?: [] as $path) {
                if ((int) @filemtime($path) < time() - $age) {
                    $this->remove($path);
                }
            }
        }
    }

    private function remove(string $path): void
    {
        if (is_dir($path) && ! is_link($path)) {
            foreach (glob("$path/*") ?: [] as $inner) {
                $this->remove($inner);
            }
            @rmdir($path);
        } else {
            @unlink($path);
        }
    }
}
