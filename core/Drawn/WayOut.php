<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Isotome\Mesh\Mesh;

/**
 * From an end of a line, past the silhouette of a body, to where the body is no more: so a line that ends beside the body parts what it crosses.
 *
 * Guarantees: the way crosses nothing of the silhouette. There is none from an end that lies within it, or in a hole of it.
 */
final class WayOut
{
    /** Directions in which it is tried straight. */
    private const STRAIGHT = 16;

    /** Cells along either axis, of the map on which a way round corners is looked for. */
    private const CELLS = [192, 768];

    /** @var array{list<float>, list<float>}|null */
    private ?array $seen = null;

    /**
     * @param  array{float, float, float, float}  $box  of the silhouette: least u, greatest u, least v, greatest v
     * @param  float  $margin  how far beyond it the way ends
     */
    public function __construct(private readonly Mesh $body, private readonly Sight $sight, private readonly array $box, private readonly float $margin)
    {
    }

    /**
     * @param  array{float, float}  $end
     * @param  array{float, float}  $before  the corner before it, from which it comes
     * @return list<array{float, float}>|null corners of the way, the last one beyond the body; null when there is none
     */
    public function from(array $end, array $before): ?array
    {
        [$u0, $u1, $v0, $v1] = $this->box;
        [$u, $v] = $end;
        $m = $this->margin;
        // Beside the box: straight away from it.
        if ($u < $u0 || $u > $u1) {
            return [[$u < $u0 ? min($u, $u0) - $m : max($u, $u1) + $m, $v]];
        }
        if ($v < $v0 || $v > $v1) {
            return [[$u, $v < $v0 ? min($v, $v0) - $m : max($v, $v1) + $m]];
        }
        if ($this->isCovered($u, $v)) {
            return null;
        }
        $far = 2 * ($u1 - $u0 + $v1 - $v0) + $m;
        $first = atan2($v - $before[1], $u - $before[0]);
        for ($k = 0; $k < self::STRAIGHT; $k++) {
            // As it comes, then more and more to either side.
            $angle = $first + ($k % 2 === 0 ? 1 : -1) * intdiv($k + 1, 2) * 2 * M_PI / self::STRAIGHT;
            $to = [$u + $far * cos($angle), $v + $far * sin($angle)];
            if (! $this->isMet($end, $to)) {
                return [$to];
            }
        }
        foreach (self::CELLS as $cells) {
            $way = $this->onMap($u, $v, $cells);
            if ($way !== null) {
                return $way;
            }
        }

        return null;
    }

    /** @return array{list<float>, list<float>} page coordinates of all vertices */
    private function seen(): array
    {
        if ($this->seen === null) {
            $us = $vs = [];
            $xyz = $this->body->xyz;
            for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
                [$us[], $vs[]] = $this->sight->page([$xyz[$i], $xyz[$i + 1], $xyz[$i + 2]]);
            }
            $this->seen = [$us, $vs];
        }

