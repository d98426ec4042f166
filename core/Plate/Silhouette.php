<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Isotome\Mesh\Mesh;

/**
 * What a piece covers of the bed, as seen from above: strips of one width, each with the stretches that are covered.
 *
 * Guarantees: all of the piece is above the stretches; they reach beyond it by less than twice the width of a strip.
 */
final readonly class Silhouette
{
    /**
     * @param  list<array{float, float, float, float}>  $stretches  from x, from y, to x, to y, mm
     * @param  list<array{float, float}>  $hull  the convex polygon around it, counter-clockwise
     */
    private function __construct(
        public array $stretches,
        public array $hull,
    ) {
    }

    /** @param  Mesh  $mesh  as it lies */
    public static function of(Mesh $mesh, float $width): self
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $columns = $rows = [];
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $columns[] = (int) floor($xyz[$i] / $width);
            $rows[] = (int) floor($xyz[$i + 1] / $width);
        }
        /** @var array<int, array<int, int>> $ends by strip, then by where a stretch begins: where it ends; both in whole widths */
        $ends = [];
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            $p = $rows[$a];
            $q = $rows[$b];
            $r = $rows[$c];
            $first = $p < $q ? ($p < $r ? $p : $r) : ($q < $r ? $q : $r);
            $last = $p > $q ? ($p > $r ? $p : $r) : ($q > $r ? $q : $r);
            $p = $columns[$a];
            $q = $columns[$b];
            $r = $columns[$c];
            $from = $p < $q ? ($p < $r ? $p : $r) : ($q < $r ? $q : $r);
            $to = 1 + ($p > $q ? ($p > $r ? $p : $r) : ($q > $r ? $q : $r));
            if ($last - $first < 2 && $to - $from < 3) {
                // A small one is taken to cover all cells that it is in.
                for ($k = $first; $k <= $last; $k++) {
                    if (! isset($ends[$k][$from]) || $ends[$k][$from] < $to) {
                        $ends[$k][$from] = $to;
                    }
                }

                continue;
            }
            $a *= 3;
            $b *= 3;
            $c *= 3;
            [$ax, $ay, $bx, $by, $cx, $cy] = [$xyz[$a], $xyz[$a + 1], $xyz[$b], $xyz[$b + 1], $xyz[$c], $xyz[$c + 1]];
            // A closed body is covered by the faces that look up.
            if (($bx - $ax) * ($cy - $ay) - ($by - $ay) * ($cx - $ax) < 0.0) {
                continue;
            }
            for ($k = $first; $k <= $last; $k++) {
                [$low, $high] = Strip::reach([[$ax, $ay], [$bx, $by], [$cx, $cy]], $k * $width, ($k + 1) * $width);
                if ($low <= $high) {
                    $from = (int) floor($low / $width);
                    $to = (int) floor($high / $width) + 1;
                    $ends[$k][$from] = max($ends[$k][$from] ?? $to, $to);
                }
            }
        }
        ksort($ends);
        $stretches = [];
        foreach ($ends as $k => $strip) {
            foreach (Strip::joined($strip) as [$from, $to]) {
                $stretches[] = [$from * $width, $k * $width, $to * $width, ($k + 1) * $width];
            }
        }
        $places = [];
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $places[] = [$xyz[$i], $xyz[$i + 1]];
        }

        return new self($stretches, Rests::around($places));
    }

    /**
     * The box around the piece when it is turned about the upright through the origin.
     *
     * @return array{float, float, float, float} from x, from y, to x, to y, mm
     */
    public function box(float $degrees): array
    {
        [$c, $s] = self::turn($degrees);
        $box = [INF, INF, -INF, -INF];
        foreach ($this->hull as [$x, $y]) {
            $px = $c * $x - $s * $y;
            $py = $s * $x + $c * $y;
            $box = [min($box[0], $px), min($box[1], $py), max($box[2], $px), max($box[3], $py)];
        }

        return $box;
    }

    public function area(): float
    {
        $area = 0.0;
        foreach ($this->stretches as [$x0, $y0, $x1, $y1]) {
            $area += ($x1 - $x0) * ($y1 - $y0);
        }

        return $area;
    }

    /** @return array{float, float} cosine and sine, exact for quarters */
    public static function turn(float $degrees): array
    {
        $quarters = $degrees / 90;

        return $quarters === floor($quarters) ? [[1.0, 0.0, -1.0, 0.0][(int) $quarters & 3], [0.0, 1.0, 0.0, -1.0][(int) $quarters & 3]] : [cos(deg2rad($degrees)), sin(deg2rad($degrees))];
    }
}
