<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Exception\BadBlade;
use Isotome\Geometry\Chance;

/**
 * Blocks: layers, each divided into rows, each divided into blocks, as a wall is built; along the axes of a box.
 *
 * Bricks: every other row, and layer by layer, starts half a block along. Wander: every joint is shifted by chance, by at most a share of the
 * block's length. The outermost blocks reach to the ends of the box.
 */
final class Blocks
{
    public const MOST = 20_000;

    /** Along one axis at most. */
    private const ALONG = 2000;

    /** @var array<string, int> */
    private array $number = [];

    /** @var list<float> */
    private array $xyz = [];

    /** @var array<string, array<string, float>> places of vertices along every line that is parallel to an axis */
    private array $lines = [];

    /** @var list<array{int, array{float, float, float}, array{float, float, float}, int, int}> */
    private array $sides = [];

    private function __construct()
    {
    }

    /**
     * @param  array{float, float, float}  $min  the box that is divided
     * @param  array{float, float, float}  $max
     * @param  array{float, float, float}  $low  how far the outermost blocks reach
     * @param  array{float, float, float}  $high
     * @param  array{int, int, int}|null  $count  blocks along each axis
     * @param  array{float, float, float}|null  $size  mm, counted from the middle, instead of a count
     * @param  float  $wander  0 to 0.45
     *
     * @throws BadBlade
     */
    public static function of(array $min, array $max, array $low, array $high, ?array $count, ?array $size, bool $isBrick = false, float $wander = 0.0, int $seed = 1): Complex
    {
        if ($wander < 0.0 || $wander > 0.45) {
            throw new BadBlade("The blocks wander by $wander of their length; give 0 to 0.45.");
        }
        $joints = [];
        $step = [];
        for ($k = 0; $k < 3; $k++) {
            $span = $max[$k] - $min[$k];
            if ($count !== null) {
                if ($count[$k] < 1 || $count[$k] > self::ALONG) {
                    throw new BadBlade('The blocks are '.$count[$k].' along an axis; give 1 to '.self::ALONG.'.');
                }
                $step[$k] = $span / $count[$k];
                $first = $min[$k] + $step[$k];
                $many = $count[$k] - 1;
            } else {
                $step[$k] = $size[$k] ?? 0.0;
                if (! is_finite($step[$k]) || $step[$k] <= 0.0) {
                    throw new BadBlade('The blocks are '.$step[$k].' mm long along an axis; give more than 0.');
                }
                if ($span / $step[$k] > self::ALONG) {
                    throw new BadBlade(sprintf('The blocks would be more than %d along an axis; make them larger than %g mm.', self::ALONG, $step[$k]));
                }
                // Blocks lie about the middle: the end ones are alike.
                $many = max(0, (int) ceil($span / $step[$k] - 1e-9) - 1);
                $first = ($min[$k] + $max[$k]) / 2 - $step[$k] * ($many - 1) / 2;
            }
            $joints[$k] = [];
            for ($i = 0; $i < $many; $i++) {
                $joints[$k][] = $first + $i * $step[$k];
            }
        }
        $blocks = (count($joints[0]) + 2) * (count($joints[1]) + 1) * (count($joints[2]) + 1);
        if ($blocks > self::MOST) {
            throw new BadBlade("The blocks would be about $blocks; give at most ".self::MOST.'.');
        }
        $chance = new Chance($seed);
        $building = new self;
        $layers = [];
        $edge = [$low[2], ...self::moved($joints[2], $chance, $wander * $step[2]), $high[2]];
        for ($l = 0; $l + 1 < count($edge); $l++) {
            $rows = [];
            $across = [$low[1], ...self::moved($joints[1], $chance, $wander * $step[1]), $high[1]];
            for ($r = 0; $r + 1 < count($across); $r++) {
                $shift = $isBrick && ($l + $r) % 2 === 1 ? $step[0] / 2 : 0.0;
                $places = $shift === 0.0 ? $joints[0] : [...array_map(static fn (float $at): float => $at - $shift, $joints[0]), ...($joints[0] === [] ? [($min[0] + $max[0]) / 2] : [$joints[0][count($joints[0]) - 1] + $shift])];
                $rows[] = [$across[$r], $across[$r + 1], [$low[0], ...self::moved($places, $chance, $wander * $step[0]), $high[0]]];
            }
            $layers[] = [$edge[$l], $edge[$l + 1], $rows];
        }

        return $building->built($layers);
    }

    /**
     * @param  list<float>  $joints
     * @return list<float>
     */
    private static function moved(array $joints, Chance $chance, float $most): array
    {
        if ($most <= 0.0) {
            return $joints;
        }
        $moved = [];
        foreach ($joints as $at) {
            $moved[] = $at + (2 * $chance->uniform() - 1) * $most;
        }

        return $moved;
    }