        return $this->seen;
    }

    private function isCovered(float $u, float $v): bool
    {
        [$us, $vs] = $this->seen();
        $corners = $this->body->corners;
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            [$a, $b, $c] = [$corners[$i], $corners[$i + 1], $corners[$i + 2]];
            if (($us[$a] < $u && $us[$b] < $u && $us[$c] < $u) || ($us[$a] > $u && $us[$b] > $u && $us[$c] > $u) || ($vs[$a] < $v && $vs[$b] < $v && $vs[$c] < $v) || ($vs[$a] > $v && $vs[$b] > $v && $vs[$c] > $v)) {
                continue;
            }
            $one = ($us[$b] - $us[$a]) * ($v - $vs[$a]) - ($vs[$b] - $vs[$a]) * ($u - $us[$a]);
            $two = ($us[$c] - $us[$b]) * ($v - $vs[$b]) - ($vs[$c] - $vs[$b]) * ($u - $us[$b]);
            $three = ($us[$a] - $us[$c]) * ($v - $vs[$c]) - ($vs[$a] - $vs[$c]) * ($u - $us[$c]);
            if (($one >= 0 && $two >= 0 && $three >= 0) || ($one <= 0 && $two <= 0 && $three <= 0)) {
                return true;
            }
        }

        return false;
    }

    /**
     * Does a stretch that begins beside the silhouette cross it?
     *
     * @param  array{float, float}  $from
     * @param  array{float, float}  $to
     */
    private function isMet(array $from, array $to): bool
    {
        [$us, $vs] = $this->seen();
        [$u, $v] = $from;
        [$du, $dv] = [$to[0] - $u, $to[1] - $v];
        $side = $on = [];
        foreach ($us as $k => $x) {
            $side[] = $du * ($vs[$k] - $v) - $dv * ($x - $u);
            $on[] = $du * ($x - $u) + $dv * ($vs[$k] - $v);
        }
        $corners = $this->body->corners;
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            [$a, $b, $c] = [$corners[$i], $corners[$i + 1], $corners[$i + 2]];
            if (($side[$a] > 0.0 && $side[$b] > 0.0 && $side[$c] > 0.0) || ($side[$a] < 0.0 && $side[$b] < 0.0 && $side[$c] < 0.0) || ($on[$a] < 0.0 && $on[$b] < 0.0 && $on[$c] < 0.0)) {
                continue;
            }
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                if ($side[$p] > 0.0 === $side[$q] > 0.0 && $side[$p] !== 0.0) {
                    continue;
                }
                $across = $side[$p] - $side[$q];
                $s = $across == 0.0 ? 0.0 : $side[$p] / $across;
                if ($on[$p] + $s * ($on[$q] - $on[$p]) >= 0.0 || ($across == 0.0 && $on[$q] >= 0.0)) {
                    return true;
                }
            }
        }

        return false;
    }

    /**
     * From cell to cell of a map on which every cell that a triangle's box touches is taken; breadth first.
     *
     * @return list<array{float, float}>|null
     */
    private function onMap(float $u, float $v, int $cells): ?array
    {
        [$us, $vs] = $this->seen();
        [$u0, $u1, $v0, $v1] = $this->box;
        // One free cell all round.
        $du = max($u1 - $u0, 1e-300) / $cells;
        $dv = max($v1 - $v0, 1e-300) / $cells;
        $w = $cells + 2;
        $taken = str_repeat("\0", $w * $w);
        $corners = $this->body->corners;
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            [$a, $b, $c] = [$corners[$i], $corners[$i + 1], $corners[$i + 2]];
            $i0 = 1 + (int) floor((min($us[$a], $us[$b], $us[$c]) - $u0) / $du);
            $i1 = 1 + (int) floor((max($us[$a], $us[$b], $us[$c]) - $u0) / $du);
            $j0 = 1 + (int) floor((min($vs[$a], $vs[$b], $vs[$c]) - $v0) / $dv);
            $j1 = 1 + (int) floor((max($vs[$a], $vs[$b], $vs[$c]) - $v0) / $dv);
            for ($j = $j0; $j <= min($j1, $cells); $j++) {
                for ($k = $i0; $k <= min($i1, $cells); $k++) {
                    $taken[$j * $w + $k] = "\1";
                }
            }
        }
        $start = (1 + (int) floor(($v - $v0) / $dv)) * $w + 1 + (int) floor(($u - $u0) / $du);
        if ($taken[$start] !== "\0") {
            return null;
        }
        $from = [$start => -1];
        $queue = [$start];
        for ($at = 0; $at < count($queue); $at++) {
            $cell = $queue[$at];
            [$j, $i] = [intdiv($cell, $w), $cell % $w];
            if ($i === 0 || $j === 0 || $i === $w - 1 || $j === $w - 1) {
                $way = [];
                for ($c = $cell; $c >= 0; $c = $from[$c]) {
                    array_unshift($way, [$u0 + ($c % $w - 0.5) * $du, $v0 + (intdiv($c, $w) - 0.5) * $dv]);
                }
                $far = $this->margin;
                $way[] = [$way[count($way) - 1][0] + ($i === 0 ? -$far : ($i === $w - 1 ? $far : 0.0)), $way[count($way) - 1][1] + ($i === 0 || $i === $w - 1 ? 0.0 : ($j === 0 ? -$far : $far))];

                return $way;
            }
            foreach ([$cell - 1, $cell + 1, $cell - $w, $cell + $w] as $next) {
                if (! isset($from[$next]) && $taken[$next] === "\0") {
                    $from[$next] = $cell;
                    $queue[] = $next;
                }
            }
        }

        return null;
    }
}
