<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\UnreadableMesh;
use Isotome\Mesh\Together;
use ZipArchive;

/**
 * Reads a zip with a mesh file and what belongs to it: materials, pictures, data; or with several mesh files, each of which becomes a part.
 *
 * Guarantees: no path of the archive is used on the disk; what unpacks to far more than it should, archives within it and mesh files without end are refused.
 * Source: .ZIP File Format Specification (PKWARE), through PHP's ZipArchive.
 */
final class Bundle
{
    private const MOST_ENTRIES = 10_000;

    private const MOST_MESHES = 500;

    private function __construct(private readonly string $name, private readonly ZipArchive $zip)
    {
    }

    /** @throws UnreadableMesh */
    public static function read(string $path, Units $units = Units::Millimetres): ReadMesh
    {
        fclose(Files::open($path));
        $zip = new ZipArchive;
        if (@$zip->open($path, ZipArchive::RDONLY) !== true) {
            throw new UnreadableMesh('The file '.basename($path).' is no zip; check it, or bring in the mesh file by itself.');
        }
        try {
            return (new self(basename($path), $zip))->meshes($units);
        } finally {
            $zip->close();
        }
    }

    private function meshes(Units $units): ReadMesh
    {
        $entries = $this->entries();
        $meshes = array_filter($entries, static fn (string $name): bool => in_array(MeshFile::ending($name), [...MeshFile::FORMATS, 'gltf'], true), ARRAY_FILTER_USE_KEY);
        if ($meshes === []) {
            throw new UnreadableMesh("The zip {$this->name} holds no mesh file (".implode(', ', [...MeshFile::FORMATS, 'gltf']).'); put one in it.');
        }
        if (count($meshes) > self::MOST_MESHES) {
            throw new UnreadableMesh("The zip {$this->name} holds ".number_format(count($meshes)).' mesh files, more than '.self::MOST_MESHES.'; divide it into several.');
        }
        $all = [];
        foreach ($meshes as $name => $n) {
            $all[(string) $name] = $this->one((string) $name, $n, $units, $entries);
        }

        return count($all) === 1 ? reset($all) : self::together($all);
    }

    /** @return array<string, int> places by name, of files whose paths lead nowhere else */
    private function entries(): array
    {
        if ($this->zip->numFiles > self::MOST_ENTRIES) {
            throw new UnreadableMesh("The zip {$this->name} holds more than ".number_format(self::MOST_ENTRIES).' files; put only the mesh and what belongs to it in one.');
        }
        $entries = [];
        for ($n = 0; $n < $this->zip->numFiles; $n++) {
            $name = str_replace('\\', '/', (string) $this->zip->getNameIndex($n));
            $parts = explode('/', $name);
            // Folders, paths that lead away, and what systems put beside files for themselves.
            if (str_ends_with($name, '/') || $parts[0] === '' || in_array('..', $parts, true) || $parts[0] === '__MACOSX' || str_starts_with(end($parts), '.')) {
                continue;
            }
            $entries[$name] ??= $n;
        }

        return $entries;
    }

    /** @param  array<string, int>  $entries */
    private function one(string $name, int $n, Units $units, array $entries): ReadMesh
    {
        $folder = tempnam(sys_get_temp_dir(), 'isotome');
        if ($folder === false || ! unlink($folder) || ! mkdir($folder, 0700)) {
            throw new UnreadableMesh("There is no room to unpack {$this->name}; free some disk space.");
        }
        // Called as in the archive, for what is said of it; never by a path.
        $base = (string) preg_replace('/[^\w .()-]+/u', '-', mb_substr(mb_scrub(pathinfo($name, PATHINFO_FILENAME)), 0, 100));
        $path = $folder.'/'.($base === '' ? 'mesh' : $base).'.'.MeshFile::ending($name);
        $slash = strrpos($name, '/');
        try {
            match (Archive::unpack($this->zip, $n, $path)) {
                Archive::TOO_LARGE => throw new UnreadableMesh("The zip {$this->name} unpacks to far more than a mesh of its size does; it was not read, so check where it comes from."),
                Archive::DAMAGED => throw new UnreadableMesh("The zip {$this->name} cannot be unpacked to the end; make it again, without a password."),
                default => null,
            };

            return MeshFile::read($path, $units, null, Companions::within($this->zip, $slash === false ? '' : substr($name, 0, $slash + 1), $entries));
        } finally {
            @unlink($path);
            @rmdir($folder);
        }
    }

    /** @param  non-empty-array<string, ReadMesh>  $all  by name of the file */
    private static function together(array $all): ReadMesh
    {
        $parts = [];
        $collapsed = 0;
        $formats = $leftOut = [];
        foreach ($all as $name => $read) {
            $stem = pathinfo($name, PATHINFO_FILENAME);
            foreach ($read->parts === [] ? [$stem => $read->mesh] : $read->parts as $part => $mesh) {
                for ($free = (string) $part, $n = 2; isset($parts[$free]); $n++) {
                    $free = "$part $n";
                }
                $parts[$free] = $mesh;
            }
            $collapsed += $read->collapsed;
            $formats[$read->format] = true;
            array_push($leftOut, ...$read->leftOut);
        }

        return new ReadMesh(Together::dressed(array_values($parts)), $collapsed, implode(', ', array_keys($formats)), $parts, array_values(array_unique($leftOut)));
    }
}
