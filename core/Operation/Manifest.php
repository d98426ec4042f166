<?php

declare(strict_types=1);

namespace Isotome\Operation;

use Isotome\Cells\Contacts;
use Isotome\Format\GlbWriter;
use Isotome\Format\InsideLook;
use Isotome\Format\MeshFile;
use Isotome\Measure\Inertia;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Process\SideBySide;

/**
 * The document beside written pieces. Its measures, counts and watertight marks are those of the files: the meshes as
 * brought to the files' numbers and written.
 */
final class Manifest
{
    /** Triangles of pieces that are held at a time: they may be read one by one. */
    private const AT_A_TIME = 2_000_000;

    /**
     * Writes every piece into the folder, then manifest.json.
     *
     * @param  array<string, mixed>  $recipe
     * @param  array<string, mixed>  $input
     * @param  iterable<Piece>  $pieces
     * @param  list<array<string, mixed>>  $steps
     * @param  string  $as  format of the pieces, by its ending
     * @param  float|null  $density  g/cm³: mass and moments are stated too
     * @param  InsideLook|null  $inside  of inside faces, where the format holds materials
     * @return array<string, mixed> the document
     */
    public static function write(string $folder, array $recipe, array $input, iterable $pieces, array $steps, string $as = 'stl', ?float $density = null, ?InsideLook $inside = null): array
    {
        $listed = $insides = $masses = [];
        $taken = ['manifest' => true];
        // One step for all: neighbours keep their common places in files of their own.
        $step = null;
        if ($as === 'glb') {
            $pieces = [...$pieces];
            $step = GlbWriter::step(array_map(static fn (Piece $piece): Mesh => $piece->mesh, $pieces));
        }
        /** @var list<array{Piece, string}> $some */
        $some = [];
        $triangles = 0;
        foreach ($pieces as $piece) {
            $base = $file = Names::file($piece->name);
            for ($n = 2; isset($taken[mb_strtolower($file)]); $n++) {
                $file = "$base-$n";
            }
            $taken[mb_strtolower($file)] = true;
            if ($triangles + $piece->mesh->triangleCount() > self::AT_A_TIME && count($some) > 1) {
                array_push($listed, ...self::some($some, $folder, $step, $inside));
                $some = [];
                $triangles = 0;
            }
            // Only faces made by cutting are kept of all.
            $insides[$piece->name] = Contacts::insides($piece->mesh);
            $masses[$piece->name] = self::mass($piece->mesh, $density);
            $some[] = [$piece, "$file.$as"];
            $triangles += $piece->mesh->triangleCount();
        }
        array_push($listed, ...self::some($some, $folder, $step, $inside));
        $lost = array_column($listed, 'lost');
        $listed = array_values(array_filter($listed, static fn (array $entry): bool => ! isset($entry['lost'])));

        return self::document($folder, $recipe, $input, self::glued($listed, $insides, $masses), $steps, $lost);
    }

    /**
     * With the pieces that each one touches and the areas they have in common, and with its mass.
     *
     * @param  list<array<string, mixed>>  $listed
     * @param  array<array-key, Mesh>  $insides  faces made by cutting, by name
     * @param  array<array-key, array<string, mixed>>  $masses
     * @return list<array<string, mixed>>
     */
    private static function glued(array $listed, array $insides, array $masses): array
    {
        $named = (static function () use ($insides): iterable {
            foreach ($insides as $name => $mesh) {
                yield (string) $name => $mesh;
            }
        })();
        $areas = Contacts::named($named);
        foreach ($listed as $n => $entry) {
            $name = is_string($entry['name']) ? $entry['name'] : '';
            $neighbours = [];
            foreach ($areas[$name] ?? [] as $other => $area) {
                $neighbours[] = ['name' => (string) $other, 'area_mm2' => $area];
            }
            $listed[$n] = [...$listed[$n], 'neighbours' => $neighbours, ...$masses[$name]];
        }

        return $listed;
    }

