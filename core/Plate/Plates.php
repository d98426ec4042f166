<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Isotome\Exception\BadBed;
use Isotome\Fit\BuildSpace;
use Isotome\Geometry\Affine;
use Isotome\Geometry\Box;
use Isotome\Geometry\Turn;
use Isotome\Mesh\Mesh;

/**
 * Lays pieces down and puts them on plates.
 *
 * Guarantees: every piece stands on one of its faces within the printer's space, stable where it can; its lowest point is at z = 0; on each plate no two are nearer to each other, as seen from above, than the spacing. The corner of the
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
     *
     * @throws BadBed when a piece does not go in, on whatever face it stands
     */
    public static function of(array $pieces, BuildSpace $space, float $spacing, bool $isTurned = true): self
    {
        $names = array_keys($pieces);
        $strip = Packed::strip($space->x, $space->y);
        $silhouettes = $maps = $stable = [];
        foreach ($pieces as $name => $mesh) {
            [$maps[], $stable[], $silhouettes[]] = self::laid($name, $mesh, $space, $strip, $isTurned);
        }
        try {
            $packed = Packed::on($silhouettes, $space->x, $space->y, $spacing, $isTurned);
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
     * On the best of its faces on which it goes in.
     *
     * @return array{list<float>, bool, Silhouette} the map of 12 numbers, whether it is stable, and what it covers
     */
    private static function laid(string $name, Mesh $mesh, BuildSpace $space, float $strip, bool $isTurned): array
    {
        foreach (Rests::roughly($mesh) as $rest) {
            if ($rest->height > $space->z + 1e-7) {
                continue;
            }
            $map = Turn::between($rest->facing, [0.0, 0.0, -1.0])->map([0.0, 0.0, 0.0]);
            $low = Box::of(Affine::points($mesh->xyz, $map))->min;
            $map = [...array_slice($map, 0, 9), $map[9] - $low[0], $map[10] - $low[1], $map[11] - $low[2]];
            $silhouette = Silhouette::of(Mesh::of(array_values(Affine::points($mesh->xyz, $map)), $mesh->corners), $strip);
            if (Packed::holds($silhouette, $space->x, $space->y, $isTurned)) {
                return [$map, $rest->isStable(), $silhouette];
            }
        }
        throw new BadBed("$name does not go on the bed, on whichever of its faces it stands; cut it first.");
    }
}
