<?php

declare(strict_types=1);

namespace Isotome\Join;

use Closure;
use Isotome\Measure\LargestCircle;
use Isotome\Mesh\Mesh;

/**
 * Where the pegs of a common face go: within it, clear of its rims and of the skin behind it along their whole length in both pieces, and far from each other.
 *
 * Guarantees: every peg keeps to its wishes' rim and wall, or is not there. A length that there is no room for is shortened by steps, to no less than half.
 * The size of a peg that is left to the face is a share of the largest circle within it.
 */
final readonly class Pegs
{
    /** Share of the largest circle's radius that a peg's diameter is; mm between which it stays. Common practice: a third to a half of the face. */
    private const SHARE = 0.7;

    private const LEAST = 2.0;

    private const GREATEST = 8.0;

    /** Diameters that a face decides are whole steps, mm. */
    private const STEP = 0.5;

    /** A peg is so many times as long as it is wide. */
    private const SLIM = 1.2;

    /** Lengths that are tried where there is no room for the whole one. */
    private const SHORTER = [1.0, 0.85, 0.7, 0.6, 0.5];

    /** The second peg's diameter, so that it does not go into the first one's socket the wrong way round. */
    private const SMALLER = 0.75;

    /** Pegs that find their own places keep this share of the largest circle's radius from the rim, where there is room. */
    private const INNER = 0.5;

    /** Columns and rows of places that are looked at, beside the middles of the largest circles. */
    private const COLUMNS = 15;

    private const MANY = 20;

    /** Magnets that are sold: diameter and height, mm (common practice). */
    public const MAGNETS = [[3.0, 1.0], [4.0, 2.0], [5.0, 2.0], [6.0, 2.0], [8.0, 3.0], [10.0, 3.0], [12.0, 3.0], [15.0, 3.0], [20.0, 5.0]];

    /**
     * @param  list<Peg>  $pegs
     * @param  int  $ways  in how many ways the pegs let the face go together; 0 when it turns freely
     * @param  string|null  $why  why there are none, or fewer than asked for: the end of a sentence
     */
    private function __construct(
        public CommonFace $face,
        public array $pegs,
        public int $ways,
        public ?string $why,
    ) {
    }

    /** @param  array{list<Bore>, list<Bore>}  $bores  pegs of other faces, in the first piece and in the second */
    public static function on(CommonFace $face, Mesh $first, Mesh $second, PegWishes $wishes, array $bores = [[], []]): self
    {
        $clear = $face->clear();
        $largest = LargestCircle::deepest($clear, $face->box, 0.01 * sqrt($face->area));
        if ($largest === null) {
            return new self($face, [], 1, 'their common face has no room');
        }
        $margin = $wishes->clearance + $wishes->edge();
        [$diameter, $length] = self::sized($wishes, $largest->radius - $margin, $largest->radius);
        $need = $wishes->shape->reach($diameter / 2, $wishes->clearance) + $wishes->edge();
        if ($need > $largest->radius) {
            return new self($face, [], 1, sprintf('a peg of %.1f mm needs a circle of %.1f mm radius, with its clearance and its distance from the rim, and their common face at (%.1f, %.1f, %.1f) takes one of %.1f', $diameter, $need, ...[...$face->inSpace($largest->x, $largest->y, self::height($face, $first, $largest->x, $largest->y)), $largest->radius]));
        }
        $near = null;
        $bears = self::bearing($face, $clear, $first, $second, $wishes, $bores, $near);
        $wanted = $wishes->at !== [] ? count($wishes->at) : $wishes->count ?? 2;
        $places = $wishes->at !== [] ? self::byHand($face, $clear, $need, $wishes->at) : null;
        if (is_string($places)) {
            return new self($face, [], 1, $places);
        }
        $places ??= self::places($face, $clear, $need, $wanted, $largest);
        $apart = 2 * $need - $wishes->edge();
        $pegs = [];
        foreach ($wishes->isShortened ? self::SHORTER : [1.0] as $share) {
            $memory = [];
            $make = static function (float $x, float $y) use (&$memory, $bears, $diameter, $length, $share): ?Peg {
                $key = "$x $y";
                $memory[$key] ??= [$bears($x, $y, $diameter, $share * $length)];

                return $memory[$key][0];
            };
            if ($wishes->at !== []) {
                $pegs = self::added($pegs, $places, $make, $wanted);
            } else {
                // Well within the face where that is possible.
                $inner = array_values(array_filter($places, static fn (array $at): bool => $clear(...$at) >= self::INNER * $largest->radius));
                $pegs = self::spread($pegs, $inner, static fn (int $n): ?Peg => $make(...$inner[$n]), $wanted, $apart);
                $pegs = self::spread(count($pegs) < $wanted && count($pegs) < 2 ? [] : $pegs, $places, static fn (int $n): ?Peg => $make(...$places[$n]), $wanted, $apart);
            }
            if (count($pegs) >= $wanted || ($pegs !== [] && $wishes->count === null && $wishes->at === [])) {
                break;
            }
        }
        if ($wishes->isOneWay && $wishes->style !== Style::Magnet && count($pegs) > 1 && $wishes->at === []) {
            // Narrower, so there is room for it as well.
            $smaller = self::SMALLER * $diameter;
            $pegs[1] = $bears($pegs[1]->x, $pegs[1]->y, $smaller > 1.0 ? floor($smaller / self::STEP) * self::STEP : $smaller, $pegs[1]->length) ?? $pegs[1];
        }
        if ($wishes->isOneWay && $wishes->style !== Style::Magnet && count($pegs) === 1 && $wishes->at === []) {
            // Alone, only a shape that differs all round goes in one way.
            $pegs[0] = $bears($pegs[0]->x, $pegs[0]->y, $diameter, $pegs[0]->length, Shape::Dovetail) ?? $pegs[0];
        }
        $why = count($pegs) >= $wanted || ($wishes->count === null && $wishes->at === [] && $pegs !== []) ? null
            : ($near !== null ? sprintf('a peg %.1f mm long would come nearer than %.1f mm to the skin behind their common face, at (%.1f, %.1f, %.1f)', $length, $wishes->wall, ...$near) : 'their common face has room for '.count($pegs));

        return new self($face, array_values($pegs), self::ways($pegs), $why);
    }

    /** @return array{float, float} diameter and length */
    private static function sized(PegWishes $wishes, float $room, float $radius): array
    {
        if ($wishes->style === Style::Magnet && $wishes->diameter === null) {
            $fitting = array_values(array_filter(self::MAGNETS, static fn (array $magnet): bool => $magnet[0] <= min(2 * $room, $radius)));
            [$diameter, $height] = $fitting === [] ? self::MAGNETS[0] : $fitting[count($fitting) - 1];

            return [$diameter, $wishes->length ?? $height];
        }
        $diameter = $wishes->diameter ?? min(self::GREATEST, max(self::LEAST, floor(min(self::SHARE * $radius, 2 * $room) / self::STEP) * self::STEP));
        $stock = array_column(self::MAGNETS, 1, 0);

        return [$diameter, $wishes->length ?? ($wishes->style === Style::Magnet ? $stock[(string) $diameter] ?? 2.0 : self::SLIM * $diameter)];
    }

    private static function height(CommonFace $face, Mesh $first, float $x, float $y): float
    {
        return $face->heights($first, 0, $x, $y, 1e-6)[1] ?? 0.0;
    }

    /**
     * @param  Closure(float, float): float  $clear
     * @param  array{list<Bore>, list<Bore>}  $bores
     * @param  array{float, float, float}|null  $near  a place that kept one from being there
     * @return Closure(float, float, float, float, Shape=): (Peg|null) a peg of this diameter and length, if both pieces bear it here
     */
    private static function bearing(CommonFace $face, Closure $clear, Mesh $first, Mesh $second, PegWishes $wishes, array $bores, ?array &$near): Closure
    {
        [$below, $above] = [new Behind($face, $first, 0), new Behind($face, $second, 1)];

        return static function (float $x, float $y, float $diameter, float $length, ?Shape $shape = null) use ($face, $clear, $first, $second, $wishes, $bores, $below, $above, &$near): ?Peg {
            $shape ??= $wishes->shape;
            $reach = $shape->reach($diameter / 2, $wishes->clearance);
            if ($shape !== $wishes->shape && $clear($x, $y) < $reach + $wishes->edge()) {
                return null;
            }
            $low = $face->heights($first, 0, $x, $y, $reach);
            $high = $face->heights($second, 1, $x, $y, $reach);
            if ($low === null || $high === null) {
                return null;
            }
            $near = $above->tooNear($x, $y, $high[0], $high[1] + $length + $wishes->clearance, $reach, $wishes->wall)
                // A pin only has to be rooted.
                ?? ($wishes->style === Style::Pin
                    ? $below->tooNear($x, $y, $low[1], $low[0] - Peg::OVER, $diameter / 2, min($wishes->wall, Peg::OVER))
                    : $below->tooNear($x, $y, $low[1], $low[0] - $length - $wishes->clearance, $reach, $wishes->wall));

            if ($near !== null) {
                return null;
            }
            $peg = new Peg($face, $wishes->style, $shape, $x, $y, $diameter, $length, $wishes->clearance, $wishes->style === Style::Magnet ? 0.0 : $wishes->taper, $wishes->degrees, $low, $high);
            foreach ($bores[0] === [] && $bores[1] === [] ? [] : $peg->bores() as $side => $bore) {
                foreach ($bores[$side] as $other) {
                    if ($bore->distance($other) < $wishes->wall) {
                        $near = $other->from;

                        return null;
                    }
                }
            }

            return $peg;
        };
    }

    /**
     * @param  Closure(float, float): float  $clear
     * @param  non-empty-list<array{float, float, float}>  $at
     * @return non-empty-list<array{float, float}>|string what is wrong with one of them
     */
    private static function byHand(CommonFace $face, Closure $clear, float $need, array $at): array|string
    {
        $places = [];
        foreach ($at as $one) {
            [$x, $y] = $face->onPage(...$one);
            if ($clear($x, $y) < $need) {
                return sprintf('the place (%.1f, %.1f, %.1f) is %.1f mm from the rim of their common face, and the peg needs %.1f', ...[...$one, max(0.0, $clear($x, $y)), $need]);
            }
            $places[] = [$x, $y];
        }

        return $places;
    }

    /**
     * @param  Closure(float, float): float  $clear
     * @return non-empty-list<array{float, float}> the middle of the largest circle first
     */
    private static function places(CommonFace $face, Closure $clear, float $need, int $wanted, LargestCircle $largest): array
    {
        $places = [[$largest->x, $largest->y]];
        [$x0, $y0, $x1, $y1] = $face->box;
        for ($i = 0; $i < self::COLUMNS; $i++) {
            for ($j = 0; $j < self::COLUMNS; $j++) {
                // Rows begin and end where pegs can.
                $x = $x0 + $need + ($x1 - $x0 - 2 * $need) * $i / (self::COLUMNS - 1);
                $y = $y0 + $need + ($y1 - $y0 - 2 * $need) * $j / (self::COLUMNS - 1);
                if ($clear($x, $y) >= $need) {
                    $places[] = [$x, $y];
                }
            }
        }
        // In narrow faces few of these are any good: the largest circles beside each other find the rest.
        $taken = [];
        $circle = count($places) < self::MANY ? $largest : null;
        for ($n = 0; $n < min($wanted, 6) && $circle !== null && $circle->radius >= $need; $n++) {
            $taken[] = [$circle->x, $circle->y, $circle->radius];
            $circle = LargestCircle::deepest(static function (float $x, float $y) use ($clear, $taken): float {
                $d = $clear($x, $y);
                foreach ($taken as [$cx, $cy, $radius]) {
                    $d = min($d, hypot($x - $cx, $y - $cy) - $radius);
                }

                return $d;
            }, $face->box, 0.1 * $need);
            if ($circle !== null && $circle->radius >= $need) {
                $places[] = [$circle->x, $circle->y];
            }
        }

        return $places;
    }

    /**
     * @param  list<Peg>  $pegs  those that are there
     * @param  non-empty-list<array{float, float}>  $places
     * @param  Closure(float, float): (Peg|null)  $make
     * @return list<Peg>
     */
    private static function added(array $pegs, array $places, Closure $make, int $wanted): array
    {
        foreach ($places as [$x, $y]) {
            if (count($pegs) < $wanted && self::distance($pegs, $x, $y) > 0.0) {
                $peg = $make($x, $y);
                if ($peg !== null) {
                    $pegs[] = $peg;
                }
            }
        }

        return $pegs;
    }

    /**
     * One alone goes into the largest circle; of several the first two are as far apart as they can be, each further one as far from the others as it can be.
     *
     * @param  list<Peg>  $pegs
     * @param  list<array{float, float}>  $places
     * @param  Closure(int): (Peg|null)  $make
     * @return list<Peg>
     */
    private static function spread(array $pegs, array $places, Closure $make, int $wanted, float $apart): array
    {
        if ($pegs === [] && $wanted > 1) {
            $pairs = [];
            foreach ($places as $n => [$x, $y]) {
                for ($m = 0; $m < $n; $m++) {
                    $far = hypot($x - $places[$m][0], $y - $places[$m][1]);
                    if ($far >= $apart) {
                        $pairs[] = [$far, $m, $n];
                    }
                }
            }
            usort($pairs, static fn (array $a, array $b): int => $b[0] <=> $a[0] ?: $a[1] <=> $b[1] ?: $a[2] <=> $b[2]);
            foreach ($pairs as [, $m, $n]) {
                $one = $make($m);
                $two = $one === null ? null : $make($n);
                if ($one !== null && $two !== null) {
                    $pegs = [$one, $two];
                    break;
                }
            }
        }
        while (count($pegs) < $wanted) {
            $best = null;
            $far = $pegs === [] ? -INF : $apart;
            foreach ($places as $n => [$x, $y]) {
                $distance = self::distance($pegs, $x, $y);
                if (($pegs === [] ? $best === null : $distance >= $far) && ($peg = $make($n)) !== null) {
                    [$best, $far] = [$peg, $distance];
                }
            }
            if ($best === null) {
                break;
            }
            $pegs[] = $best;
        }

        return $pegs;
    }

    /** @param  list<Peg>  $pegs */
    private static function distance(array $pegs, float $x, float $y): float
    {
        return $pegs === [] ? INF : min(array_map(static fn (Peg $peg): float => hypot($peg->x - $x, $peg->y - $y), $pegs));
    }

    /**
     * In how many ways the pegs go into the sockets when the face is turned on itself: the first peg into every socket that takes it, and the second then where its distance says.
     *
     * @param  list<Peg>  $pegs
     */
    private static function ways(array $pegs): int
    {
        if (count($pegs) < 2) {
            return $pegs === [] ? 1 : $pegs[0]->shape->ways();
        }
        $ways = 0;
        [$a, $b] = $pegs;
        foreach ($pegs as $c) {
            foreach ($pegs as $d) {
                if ($c === $d || abs(hypot($a->x - $b->x, $a->y - $b->y) - hypot($c->x - $d->x, $c->y - $d->y)) > 2 * $a->clearance) {
                    continue;
                }
                $turn = atan2($d->y - $c->y, $d->x - $c->x) - atan2($b->y - $a->y, $b->x - $a->x);
                $goes = true;
                foreach ($pegs as $peg) {
                    [$dx, $dy] = [$peg->x - $a->x, $peg->y - $a->y];
                    [$x, $y] = [$c->x + cos($turn) * $dx - sin($turn) * $dy, $c->y + sin($turn) * $dx + cos($turn) * $dy];
                    $goes = $goes && array_filter($pegs, static fn (Peg $socket): bool => hypot($socket->x - $x, $socket->y - $y) <= 2 * $peg->clearance && self::takes($socket, $peg, $turn)) !== [];
                }
                $ways += $goes ? 1 : 0;
            }
        }

        return max(1, $ways);
    }

    private static function takes(Peg $socket, Peg $peg, float $turn): bool
    {
        if ($socket->diameter + 2 * $socket->clearance < $peg->diameter || $socket->length + $socket->clearance < $peg->length) {
            return false;
        }
        $ways = $peg->shape->ways();

        return $ways === 0 || cos($ways * $turn) > 0.99;
    }
}