    /**
     * @param  float|null  $density  g/cm³
     * @return array<string, mixed> nothing without a density
     */
    private static function mass(Mesh $mesh, ?float $density): array
    {
        if ($density === null) {
            return [];
        }
        $inertia = Inertia::of($mesh);

        return [
            'mass_g' => $density * $inertia->volume / 1000,
            'inertia_g_mm2' => array_map(static fn (array $row): array => array_map(static fn (float $moment): float => $density * $moment / 1000, $row), $inertia->tensor),
        ];
    }

    /**
     * Writes all pieces into one file of a format that holds several (OBJ, 3MF, GLB), then manifest.json beside it.
     *
     * @param  array<string, mixed>  $recipe
     * @param  array<string, mixed>  $input
     * @param  iterable<Piece>  $pieces
     * @param  list<array<string, mixed>>  $steps
     * @param  float|null  $density  g/cm³
     * @return array<string, mixed> the document
     */
    public static function writeTogether(string $folder, array $recipe, array $input, iterable $pieces, array $steps, string $file, ?float $density = null, ?InsideLook $inside = null): array
    {
        $all = $known = [];
        foreach ($pieces as $piece) {
            $all[$piece->name] = ['mesh' => $piece->mesh, 'colour' => $piece->colour];
            $known[$piece->name] = $piece;
        }
        $written = MeshFile::writeAll($all, "$folder/$file", $inside);
        $listed = [];
        foreach ($written as $name => $mesh) {
            $listed[] = self::entry($known[$name], $file, $mesh);
        }

        $listed = self::glued(
            $listed, array_map(static fn (Piece $piece): Mesh => Contacts::insides($piece->mesh), $known), array_map(static fn (Piece $piece): array => self::mass($piece->mesh, $density), $known),
        );

        return self::document($folder, $recipe, $input, $listed, $steps, array_values(array_map(strval(...), array_diff(array_keys($known), array_keys($written)))));
    }

    /**
     * @param  array<string, mixed>  $recipe
     * @param  array<string, mixed>  $input
     * @param  list<array<string, mixed>>  $listed
     * @param  list<array<string, mixed>>  $steps
     * @param  list<mixed>  $lost
     * @return array<string, mixed>
     */
    private static function document(string $folder, array $recipe, array $input, array $listed, array $steps, array $lost): array
    {
        $document = ['recipe' => $recipe, 'input' => $input, 'pieces' => $listed, 'steps' => $steps, 'too_thin_for_file' => $lost];
        $json = json_encode($document, JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION);
        file_put_contents("$folder/manifest.json", $json."\n");

        return $document;
    }

    /**
     * @param  list<array{Piece, string}>  $some  pieces with their files
     * @return list<array<string, mixed>>
     */
    private static function some(array $some, string $folder, ?float $step, ?InsideLook $inside): array
    {
        $works = $triangles = [];
        foreach ($some as [$piece, $file]) {
            $works[] = static fn (): array => self::written($piece, $folder, $file, $step, $inside);
            $triangles[] = $piece->mesh->triangleCount();
        }

        return SideBySide::all($works, $triangles);
    }

    /** @return array<string, mixed> the piece's entry, or that it is lost: thinner than the file's numbers can say */
    private static function written(Piece $piece, string $folder, string $file, ?float $step, ?InsideLook $inside): array
    {
        $written = MeshFile::write($piece->mesh, "$folder/$file", $piece->name, $piece->colour, $step, $inside);

        return $written->isEmpty() ? ['lost' => $piece->name] : self::entry($piece, $file, $written);
    }

    /** @return array<string, mixed> */
    private static function entry(Piece $piece, string $file, Mesh $written): array
    {
        // The same triangles on vertices that stayed apart: what was found of the piece holds.
        $isSame = $written->corners === $piece->mesh->corners;

        return [
            'name' => $piece->name,
            'id' => Names::id($piece->known ?? $piece->name),
            'file' => $file,
            ...Description::of($written, $isSame && $piece->watertight === true ? true : null, $isSame ? Bodies::shellCount($piece->mesh) : null),
            'parent' => $piece->parent,
            'parents' => $piece->parents(),
            'step' => $piece->step,
            'colour' => $piece->colour,
        ];
    }
}
