<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/** Is a place within a body? Told by the surface above it, triangles being found by where they stand on the ground. Rounding decides on the skin itself. */
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

    public function has(float $x, float $y, float $z): bool
    {
        $i = (int) floor(($x - $this->x) * $this->perX);
        $j = (int) floor(($y - $this->y) * $this->perY);
        if ($i < 0 || $j < 0 || $i >= $this->wide || $j >= $this->deep) {
            return false;
        }
        $xyz = $this->mesh->xyz;
        $corners = $this->mesh->corners;
        $winding = 0;
        foreach ($this->bins[$j * $this->wide + $i] ?? [] as $t) {
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
