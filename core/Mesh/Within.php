<?php

declare(strict_types=1);

namespace Isotome\Mesh;

use Isotome\Geometry\Orientation;

/**
 * Is a place within a body? Told by the surface above it, triangles being found by where they stand on the ground: has() quickly, rounding deciding
 * on the skin itself; isSurely() by exact turns, and not at all where an edge stands exactly above the place.
 */
final class Within
{
    private const PER_BIN = 2;

    /** @var array<int, list<int>> */
    private array $bins = [];

    private float $x = 0.0;

    private float $y = 0.0;

    private float $perX = 0.0;

    private float $perY = 0.0;

    private int $wide = 1;

    private int $deep = 1;

    public function __construct(private readonly Mesh $mesh)
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        if ($corners === []) {
            return;
        }
        $lowX = $lowY = INF;
        $highX = $highY = -INF;
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $x = $xyz[$i];
            $y = $xyz[$i + 1];
            $lowX = $x < $lowX ? $x : $lowX;
            $highX = $x > $highX ? $x : $highX;
            $lowY = $y < $lowY ? $y : $lowY;
            $highY = $y > $highY ? $y : $highY;
        }
        $side = max(1.0, sqrt($mesh->triangleCount() / self::PER_BIN));
        $shape = sqrt(max(1e-3, min(1e3, ($highX - $lowX) / max(1e-300, $highY - $lowY))));
        $this->wide = max(1, min(1000, (int) ($side * $shape)));
        $this->deep = max(1, min(1000, (int) ($side / $shape)));
        $this->x = $lowX;
        $this->y = $lowY;
        $this->perX = $highX > $lowX ? ($this->wide - 1e-9) / ($highX - $lowX) : 0.0;
        $this->perY = $highY > $lowY ? ($this->deep - 1e-9) / ($highY - $lowY) : 0.0;
        $perX = $this->perX;
        $perY = $this->perY;
        $wide = $this->wide;
        $bins = [];
        for ($i = 0, $t = 0, $count = count($corners); $i < $count; $i += 3, $t++) {
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            $ax = $xyz[$a];
            $bx = $xyz[$b];
            $cx = $xyz[$c];
            $ay = $xyz[$a + 1];
            $by = $xyz[$b + 1];
            $cy = $xyz[$c + 1];
            $x0 = (int) ((($ax < $bx ? ($ax < $cx ? $ax : $cx) : ($bx < $cx ? $bx : $cx)) - $lowX) * $perX);
            $x1 = (int) ((($ax > $bx ? ($ax > $cx ? $ax : $cx) : ($bx > $cx ? $bx : $cx)) - $lowX) * $perX);
            $y0 = (int) ((($ay < $by ? ($ay < $cy ? $ay : $cy) : ($by < $cy ? $by : $cy)) - $lowY) * $perY);
            $y1 = (int) ((($ay > $by ? ($ay > $cy ? $ay : $cy) : ($by > $cy ? $by : $cy)) - $lowY) * $perY);
            for ($y = $y0; $y <= $y1; $y++) {
                for ($x = $x0; $x <= $x1; $x++) {
                    $bins[$y * $wide + $x][] = $t;
                }
            }
        }
        $this->bins = $bins;
    }

    /** @return bool|null null where an edge or a corner of the surface stands exactly above or below the place: ask another one */
    public function isSurely(float $x, float $y, float $z): ?bool
    {
        $xyz = $this->mesh->xyz;
        $corners = $this->mesh->corners;
        $winding = 0;
        foreach ($this->binAt($x, $y) as $t) {
            $a = 3 * $corners[3 * $t];
            $b = 3 * $corners[3 * $t + 1];
            $c = 3 * $corners[3 * $t + 2];
            $one = Orientation::of($xyz[$a], $xyz[$a + 1], $xyz[$b], $xyz[$b + 1], $x, $y);
            $two = Orientation::of($xyz[$b], $xyz[$b + 1], $xyz[$c], $xyz[$c + 1], $x, $y);
            $three = Orientation::of($xyz[$c], $xyz[$c + 1], $xyz[$a], $xyz[$a + 1], $x, $y);
            if ($one * $two < 0 || $two * $three < 0 || $three * $one < 0) {
                continue;
            }
            if ($one === 0 || $two === 0 || $three === 0) {
                return null;
            }
            // Height of the triangle's plane over the place, by barycentric weights.
            $p = ($xyz[$b] - $x) * ($xyz[$c + 1] - $y) - ($xyz[$b + 1] - $y) * ($xyz[$c] - $x);
            $q = ($xyz[$c] - $x) * ($xyz[$a + 1] - $y) - ($xyz[$c + 1] - $y) * ($xyz[$a] - $x);
            $r = ($xyz[$a] - $x) * ($xyz[$b + 1] - $y) - ($xyz[$a + 1] - $y) * ($xyz[$b] - $x);
            $sum = $p + $q + $r;
            if ($sum == 0.0) {
                return null;
            }
            if (($p * $xyz[$a + 2] + $q * $xyz[$b + 2] + $r * $xyz[$c + 2]) / $sum > $z) {
                $winding += $one;
            }
        }

        return $winding > 0;
    }

    /** @return list<int> the triangles that may stand above or below a place */
    private function binAt(float $x, float $y): array
    {
        $i = (int) floor(($x - $this->x) * $this->perX);
        $j = (int) floor(($y - $this->y) * $this->perY);

        return $i < 0 || $j < 0 || $i >= $this->wide || $j >= $this->deep ? [] : $this->bins[$j * $this->wide + $i] ?? [];
    }

    public function has(float $x, float $y, float $z): bool
    {
        $xyz = $this->mesh->xyz;
        $corners = $this->mesh->corners;
        $winding = 0;
        foreach ($this->binAt($x, $y) as $t) {
            $a = 3 * $corners[3 * $t];
            $b = 3 * $corners[3 * $t + 1];
            $c = 3 * $corners[3 * $t + 2];
            $ax = $xyz[$a] - $x;
            $bx = $xyz[$b] - $x;
            $cx = $xyz[$c] - $x;
            // Most of a bin's triangles lie beside the place.
            if (($ax > 0.0 && $bx > 0.0 && $cx > 0.0) || ($ax < 0.0 && $bx < 0.0 && $cx < 0.0)) {
                continue;
            }
            $ay = $xyz[$a + 1] - $y;
            $by = $xyz[$b + 1] - $y;
            $cy = $xyz[$c + 1] - $y;
            if (($ay > 0.0 && $by > 0.0 && $cy > 0.0) || ($ay < 0.0 && $by < 0.0 && $cy < 0.0)) {
                continue;
            }
            $p = $bx * $cy - $by * $cx;
            $q = $cx * $ay - $cy * $ax;
            $r = $ax * $by - $ay * $bx;
            $sum = $p + $q + $r;
            if ($sum == 0.0 || ! (($p >= 0 && $q >= 0 && $r >= 0) || ($p <= 0 && $q <= 0 && $r <= 0))) {
                continue;
            }
            if (($p * $xyz[$a + 2] + $q * $xyz[$b + 2] + $r * $xyz[$c + 2]) / $sum > $z) {
                $winding += $sum > 0 ? 1 : -1;
            }
        }

        return $winding > 0;
    }
}
