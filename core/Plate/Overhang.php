<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;

/**
 * What of a piece hangs over as it lies on the bed: skin that looks down within a limit, measured from straight down, and is not on the bed (common practice in printing: 45°); and how much room is below it, which supports would fill.
 *
 * The area is exact. The volume is taken on upright lines, a two-hundredth of the piece's width apart: from the skin that hangs over down to the next skin below, or to the bed.
 */
final readonly class Overhang
{
    private const LINES = 200;

    /** What is nearer to the bed than this share of the piece's diagonal lies on it. */
    private const ON = 2e-5;

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
        $on = self::ON * $box->diagonal();
        $cell = max($box->max[0] - $box->min[0], $box->max[1] - $box->min[1]) / self::LINES;
        if ($laid->corners === [] || $cell <= 0.0) {
            return new self(0.0, 0.0);
        }
        [$x0, $y0] = [$box->min[0] + $cell / 2, $box->min[1] + $cell / 2];
        $xyz = $laid->xyz;
        $cosine = cos(deg2rad($limit));
        $area = 0.0;
        /** @var array<int, list<float>> $from heights of skin that hangs over, by line */
        $from = [];
        /** @var array<int, list<float>> $up of skin that looks up */
        $up = [];
        for ($i = 0, $count = count($laid->corners); $i < $count; $i += 3) {
            $a = 3 * $laid->corners[$i];
            $b = 3 * $laid->corners[$i + 1];
            $c = 3 * $laid->corners[$i + 2];
            [$ax, $ay, $az] = [$xyz[$a], $xyz[$a + 1], $xyz[$a + 2]];
            [$ux, $uy, $uz] = [$xyz[$b] - $ax, $xyz[$b + 1] - $ay, $xyz[$b + 2] - $az];
            [$vx, $vy, $vz] = [$xyz[$c] - $ax, $xyz[$c + 1] - $ay, $xyz[$c + 2] - $az];
            $nz = $ux * $vy - $uy * $vx;
            if ($nz === 0.0) {
                continue;
            }
            $hangs = false;
            if ($nz < 0.0) {
                $nx = $uy * $vz - $uz * $vy;
                $ny = $uz * $vx - $ux * $vz;
                $size = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                $hangs = -$nz > $cosine * $size && max($az, $az + $uz, $az + $vz) > $on;
                if (! $hangs) {
                    continue;
                }
                $area += $size / 2;
            }
            $first = (int) ceil((min($ax, $ax + $ux, $ax + $vx) - $x0) / $cell);
            $last = (int) floor((max($ax, $ax + $ux, $ax + $vx) - $x0) / $cell);
            $low = (int) ceil((min($ay, $ay + $uy, $ay + $vy) - $y0) / $cell);
            $high = (int) floor((max($ay, $ay + $uy, $ay + $vy) - $y0) / $cell);
            for ($row = $low; $row <= $high; $row++) {
                $y = $y0 + $row * $cell - $ay;
                for ($column = $first; $column <= $last; $column++) {
                    $x = $x0 + $column * $cell - $ax;
                    $s = ($x * $vy - $y * $vx) / $nz;
                    $t = ($ux * $y - $uy * $x) / $nz;
                    if ($s >= 0.0 && $t >= 0.0 && $s + $t <= 1.0) {
                        $z = $az + $s * $uz + $t * $vz;
                        if ($hangs) {
                            $from[$row << 10 | $column][] = $z;
                        } else {
                            $up[$row << 10 | $column][] = $z;
                        }
                    }
                }
            }
        }
        $sum = 0.0;
        foreach ($from as $line => $heights) {
            foreach (array_unique($heights) as $z) {
                $floor = 0.0;
                foreach ($up[$line] ?? [] as $below) {
                    $floor = $below < $z && $below > $floor ? $below : $floor;
                }
                $sum += $z - $floor;
            }
        }

        return new self($area, $sum * $cell * $cell);
    }
}
