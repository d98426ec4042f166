<?php

declare(strict_types=1);

namespace Isotome\Solid;

/** Given triangles of one plane by where they are on a page: a grid of about as many cells as triangles. */
final class PageGrid
{
    /** A rounded point is looked for a little around where it is: this part of a cell. */
    private const AROUND = 1e-6;

    private float $x = INF;

    private float $y = INF;

    private float $perX = 0.0;

    private float $perY = 0.0;

    private readonly int $side;

    /** @var array<int, list<int>> */
    private array $cells = [];

    /**
     * @param  list<int>  $given  three points a triangle
     * @param  non-empty-list<int>  $triangles
     */
    public function __construct(private readonly Points $points, array $given, array $triangles, private readonly int $u, private readonly int $v)
    {
        $this->side = max(1, (int) sqrt(count($triangles)));
        $boxes = [];
        $endX = $endY = -INF;
        foreach ($triangles as $t) {
            [$a, $b, $c] = [3 * $given[3 * $t], 3 * $given[3 * $t + 1], 3 * $given[3 * $t + 2]];
            $x0 = min($points->xyz[$a + $u], $points->xyz[$b + $u], $points->xyz[$c + $u]);
            $x1 = max($points->xyz[$a + $u], $points->xyz[$b + $u], $points->xyz[$c + $u]);
            $y0 = min($points->xyz[$a + $v], $points->xyz[$b + $v], $points->xyz[$c + $v]);
            $y1 = max($points->xyz[$a + $v], $points->xyz[$b + $v], $points->xyz[$c + $v]);
            $boxes[$t] = [$x0, $x1, $y0, $y1];
            $this->x = min($this->x, $x0);
            $this->y = min($this->y, $y0);
            $endX = max($endX, $x1);
            $endY = max($endY, $y1);
        }
        $this->perX = $this->side / max($endX - $this->x, 1e-300);
        $this->perY = $this->side / max($endY - $this->y, 1e-300);
        foreach ($boxes as $t => [$x0, $x1, $y0, $y1]) {
            for ($j = $this->row($y0, -self::AROUND); $j <= $this->row($y1, self::AROUND); $j++) {
                for ($i = $this->column($x0, -self::AROUND); $i <= $this->column($x1, self::AROUND); $i++) {
                    $this->cells[$j * $this->side + $i][] = $t;
                }
            }
        }
    }

    /** @return list<int> all triangles in which a point may lie, and others */
    public function at(int $point): array
    {
        return $this->cells[$this->row($this->points->xyz[3 * $point + $this->v], 0.0) * $this->side + $this->column($this->points->xyz[3 * $point + $this->u], 0.0)] ?? [];
    }

    private function column(float $x, float $more): int
    {
        return max(0, min($this->side - 1, (int) (($x - $this->x) * $this->perX + $more)));
    }

    private function row(float $y, float $more): int
    {
        return max(0, min($this->side - 1, (int) (($y - $this->y) * $this->perY + $more)));
    }
}
