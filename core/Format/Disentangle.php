<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Geometry\Extent;
use Isotome\Mesh\Mark;

/**
 * Mends a closed surface after vertices fell together.
 *
 * Two triangles back to back on the same corners cancel. An edge that more than two faces share then is given to the pairs
 * of faces that have material between them (in the order of their angles about the edge); one pair keeps the edge, every
 * other pair gets a point of its own beside it, so that no two pairs have an edge in common: a few of the file's numbers
 * into the pair's own material, because a point on the edge would be rounded to either side of it, and through the other
 * pairs' faces. On an edge too short for another point, the ends are taken together instead, and all is looked at again.
 */
final class Disentangle
{
    /** How far a pair's own point is from the faces of other pairs, in grains (see Precision::grain). Rounding moves it by less than one. */
    private const CLEARANCE = 4.0;

    /** A point is never farther from the edge than this share of its length. */
    private const MOST = 0.125;

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @param  list<int>  $tags
     * @param  array<string, int>  $index  vertex by its place
     */
    public function __construct(
        private array $xyz,
        private array $corners,
        private array $tags,
        private array $index,
        private readonly Precision $precision,
    ) {
    }

    /**
     * @param  array<int, true>  $vertices  where vertices fell together: only edges that end there can be shared too often
     * @return array{list<float>, list<int>, list<int>}
     */
    public function near(array $vertices): array
    {
        do {
            $again = false;
            $faces = $this->facesAt($vertices);
            $gone = $this->backToBack($faces);
            $byEdge = $this->halfEdges(array_diff_key($faces, $gone), $vertices);
            $extra = [];
            $joined = [];
            foreach ($byEdge as [$low, $high, $forward, $backward]) {
                if (count($forward) < 2 || count($backward) < 2 || isset($joined[$low]) || isset($joined[$high])) {
                    continue;
                }
                foreach (array_slice($this->pairs($low, $high, $forward, $backward), 1) as [$one, $other, $inwards]) {
                    if (isset($gone[intdiv($one, 3)]) || isset($gone[intdiv($other, 3)])) {
                        $again = true;

                        continue;
                    }
                    $m = $this->freePoint($low, $high, $inwards);
                    if ($m === null) {
                        $joined[$low] = $low;
                        $joined[$high] = $low;
                        $again = true;
                        break;
                    }
                    foreach ([$one, $other] as $h) {
                        $t = intdiv($h, 3);
                        $p = $this->corners[$h];
                        $q = $this->corners[$h % 3 === 2 ? $h - 2 : $h + 1];
                        $r = $this->corners[3 * $t] + $this->corners[3 * $t + 1] + $this->corners[3 * $t + 2] - $p - $q;
                        $gone[$t] = true;
                        $extra[] = [$p, $m, $r, $this->tags[$t]];
                        $extra[] = [$m, $q, $r, $this->tags[$t]];
                    }
                }
            }
            $this->replace($gone, $extra, $joined);
            foreach ($joined as $v => $to) {
                unset($vertices[$v]);
                $vertices[$to] = true;
            }
        } while ($again);

        return [$this->xyz, $this->corners, $this->tags];
    }

    /**
     * @param  array<int, true>  $vertices
     * @return array<int, true>
     */
    private function facesAt(array $vertices): array
    {
        $faces = [];
        foreach ($this->corners as $i => $v) {
            if (isset($vertices[$v])) {
                $faces[intdiv($i, 3)] = true;
            }
        }

        return $faces;
    }

