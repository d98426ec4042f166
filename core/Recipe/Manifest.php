<?php

declare(strict_types=1);

namespace Isotome\Recipe;

use Isotome\Format\GlbWriter;
use Isotome\Format\MeshFile;
use Isotome\Mesh\Mesh;

/**
 * The document beside written pieces. Its measures, counts and watertight marks are those of the files: the meshes as
 * brought to the files' numbers and written.
 */
final class Manifest
{
    /**
     * Writes every piece into the folder, then manifest.json.
     *
     * @param  array<string, mixed>  $recipe
     * @param  array<string, mixed>  $input
     * @param  iterable<Piece>  $pieces
     * @param  list<array<string, mixed>>  $steps
     * @param  string  $as  format of the pieces, by its ending
     * @return array<string, mixed> the document
     */
    public static function write(string $folder, array $recipe, array $input, iterable $pieces, array $steps, string $as = 'stl'): array
    {
        $listed = [];
        $lost = [];
        $taken = ['manifest' => true];
        // One step for all: neighbours keep their common places in files of their own.
        $step = null;
        if ($as === 'glb') {
            $pieces = [...$pieces];
            $step = GlbWriter::step(array_map(static fn (Piece $piece): Mesh => $piece->mesh, $pieces));
        }
        foreach ($pieces as $piece) {
            $base = $file = Names::file($piece->name);
            for ($n = 2; isset($taken[mb_strtolower($file)]); $n++) {
                $file = "$base-$n";
            }
            $taken[mb_strtolower($file)] = true;
            $written = MeshFile::write($piece->mesh, "$folder/$file.$as", $piece->name, $piece->colour, $step);
            if ($written->isEmpty()) {
                // Thinner than the numbers of the file can say.
                $lost[] = $piece->name;

                continue;
            }
            $listed[] = self::entry($piece, "$file.$as", $written);
        }
        $document = ['recipe' => $recipe, 'input' => $input, 'pieces' => $listed, 'steps' => $steps, 'too_thin_for_file' => $lost];
        $json = json_encode($document, JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION);
        file_put_contents("$folder/manifest.json", $json."\n");

        return $document;
    }

    /** @return array<string, mixed> */
    private static function entry(Piece $piece, string $file, Mesh $written): array
    {
        return [
            'name' => $piece->name,
            'file' => $file,
            ...Description::of($written),
            'parent' => $piece->parent,
            'step' => $piece->step,
            'colour' => $piece->colour,
        ];
    }
}
