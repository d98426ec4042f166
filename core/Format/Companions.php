<?php

declare(strict_types=1);

namespace Isotome\Format;

use ZipArchive;

/**
 * Files that came with a mesh file: a library of materials, pictures, data. The mesh file names them, so a name may be anything.
 *
 * Guarantees: nothing is read but files in the folder of the mesh file and below it, or in the archive that it came in; of any other path only the
 * name of the file counts, and it is looked for beside the mesh file.
 */
final class Companions
{
    /**
     * @param  string|null  $folder  on the disk, or within the archive
     * @param  array<string, int>  $entries  of the archive: places by name, and below each name in small letters
     */
    private function __construct(private readonly ?string $folder, private readonly ?ZipArchive $zip = null, private readonly array $entries = [])
    {
    }

    /** For a file that came alone. */
    public static function none(): self
    {
        return new self(null);
    }

    /** For a file of the person's own disk. */
    public static function beside(string $path): self
    {
        $folder = realpath(dirname($path));

        return new self($folder === false ? null : $folder);
    }

    /**
     * @param  string  $folder  of the mesh file in the archive, with a slash at its end; empty for the top
     * @param  array<string, int>  $entries  places of all files by their names in it
     */
    public static function within(ZipArchive $zip, string $folder, array $entries): self
    {
        // Names of files are often written in other cases than the files have.
        foreach ($entries as $name => $n) {
            $entries[mb_strtolower((string) $name)] ??= $n;
        }

        return new self($folder, $zip, $entries);
    }

    /**
     * @param  string  $name  as the mesh file writes it
     * @param  int  $most  bytes
     * @return string|null null when no such file came, or it is larger
     */
    public function bytes(string $name, int $most): ?string
    {
        foreach (self::places($name) as $place) {
            $bytes = $this->zip === null ? $this->onDisk($place, $most) : $this->packed($place, $most);
            if ($bytes !== null) {
                return $bytes;
            }
        }

        return null;
    }

    /** @return list<string> where to look: the path as it is written when it leads nowhere else, and the file's name alone */
    private static function places(string $name): array
    {
        $parts = array_values(array_filter(explode('/', str_replace('\\', '/', $name)), static fn (string $part): bool => $part !== '' && $part !== '.'));
        if ($parts === [] || str_contains($name, "\0")) {
            return [];
        }
        $last = $parts[count($parts) - 1];
        $leadsAway = in_array('..', $parts, true) || preg_match('~^([a-z]:|/|\\\\)~i', trim($name)) === 1;
        if ($last === '..') {
            return [];
        }

        return $leadsAway ? [$last] : array_values(array_unique([implode('/', $parts), $last]));
    }

    private function onDisk(string $place, int $most): ?string
    {
        $path = $this->folder === null ? false : realpath($this->folder.'/'.$place);
        // A link may lead anywhere.
        if ($path === false || ! str_starts_with($path, rtrim((string) $this->folder, '/').'/') || ! is_file($path)) {
            return null;
        }
        $size = (int) filesize($path);
        // Never more than there is: PHP sets aside as much as it is asked for.
        $bytes = $size > $most ? false : @file_get_contents($path, false, null, 0, $size);

        return $bytes === false ? null : $bytes;
    }

    private function packed(string $place, int $most): ?string
    {
        $wanted = $this->folder.$place;
        $entry = $this->entries[$wanted] ?? $this->entries[mb_strtolower($wanted)] ?? null;

        return $entry === null || $this->zip === null ? null : Archive::bytes($this->zip, $entry, $most);
    }
}