    /**
     * @param  array<int, true>  $faces
     * @return array<int, true>
     */
    private function backToBack(array $faces): array
    {
        $waiting = [];
        $gone = [];
        foreach ($faces as $t => $_) {
            [$a, $b, $c] = [$this->corners[3 * $t], $this->corners[3 * $t + 1], $this->corners[3 * $t + 2]];
            $odd = ($a > $b) !== (($b > $c) !== ($a > $c));
            $sorted = [$a, $b, $c];
            sort($sorted);
            $key = implode(' ', $sorted);
            if (($waiting[$key][$odd ? 0 : 1] ?? []) !== []) {
                $gone[array_pop($waiting[$key][$odd ? 0 : 1])] = true;
                $gone[$t] = true;
            } else {
                $waiting[$key][$odd ? 1 : 0][] = $t;
            }
        }

        return $gone;
    }

    /**
     * @param  array<int, true>  $faces
     * @param  array<int, true>  $vertices
     * @return array<string, array{int, int, list<int>, list<int>}> ends, forward and backward half-edges of each edge
     */
    private function halfEdges(array $faces, array $vertices): array
    {
        $byEdge = [];
        foreach ($faces as $t => $_) {
            for ($k = 0; $k < 3; $k++) {
                $p = $this->corners[3 * $t + $k];
                $q = $this->corners[3 * $t + ($k + 1) % 3];
                if (! isset($vertices[$p]) && ! isset($vertices[$q])) {
                    continue;
                }
                [$low, $high] = $p < $q ? [$p, $q] : [$q, $p];
                $byEdge["$low $high"] ??= [$low, $high, [], []];
                $byEdge["$low $high"][$p < $q ? 2 : 3][] = 3 * $t + $k;
            }
        }

        return $byEdge;
    }

    /**
     * @param  list<int>  $forward
     * @param  list<int>  $backward
     * @return list<array{int, int, array{float, float, float}}> those with a cut face first, as they should keep the edge; with how to leave the edge, in grains
     */
    private function pairs(int $low, int $high, array $forward, array $backward): array
    {
        $dx = $this->xyz[3 * $high] - $this->xyz[3 * $low];
        $dy = $this->xyz[3 * $high + 1] - $this->xyz[3 * $low + 1];
        $dz = $this->xyz[3 * $high + 2] - $this->xyz[3 * $low + 2];
        // Any direction square to the edge is angle 0; the second one makes the turn right-handed about the edge.
        [$ex, $ey, $ez] = abs($dx) <= abs($dy) && abs($dx) <= abs($dz) ? [0.0, $dz, -$dy] : (abs($dy) <= abs($dz) ? [-$dz, 0.0, $dx] : [$dy, -$dx, 0.0]);
        $fx = $dy * $ez - $dz * $ey;
        $fy = $dz * $ex - $dx * $ez;
        $fz = $dx * $ey - $dy * $ex;
        // Of an edge without length every direction is as good.
        $e = max(1e-300, sqrt($ex * $ex + $ey * $ey + $ez * $ez));
        $f = max(1e-300, sqrt($fx * $fx + $fy * $fy + $fz * $fz));
        $rays = [];
        foreach ([$backward, $forward] as $isForward => $halfEdges) {
            foreach ($halfEdges as $h) {
                $t = $h - $h % 3;
                $w = 3 * ($this->corners[$t] + $this->corners[$t + 1] + $this->corners[$t + 2] - $low - $high);
                $x = $this->xyz[$w] - $this->xyz[3 * $low];
                $y = $this->xyz[$w + 1] - $this->xyz[3 * $low + 1];
                $z = $this->xyz[$w + 2] - $this->xyz[3 * $low + 2];
                $rays[] = [atan2(($x * $fx + $y * $fy + $z * $fz) / $f, ($x * $ex + $y * $ey + $z * $ez) / $e), $isForward, $h];
            }
        }
        usort($rays, static fn (array $a, array $b): int => $a[0] <=> $b[0] ?: $a[1] <=> $b[1] ?: $a[2] <=> $b[2]);
        $open = [];
        $pairs = [];
        $count = count($rays);
        foreach ([...$rays, ...$rays] as $n => [$angle, $isForward, $h]) {
            if ($isForward === 0) {
                if ($n < $count) {
                    $open[] = $n;
                }
            } elseif ($open !== [] && ! isset($pairs[$h])) {
                $begin = array_pop($open);
                $inwards = [0.0, 0.0, 0.0];
                if ($n === $begin + 1) {
                    // Half-way between the two faces; with another face between them, there is no room.
                    $half = ($angle + ($n < $count ? 0.0 : 2 * M_PI) - $rays[$begin][0]) / 2;
                    $away = self::CLEARANCE / max(1e-9, sin(min($half, M_PI / 2)));
                    $along = $away * cos($rays[$begin][0] + $half) / $e;
                    $across = $away * sin($rays[$begin][0] + $half) / $f;
                    $inwards = [$along * $ex + $across * $fx, $along * $ey + $across * $fy, $along * $ez + $across * $fz];
                }
                $pairs[$h] = [$h, $rays[$begin][2], $inwards];
            }
        }
        usort($pairs, fn (array $a, array $b): int => $this->cutFaces($b) <=> $this->cutFaces($a));

        return $pairs;
    }

