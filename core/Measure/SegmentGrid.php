<?php

declare(strict_types=1);

namespace Isotome\Measure;

/** Line segments in the plane, found by place through a grid of square cells. */
final class SegmentGrid
{
    private float $x0;

    private float $y0;

    private float $cell;

    private int $columns;

    private int $rows;

    private float $size;

    /** @var array<int, list<int>> */
    private array $cells = [];

    /**
     * @param  list<float>  $ax
     * @param  list<float>  $ay
     * @param  list<float>  $bx
     * @param  list<float>  $by
     */
    public function __construct(
        private readonly array $ax,
        private readonly array $ay,
        private readonly array $bx,
        private readonly array $by,
    ) {
        $this->x0 = $ax === [] ? 0.0 : min($ax);
        $this->y0 = $ay === [] ? 0.0 : min($ay);
        $width = $ax === [] ? 0.0 : max($ax) - $this->x0;
        $height = $ay === [] ? 0.0 : max($ay) - $this->y0;
        $this->size = hypot($width, $height);
        $across = (int) max(1, min(512, ceil(sqrt(count($ax)))));
        $this->cell = max($width, $height, 1e-300) / $across;
        $this->columns = (int) floor($width / $this->cell) + 1;
        $this->rows = (int) floor($height / $this->cell) + 1;
        foreach ($ax as $e => $x) {
            foreach ($this->cellsOf(min($x, $bx[$e]), max($x, $bx[$e]), min($ay[$e], $by[$e]), max($ay[$e], $by[$e])) as $cell) {
                $this->cells[$cell][] = $e;
            }
        }
    }

    public function extent(): float
    {
        return $this->size;
    }

    /**
     * The nearest place within the radius of any segment whose left side looks against the direction, within 60°.
     *
     * @param  list<int>  $except
     * @return array{int, float, float} segment and place; −1 when there is none
     */
    public function nearest(float $x, float $y, float $radius, float $nx, float $ny, array $except = []): array
    {
        $best = $radius * $radius;
        $found = [-1, 0.0, 0.0];
        foreach ($this->around($x, $y, $radius) as $e) {
            if (in_array($e, $except, true)) {
                continue;
            }
            $dx = $this->bx[$e] - $this->ax[$e];
            $dy = $this->by[$e] - $this->ay[$e];
            if ($dx * $ny - $dy * $nx > -0.5 * hypot($dx, $dy)) {
                continue;
            }
            [$qx, $qy] = $this->foot($e, $x, $y);
            $square = ($qx - $x) ** 2 + ($qy - $y) ** 2;
            if ($square < $best) {
                $best = $square;
                $found = [$e, $qx, $qy];
            }
        }

        return $found;
    }

    /** @return list<int> segments whose cells reach into the square around the place */
    public function around(float $x, float $y, float $radius): array
    {
        $found = [];
        foreach ($this->cellsOf($x - $radius, $x + $radius, $y - $radius, $y + $radius) as $cell) {
            foreach ($this->cells[$cell] ?? [] as $e) {
                $found[$e] = $e;
            }
        }

        return array_values($found);
    }

    /** @return array{float, float} the place of the segment nearest to the point */
    public function foot(int $e, float $x, float $y): array
    {
        $dx = $this->bx[$e] - $this->ax[$e];
        $dy = $this->by[$e] - $this->ay[$e];
        $t = (($x - $this->ax[$e]) * $dx + ($y - $this->ay[$e]) * $dy) / ($dx * $dx + $dy * $dy);
        $t = max(0.0, min(1.0, $t));

        return [$this->ax[$e] + $t * $dx, $this->ay[$e] + $t * $dy];
    }

    /** @return list<int> */
    private function cellsOf(float $x0, float $x1, float $y0, float $y1): array
    {
        $c0 = max(0, (int) floor(($x0 - $this->x0) / $this->cell));
        $c1 = min($this->columns - 1, (int) floor(($x1 - $this->x0) / $this->cell));
        $r0 = max(0, (int) floor(($y0 - $this->y0) / $this->cell));
        $r1 = min($this->rows - 1, (int) floor(($y1 - $this->y0) / $this->cell));
        $cells = [];
        for ($r = $r0; $r <= $r1; $r++) {
            for ($c = $c0; $c <= $c1; $c++) {
                $cells[] = $r * $this->columns + $c;
            }
        }

        return $cells;
    }
}
