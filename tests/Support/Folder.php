<?php

declare(strict_types=1);

namespace Tests\Support;

use PHPUnit\Framework\Attributes\After;

/** A folder of its own for a test, gone after it. */
trait Folder
{
    private ?string $folder = null;

    protected function path(string $name): string
    {
        if ($this->folder === null) {
            $this->folder = sys_get_temp_dir().'/isotome-test-'.bin2hex(random_bytes(8));
            mkdir($this->folder, 0700);
        }

        return "$this->folder/$name";
    }

    protected function file(string $name, string $bytes): string
    {
        file_put_contents($this->path($name), $bytes);

        return $this->path($name);
    }

    #[After]
    protected function removeFolder(): void
    {
        if ($this->folder !== null) {
            exec('rm -rf '.escapeshellarg($this->folder));
        }
    }
}
