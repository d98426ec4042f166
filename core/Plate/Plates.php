<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Isotome\Exception\BadBed;
use Isotome\Fit\BuildSpace;
use Isotome\Fit\Turned;
use Isotome\Geometry\Affine;
use Isotome\Geometry\Box;
use Isotome\Geometry\Turn;
use Isotome\Mesh\Mesh;

/**
 * Lays pieces down and puts them on plates.
 *
 * Guarantees: every piece stands on one of its faces within the printer's space, stable where it can, and tilted only where it goes in on none of them; its lowest point is at z = 0; on each plate no two are nearer to each other, as seen from above, than the spacing. The corner of the
 * bed is the origin.
 */
final readonly class Plates
{
    /**
     * @param  list<list<array{piece: int, map: list<float>, stable: bool}>>  $plates  of each, pieces with the map of 12 numbers from where they are to where they lie
     */
    private function __construct(
        public array $plates,
    ) {
    }

    /**
     * @param  non-empty-array<string, Mesh>  $pieces  closed, by name
     * @param  BuildSpace  $space  without the margin
     * @param  float  $step  degrees: pieces are turned about the upright by multiples of it only, unless they go in in no such turn; 0 for freely
     *
     * @throws BadBed when a piece does not go in, however it is turned
     */
    public static function of(array $pieces, BuildSpace $space, float $spacing, bool $isTurned = true, float $step = 0.0): self
    {
        $names = array_keys($pieces);
        $strip = Packed::strip($space->x, $space->y);
        $silhouettes = $maps = $stable = [];
        $known = [];
        foreach ($pieces as $name => $mesh) {
            // Copies are laid down once.
            [$maps[], $stable[], $silhouettes[]] = $known[spl_object_id($mesh)] ??= self::laid((string) $name, $mesh, $space, $strip, $isTurned, $step);
        }
        try {
            $packed = Packed::on($silhouettes, $space, $spacing, $isTurned, step: $step);
        } catch (BadBed $refused) {
            throw new BadBed("{$names[$refused->getCode()]} {$refused->getMessage()}.");
        }
        $plates = [];
        foreach ($packed->placed as $placed) {
            [$c, $s] = Silhouette::turn($placed->degrees);
            $plates[$placed->plate][] = ['piece' => $placed->piece, 'map' => Affine::then($maps[$placed->piece], [$c, $s, 0.0, -$s, $c, 0.0, 0.0, 0.0, 1.0, $placed->x, $placed->y, 0.0]), 'stable' => $stable[$placed->piece]];
        }
        ksort($plates);

        return new self(array_values($plates));
    }

    /**
     * On the best of its faces on which it goes in; if it does on none, in whatever turn it does.
     *
     * @return array{list<float>, bool, Silhouette} the map of 12 numbers, whether it is stable, and what it covers
     */
    private static function laid(string $name, Mesh $mesh, BuildSpace $space, float $strip, bool $isTurned, float $step): array
    {
        foreach (Rests::roughly($mesh) as $rest) {
            if ($rest->height > $space->z + 1e-7) {
                continue;
            }
            [$map, $silhouette] = self::down($mesh, Turn::between($rest->facing, [0.0, 0.0, -1.0]), $strip);
            if (Packed::holds($silhouette, $space, $isTurned, $step)) {
                return [$map, $rest->isStable(), $silhouette];
            }
        }
        if (! $isTurned) {
            throw new BadBed("$name does not go on the bed, on whichever of its faces it stands; let it be turned, or cut it first.");
        }
        // On none of its faces: then as it goes in at all, to be held by supports.
        $xyz = [];
        foreach (array_unique(Hull::of($mesh->xyz)) as $v) {
            array_push($xyz, $mesh->xyz[3 * $v], $mesh->xyz[3 * $v + 1], $mesh->xyz[3 * $v + 2]);
        }
        $turned = Turned::into($xyz, $space, byHowMuch: false);
        $angle = sqrt($turned->vector[0] ** 2 + $turned->vector[1] ** 2 + $turned->vector[2] ** 2);
        if ($turned->fits()) {
            [$map, $silhouette] = self::down($mesh, Turn::about($angle > 0.0 ? $turned->vector : [0.0, 0.0, 1.0], rad2deg($angle)), $strip);
            if (Packed::holds($silhouette, $space, true, $step)) {
                return [$map, false, $silhouette];
            }
        }
        throw new BadBed("$name does not go on the bed, however it is turned; cut it first.");
    }

    /** @return array{list<float>, Silhouette} where it lies, its lowest places at 0, and what it covers */
    private static function down(Mesh $mesh, Turn $turn, float $strip): array
    {
        $map = $turn->map([0.0, 0.0, 0.0]);
        $low = Box::of(Affine::points($mesh->xyz, $map))->min;
        $map = [...array_slice($map, 0, 9), $map[9] - $low[0], $map[10] - $low[1], $map[11] - $low[2]];

        return [$map, Silhouette::of(Mesh::of(array_values(Affine::points($mesh->xyz, $map)), $mesh->corners), $strip)];
    }
}