    /** @param  list<array{float, float, list<array{float, float, list<float>}>}>  $layers */
    private function built(array $layers): Complex
    {
        $first = [];
        $cells = 0;
        foreach ($layers as $l => [$z0, $z1, $rows]) {
            foreach ($rows as $r => [$y0, $y1, $xs]) {
                $first[$l][$r] = $cells;
                $cells += count($xs) - 1;
            }
        }
        $topLayer = count($layers) - 1;
        foreach ($layers as $l => [$z0, $z1, $rows]) {
            foreach ($rows as $r => [$y0, $y1, $xs]) {
                $last = count($xs) - 1;
                foreach ($xs as $i => $x) {
                    $this->side(0, [$x, $y0, $z0], [$x, $y1, $z1], $i > 0 ? $first[$l][$r] + $i - 1 : -1, $i < $last ? $first[$l][$r] + $i : -1);
                }
                if ($r === 0) {
                    $this->along($xs, $xs, $first[$l][$r], -1, fn (float $a, float $b, int $one, int $other) => $this->side(1, [$a, $y0, $z0], [$b, $y0, $z1], $other, $one));
                }
                if ($r === count($rows) - 1) {
                    $this->along($xs, $xs, $first[$l][$r], -1, fn (float $a, float $b, int $one, int $other) => $this->side(1, [$a, $y1, $z0], [$b, $y1, $z1], $one, $other));
                } else {
                    $this->along($xs, $rows[$r + 1][2], $first[$l][$r], $first[$l][$r + 1], fn (float $a, float $b, int $one, int $other) => $this->side(1, [$a, $y1, $z0], [$b, $y1, $z1], $one, $other));
                }
                if ($l === 0) {
                    $this->along($xs, $xs, $first[$l][$r], -1, fn (float $a, float $b, int $one, int $other) => $this->side(2, [$a, $y0, $z0], [$b, $y1, $z0], $other, $one));
                }
                if ($l === $topLayer) {
                    $this->along($xs, $xs, $first[$l][$r], -1, fn (float $a, float $b, int $one, int $other) => $this->side(2, [$a, $y0, $z1], [$b, $y1, $z1], $one, $other));

                    continue;
                }
                foreach ($layers[$l + 1][2] as $s => [$v0, $v1, $us]) {
                    $from = max($y0, $v0);
                    $to = min($y1, $v1);
                    if ($from < $to) {
                        $this->along($xs, $us, $first[$l][$r], $first[$l + 1][$s], fn (float $a, float $b, int $one, int $other) => $this->side(2, [$a, $from, $z1], [$b, $to, $z1], $one, $other));
                    }
                }
            }
        }

        return $this->complex($cells);
    }

    /**
     * The stretches in which two rows of blocks lie beside each other.
     *
     * @param  list<float>  $xs
     * @param  list<float>  $us
     * @param  callable(float, float, int, int): void  $found
     */
    private function along(array $xs, array $us, int $one, int $other, callable $found): void
    {
        $i = $j = 0;
        $from = $xs[0];
        while ($i + 1 < count($xs) && $j + 1 < count($us)) {
            $to = min($xs[$i + 1], $us[$j + 1]);
            if ($to > $from) {
                $found($from, $to, $one + $i, $other < 0 ? -1 : $other + $j);
            }
            $from = $to;
            $i += $xs[$i + 1] <= $to ? 1 : 0;
            $j += $us[$j + 1] <= $to ? 1 : 0;
        }
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     */
    private function side(int $axis, array $a, array $b, int $behind, int $ahead): void
    {
        $this->sides[] = [$axis, $a, $b, $behind, $ahead];
        [$u, $v] = [($axis + 1) % 3, ($axis + 2) % 3];
        foreach ([[$a[$u], $a[$v]], [$b[$u], $a[$v]], [$b[$u], $b[$v]], [$a[$u], $b[$v]]] as [$p, $q]) {
            $this->vertex(self::at($axis, $a[$axis], $p, $q));
        }
    }

    /** @return array{float, float, float} */
    private static function at(int $axis, float $n, float $u, float $v): array
    {
        return match ($axis) {
            0 => [$n, $u, $v],
            1 => [$v, $n, $u],
            default => [$u, $v, $n],
        };
    }

    /** @param  array{float, float, float}  $place */
    private function vertex(array $place): int
    {
        $key = pack('e3', ...$place);
        if (! isset($this->number[$key])) {
            $this->number[$key] = count($this->number);
            array_push($this->xyz, ...$place);
            for ($k = 0; $k < 3; $k++) {
                $this->lines[self::line($k, $place)][$key] = $place[$k];
            }
        }

        return $this->number[$key];
    }

    /** @param  array{float, float, float}  $place */
    private static function line(int $axis, array $place): string
    {
        return pack('Ce2', $axis, $place[($axis + 1) % 3], $place[($axis + 2) % 3]);
    }

    private function complex(int $cells): Complex
    {
        foreach ($this->lines as $line => $places) {
            asort($places);
            $this->lines[$line] = $places;
        }
        $loops = $behind = $ahead = [];
        foreach ($this->sides as [$axis, $a, $b, $back, $front]) {
            [$u, $v] = [($axis + 1) % 3, ($axis + 2) % 3];
            $corners = [
                self::at($axis, $a[$axis], $a[$u], $a[$v]), self::at($axis, $a[$axis], $b[$u], $a[$v]),
                self::at($axis, $a[$axis], $b[$u], $b[$v]), self::at($axis, $a[$axis], $a[$u], $b[$v]),
            ];
            $loop = [];
            foreach ([$u, $v, $u, $v] as $i => $k) {
                $from = $corners[$i];
                $to = $corners[($i + 1) % 4];
                $between = array_filter($this->lines[self::line($k, $from)], static fn (float $at): bool => $at >= min($from[$k], $to[$k]) && $at < max($from[$k], $to[$k]) || $at === $from[$k]);
                $between = array_filter($between, static fn (float $at): bool => $at !== $to[$k]);
                foreach ($from[$k] < $to[$k] ? $between : array_reverse($between, true) as $key => $_) {
                    $loop[] = $this->number[$key];
                }
            }
            $loops[] = $loop;
            $behind[] = $back >= 0 ? $back : $front;
            $ahead[] = $back >= 0 ? $front : -1;
            if ($back < 0) {
                $loops[count($loops) - 1] = array_reverse($loop);
            }
        }

        return new Complex($this->xyz, $loops, $behind, $ahead, range(0, $cells - 1));
    }
}