    /** @param  array{int, int, array{float, float, float}}  $pair */
    private function cutFaces(array $pair): int
    {
        return (Mark::isInside($this->tags[intdiv($pair[0], 3)]) ? 1 : 0) + (Mark::isInside($this->tags[intdiv($pair[1], 3)]) ? 1 : 0);
    }

    /**
     * A new vertex near the edge, at a place where none is yet.
     *
     * @param  array{float, float, float}  $inwards  how to leave the edge, in grains
     */
    private function freePoint(int $low, int $high, array $inwards): ?int
    {
        $a = array_slice($this->xyz, 3 * $low, 3);
        $b = array_slice($this->xyz, 3 * $high, 3);
        $length = sqrt(($b[0] - $a[0]) ** 2 + ($b[1] - $a[1]) ** 2 + ($b[2] - $a[2]) ** 2);
        $away = sqrt($inwards[0] ** 2 + $inwards[1] ** 2 + $inwards[2] ** 2);
        $grain = min($this->precision->grain(max(Extent::of($a), Extent::of($b))), self::MOST * $length / max($away, 1e-300));
        foreach ([0.5, 0.25, 0.75, 0.375, 0.625, 0.125, 0.875, 0.4375, 0.5625, 0.3125, 0.6875] as $share) {
            $point = [];
            for ($k = 0; $k < 3; $k++) {
                $point[] = $a[$k] + $share * ($b[$k] - $a[$k]) + $grain * $inwards[$k];
            }
            $key = $this->precision->key(...$point);
            if (! isset($this->index[$key])) {
                $m = intdiv(count($this->xyz), 3);
                $this->index[$key] = $m;
                array_push($this->xyz, ...$this->precision->decode([[$key]]));

                return $m;
            }
        }

        return null;
    }

    /**
     * @param  array<int, true>  $gone
     * @param  list<array{int, int, int, int}>  $extra
     * @param  array<int, int>  $joined
     */
    private function replace(array $gone, array $extra, array $joined): void
    {
        if ($gone === [] && $extra === [] && $joined === []) {
            return;
        }
        $corners = [];
        $tags = [];
        $add = static function (int $a, int $b, int $c, int $tag) use (&$corners, &$tags, $joined): void {
            $a = $joined[$a] ?? $a;
            $b = $joined[$b] ?? $b;
            $c = $joined[$c] ?? $c;
            if ($a !== $b && $b !== $c && $c !== $a) {
                array_push($corners, $a, $b, $c);
                $tags[] = $tag;
            }
        };
        foreach ($this->tags as $t => $tag) {
            if (! isset($gone[$t])) {
                $add($this->corners[3 * $t], $this->corners[3 * $t + 1], $this->corners[3 * $t + 2], $tag);
            }
        }
        foreach ($extra as $face) {
            $add(...$face);
        }
        $this->corners = $corners;
        $this->tags = $tags;
    }
}
