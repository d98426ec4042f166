<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\BadCommand;
use Isotome\Exception\UnreadableMesh;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;

/** One door to all formats, by a file's ending: stl, obj, ply, off, 3mf, glb; gltf and zip are read only. */
final class MeshFile
{
    public const FORMATS = ['stl', 'obj', 'ply', 'off', '3mf', 'glb'];

    /** What is read besides. */
    public const READ_ONLY = ['gltf', 'zip'];

    /** What of that which a mesh may carry the formats keep, as Skin::words() names it. */
    public const KEEPS = ['glb' => self::ALL, 'obj' => self::ALL, '3mf' => ['materials', 'pictures', 'texture coordinates', 'colours'], 'ply' => ['colours', 'normals'], 'off' => ['colours']];

    private const ALL = ['materials', 'pictures', 'texture coordinates', 'colours', 'normals'];

    /** @return list<string> what files of a format do not keep of a mesh */
    public static function losesOf(Mesh $mesh, string $format): array
    {
        $lost = array_values(array_diff($mesh->skin?->words() ?? [], self::KEEPS[$format] ?? []));
        if ($mesh->skin !== null && $format === '3mf') {
            array_push($lost, ...ThreeMfResources::losesOf($mesh->skin));
        }
        if ($mesh->skin !== null && $format === 'obj') {
            $sets = count(array_filter(array_keys($mesh->skin->layers), static fn (string $name): bool => str_starts_with($name, Skin::TEXTURE)));
            array_push($lost, ...($sets > 1 ? ['further texture coordinates'] : []), ...MtlWriter::losesOf($mesh->skin->looks));
        }

        return $lost;
    }

    /**
     * @param  Units  $units  for formats that carry no unit
     * @param  string|null  $as  the ending to go by, when the path has none
     * @param  Companions|null  $files  that came with it; none when null
     *
     * @throws UnreadableMesh
     */
    public static function read(string $path, Units $units = Units::Millimetres, ?string $as = null, ?Companions $files = null): ReadMesh
    {
        $read = match (self::readable($as ?? self::ending($path), basename($path))) {
            'stl' => StlReader::read($path, $units),
            'obj' => ObjReader::read($path, $units, $files),
            'ply' => PlyReader::read($path, $units),
            'off' => OffReader::read($path, $units),
            '3mf' => ThreeMfReader::read($path),
            'gltf' => GlbReader::readText($path, $files),
            'zip' => Bundle::read($path, $units),
            default => GlbReader::read($path, $files),
        };
        // PHP holds on to what the tables of a reader took, a fifth of the mesh, though what comes next cannot use it.
        gc_mem_caches();

        return $read;
    }

    public static function ending(string $path): string
    {
        return strtolower(pathinfo($path, PATHINFO_EXTENSION));
    }

    public static function readable(string $format, string $name): string
    {
        return in_array($format, self::READ_ONLY, true) ? $format : self::known($format, $name);
    }

    /** Does a file say in which unit its numbers are? Told by what was read of it. */
    public static function statesUnit(ReadMesh $read): bool
    {
        return array_diff(explode(', ', $read->format), ['3MF', 'GLB', 'glTF']) === [];
    }

    public static function known(string $format, string $name): string
    {
        if (! in_array($format, self::FORMATS, true)) {
            throw new BadCommand("The file $name is not named as one of the formats that are read and written (".implode(', ', self::FORMATS).'); convert or rename it.');
        }

        return $format;
    }

    /**
     * Writes one piece to one file.
     *
     * @param  float|null  $step  for GLB: see GlbWriter::step, when neighbouring pieces go to other files
     * @param  InsideLook|null  $inside  of inside faces, where the format holds materials
     * @return Mesh as the file holds it, in millimetres: empty when the piece is thinner than the file's numbers, and then no file is there
     */
    public static function write(Mesh $mesh, string $path, string $name = 'piece', string $colour = '#8f9a86', ?float $step = null, ?InsideLook $inside = null): Mesh
    {
        $format = self::known(self::ending($path), basename($path));
        if ($format === 'stl') {
            $held = Rounded::of($mesh);
            if (! $held->isEmpty()) {
                Files::write($path, StlWriter::chunks($held));
            }

            return $held;
        }
        if ($format === 'glb') {
            $step ??= GlbWriter::step([$mesh]);
            $held = GlbWriter::rounded($mesh, $step);
            if (! $held->isEmpty()) {
                Files::write($path, GlbWriter::chunks([$name => ['mesh' => $held, 'colour' => $colour]], $step, $inside));
            }

            return GlbWriter::inMillimetres($held);
        }
        $held = $format === '3mf' ? self::inDecimals(Rounded::of($mesh)) : Rounded::of($mesh, Precision::double());
        if ($held->isEmpty()) {
            return $held;
        }
        match ($format) {
            'obj' => ObjWriter::write([$name => ['mesh' => $held, 'colour' => $colour]], $path, $inside),
            'ply' => Files::write($path, TextWriters::ply($held)),
            'off' => Files::write($path, TextWriters::off($held)),
            default => ThreeMfWriter::write([$name => ['mesh' => $held, 'colour' => $colour]], $path),
        };

        return $held;
    }

    /**
     * Writes several pieces to one file: OBJ with an object (and two materials, in a file beside it), 3MF with an object, GLB with a node a piece.
     *
     * @param  array<string, array{mesh: Mesh, colour: string}>  $pieces  by name
     * @param  array<string, array{shift: array{list<float>, list<float>}, turn: array{list<float>, list<float>}, scale: array{list<float>, list<float>}}>  $moves  how they move, for GLB: see GlbWriter::chunks
     * @return array<string, Mesh> each as the file holds it; pieces thinner than the file's numbers are not in it
     */
    public static function writeAll(array $pieces, string $path, ?InsideLook $inside = null, array $moves = []): array
    {
        $format = self::known(self::ending($path), basename($path));
        if (! in_array($format, ['obj', '3mf', 'glb'], true)) {
            throw new BadCommand("A $format file holds one body; write the pieces as obj, 3mf or glb, or one file each.");
        }
        $step = $format === 'glb' ? GlbWriter::step(array_column($pieces, 'mesh')) : 0.0;
        $held = [];
        foreach ($pieces as $name => $piece) {
            $mesh = match ($format) {
                'glb' => GlbWriter::rounded($piece['mesh'], $step),
                '3mf' => self::inDecimals(Rounded::of($piece['mesh'])),
                default => Rounded::of($piece['mesh'], Precision::double()),
            };
            if (! $mesh->isEmpty()) {
                $held[$name] = ['mesh' => $mesh, 'colour' => $piece['colour']];
            }
        }
        match ($format) {
            'obj' => ObjWriter::write($held, $path, $inside),
            '3mf' => ThreeMfWriter::write($held, $path),
            default => Files::write($path, GlbWriter::chunks($held, $step, $inside, $moves)),
        };

        return array_map(static fn (array $piece): Mesh => $format === 'glb' ? GlbWriter::inMillimetres($piece['mesh']) : $piece['mesh'], $held);
    }

    /** 32-bit floats as the short decimals that stand for them in 3MF. */
    private static function inDecimals(Mesh $mesh): Mesh
    {
        return Mesh::of(array_map(static fn (float $c): float => (float) TextNumber::single($c), $mesh->xyz), $mesh->corners, $mesh->tags, $mesh->skin);
    }
}
