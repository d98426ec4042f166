<?php

declare(strict_types=1);

namespace Isotome\Measure;

/** How far places are from outlines: positive within, negative outside. Segments that follow each other are looked at together, by the box around them. */
final class Depth
{
    /** Segments of a group. */
    private const GROUP = 12;

    /** @var list<float> of each group: x from, x to, y from, y to */
    private array $boxes = [];

    /**
     * Segments from a to b, in any order; neighbours near each other make it quick.
     *
     * @param  list<float>  $ax
     * @param  list<float>  $ay
     * @param  list<float>  $bx
     * @param  list<float>  $by
     */
    public function __construct(private readonly array $ax, private readonly array $ay, private readonly array $bx, private readonly array $by)
    {
        $count = count($ax);
        for ($start = 0; $start < $count; $start += self::GROUP) {
            $x0 = $y0 = INF;
            $x1 = $y1 = -INF;
            for ($e = $start; $e < $start + self::GROUP && $e < $count; $e++) {
                $x0 = min($x0, $ax[$e], $bx[$e]);
                $x1 = max($x1, $ax[$e], $bx[$e]);
                $y0 = min($y0, $ay[$e], $by[$e]);
                $y1 = max($y1, $ay[$e], $by[$e]);
            }
            array_push($this->boxes, $x0, $x1, $y0, $y1);
        }
    }

    public function at(float $x, float $y): float
    {
        $boxes = $this->boxes;
        $groups = intdiv(count($boxes), 4);
        $count = count($this->ax);
        $isWithin = false;
        $square = INF;
        // A group near the place first: then most others are too far to matter.
        $near = 0;
        $least = INF;
        for ($g = 0, $i = 0; $g < $groups; $g++, $i += 4) {
            $dx = $x < $boxes[$i] ? $boxes[$i] - $x : ($x > $boxes[$i + 1] ? $x - $boxes[$i + 1] : 0.0);
            $dy = $y < $boxes[$i + 2] ? $boxes[$i + 2] - $y : ($y > $boxes[$i + 3] ? $y - $boxes[$i + 3] : 0.0);
            $d = $dx * $dx + $dy * $dy;
            if ($d < $least) {
                $least = $d;
                $near = $g;
            }
        }
        for ($n = -1; $n < $groups; $n++) {
            $g = $n < 0 ? $near : $n;
            if ($n === $near) {
                continue;
            }
            $i = 4 * $g;
            $isBeside = $x <= $boxes[$i + 1] && $y >= $boxes[$i + 2] && $y <= $boxes[$i + 3];
            if (! $isBeside) {
                $dx = $x < $boxes[$i] ? $boxes[$i] - $x : ($x > $boxes[$i + 1] ? $x - $boxes[$i + 1] : 0.0);
                $dy = $y < $boxes[$i + 2] ? $boxes[$i + 2] - $y : ($y > $boxes[$i + 3] ? $y - $boxes[$i + 3] : 0.0);
                if ($dx * $dx + $dy * $dy >= $square) {
                    continue;
                }
            }
            $end = min($count, ($g + 1) * self::GROUP);
            for ($e = $g * self::GROUP; $e < $end; $e++) {
                $px = $this->ax[$e];
                $py = $this->ay[$e];
                $dx = $this->bx[$e] - $px;
                $dy = $this->by[$e] - $py;
                $vx = $x - $px;
                $vy = $y - $py;
                if (($py > $y) !== ($this->by[$e] > $y) && $vx < $dx * $vy / $dy) {
                    $isWithin = ! $isWithin;
                }
                $length = $dx * $dx + $dy * $dy;
                $t = $length > 0.0 ? ($vx * $dx + $vy * $dy) / $length : 0.0;
                if ($t > 0.0) {
                    $t = $t < 1.0 ? $t : 1.0;
                    $vx -= $t * $dx;
                    $vy -= $t * $dy;
                }
                $d = $vx * $vx + $vy * $vy;
                $square = $d < $square ? $d : $square;
            }
        }

        return $isWithin ? sqrt($square) : -sqrt($square);
    }
}
