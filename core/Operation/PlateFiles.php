<?php

declare(strict_types=1);

namespace Isotome\Operation;

use Isotome\Fit\BuildSpace;
use Isotome\Format\MeshFile;
use Isotome\Geometry\Affine;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Together;
use Isotome\Plate\Plates;

/** Plates as files: of each a 3MF with an object a piece, in its place, or an STL; and plates.json with the pose of every piece. */
final class PlateFiles
{
    /**
     * @param  list<list<array{piece: string, name: string, pose: list<float>, stable: bool}>>  $plates  of each, what lies on it: the piece, what it is called in the files, and where it lies on the whole bed, whose corner is the origin
     * @param  non-empty-array<string, Mesh>  $pieces  by name
     * @param  array<string, string>  $colours  #rrggbb by name
     * @param  string  $as  3mf or stl
     * @param  BuildSpace  $space  without the margin
     * @param  float  $margin  mm
     * @return array{bed_mm: list<float>, margin_mm: float, spacing_mm: float, plates: list<array{file: string, pieces: list<array<string, mixed>>}>} as plates.json has it
     */
    public static function write(string $folder, array $plates, array $pieces, array $colours, string $as, BuildSpace $space, float $margin, float $spacing): array
    {
        $told = [];
        $numbers = array_flip(array_keys($pieces));
        foreach ($plates as $n => $plate) {
            $file = 'plate-'.($n + 1).".$as";
            $laid = [];
            foreach ($plate as $one) {
                $mesh = $pieces[$one['piece']];
                $xyz = Affine::points($mesh->xyz, $one['pose']);
                $low = Box::of($xyz)->min[2];
                foreach ($xyz as $i => $at) {
                    // The bed is at 0: what turning left of it is rounding.
                    if ($i % 3 === 2) {
                        $xyz[$i] = max(0.0, $at - min(0.0, $low));
                    }
                }
                $laid[$one['name']] = ['mesh' => Mesh::of(array_values($xyz), $mesh->corners, $mesh->tags), 'colour' => $colours[$one['piece']] ?? Palette::colour($numbers[$one['piece']])];
            }
            $held = $as === '3mf' ? MeshFile::writeAll($laid, "$folder/$file") : [];
            $meshes = array_column($laid, 'mesh');
            if ($as === 'stl' && $meshes !== []) {
                MeshFile::write(Together::dressed($meshes), "$folder/$file", 'plate-'.($n + 1));
            }
            $told[] = ['file' => $file, 'pieces' => array_map(static function (array $one) use ($laid, $held): array {
                $name = $one['name'];
                $mesh = $held[$name] ?? $laid[$name]['mesh'];
                $box = Box::of($mesh->xyz);

                return ['name' => $name, 'pose' => $one['pose'], 'min_mm' => $box->min, 'max_mm' => $box->max, 'stable' => $one['stable'], 'watertight' => EdgeCheck::of($mesh)->isWatertight(), 'colour' => $laid[$name]['colour']];
            }, $plate)];
        }
        $document = ['bed_mm' => $space->within(-$margin)->sides(), 'margin_mm' => $margin, 'spacing_mm' => $spacing, 'plates' => $told];
        file_put_contents("$folder/plates.json", json_encode($document, JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION)."\n");

        return $document;
    }

    /**
     * What was packed, as write() takes it: each piece under its own name.
     *
     * @param  list<string>  $names
     * @return list<list<array{piece: string, name: string, pose: list<float>, stable: bool}>>
     */
    public static function packed(Plates $plates, array $names, float $margin): array
    {
        return array_map(static fn (array $plate): array => array_map(static fn (array $one): array => [
            'piece' => $names[$one['piece']], 'name' => $names[$one['piece']], 'pose' => self::pose($one['map'], $margin), 'stable' => $one['stable'],
        ], $plate), $plates->plates);
    }

    /**
     * A piece's pose on the whole bed, its corner being the origin.
     *
     * @param  list<float>  $map  on the bed within the margin
     * @return list<float>
     */
    public static function pose(array $map, float $margin): array
    {
        return [...array_slice($map, 0, 9), $map[9] + $margin, $map[10] + $margin, $map[11]];
    }
}
