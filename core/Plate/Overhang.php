<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Isotome\Geometry\Box;
use Isotome\Mesh\LinesThrough;
use Isotome\Mesh\Mesh;

/**
 * What of a piece hangs over as it lies on the bed: skin that looks down within a limit, measured from straight down, and is not on the bed (common practice in printing: 45°); and how much room is below it, which supports would fill.
 *
 * The area is exact. The volume is taken on upright lines, a two-hundredth of the piece's width apart: from the skin that hangs over down to the next skin below, or to the bed.
 */
final readonly class Overhang
{
    private const LINES = 200;

    private function __construct(
        public float $area,
        public float $volume,
    ) {
    }

    /**
     * @param  Mesh  $laid  closed, as it lies; the bed is at z = 0
     * @param  float  $limit  degrees
     */
    public static function of(Mesh $laid, float $limit = 45.0): self
    {
        $box = Box::of($laid->xyz);
        $on = Rests::ON * $box->diagonal();
        $cell = max($box->max[0] - $box->min[0], $box->max[1] - $box->min[1]) / self::LINES;
        if ($laid->corners === [] || $cell <= 0.0) {
            return new self(0.0, 0.0);
        }
        $looks = self::looks($laid, cos(deg2rad($limit)), $on);
        [$lines, $heights, $triangles] = LinesThrough::of($laid->xyz, $laid->corners, $box->min[0] + $cell / 2, $box->min[1] + $cell / 2, $cell, 2 * self::LINES);
        $from = $up = [];
        foreach ($lines as $n => $line) {
            $look = $looks[$triangles[$n]];
            if ($look < 0) {
                $from[$line][] = $heights[$n];
            } elseif ($look > 0) {
                $up[$line][] = $heights[$n];
            }
        }
        $sum = 0.0;
        foreach ($from as $line => $some) {
            foreach (array_unique($some) as $z) {
                $floor = 0.0;
                foreach ($up[$line] ?? [] as $below) {
                    $floor = $below < $z && $below > $floor ? $below : $floor;
                }
                $sum += $z - $floor;
            }
        }

        return new self(Rests::overhang($laid, [0.0, 0.0, -1.0], $limit, $on), $sum * $cell * $cell);
    }

    /** @return list<int> of each triangle 1 when it looks up, −1 when it hangs over, and 0 else */
    private static function looks(Mesh $laid, float $least, float $on): array
    {
        $xyz = $laid->xyz;
        $looks = [];
        for ($i = 0, $count = count($laid->corners); $i < $count; $i += 3) {
            $a = 3 * $laid->corners[$i];
            $b = 3 * $laid->corners[$i + 1];
            $c = 3 * $laid->corners[$i + 2];
            $ux = $xyz[$b] - $xyz[$a];
            $uy = $xyz[$b + 1] - $xyz[$a + 1];
            $uz = $xyz[$b + 2] - $xyz[$a + 2];
            $vx = $xyz[$c] - $xyz[$a];
            $vy = $xyz[$c + 1] - $xyz[$a + 1];
            $vz = $xyz[$c + 2] - $xyz[$a + 2];
            $nz = $ux * $vy - $uy * $vx;
            if ($nz > 0.0) {
                $looks[] = 1;

                continue;
            }
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $looks[] = -$nz > $least * sqrt($nx * $nx + $ny * $ny + $nz * $nz) && max($xyz[$a + 2], $xyz[$b + 2], $xyz[$c + 2]) > $on ? -1 : 0;
        }

        return $looks;
    }
}
