<?php

declare(strict_types=1);

namespace Isotome\Solid;

use GMP;
use Isotome\Geometry\ErrorBound;
use Isotome\Geometry\Orientation;
use Isotome\Geometry\Zero;

/**
 * Points of an arrangement: the given ones, whose coordinates are doubles, and derived ones, where lines meet planes and each other. A derived point is kept
 * exactly, as a fraction of whole numbers, beside the nearest doubles.
 *
 * Guarantees: points at one place have one number, however they were found. Predicates are exact: the nearest doubles decide where their error allows it, else the
 * whole numbers do.
 *
 * Source: filtered exact predicates, J. R. Shewchuk (1997) and ErrorBound; derived points as fractions, common practice in computational geometry.
 */
final class Points
{
    /** A derived coordinate errs by at most one unit in the last place: twice the unit roundoff. */
    private const DERIVED = 2 * ErrorBound::UNIT;

    /** Given coordinates are kept as fractions over 2 to a multiple of this power, so that most of them share one divisor. */
    private const DIGITS = 64;

    /** @var array<int, GMP> powers of two that were asked for, by their exponents */
    private static array $powers = [];

    /** @var list<float> the nearest doubles, three a point */
    public array $xyz;

    /** Points with lower numbers are given, others derived. */
    public readonly int $given;

    /** @var array<int, array{GMP, GMP, GMP, GMP}> x, y, z and the number that they are to be divided by, which is positive; of derived points, and of given ones that were asked for */
    private array $exact = [];

    /** @var array<string, int> points by their places */
    private array $known = [];

    private bool $areGivenKnown = false;

    /** @var array<string, int> by the edge and the triangle: both triangles on an edge ask for where it passes through a third one */
    private array $pierced = [];

    /** @param  list<float>  $xyz  of the given points, no two of them at one place */
    public function __construct(array $xyz)
    {
        $this->xyz = $xyz;
        $this->given = intdiv(count($xyz), 3);
    }

    public function count(): int
    {
        return intdiv(count($this->xyz), 3);
    }

    /** Where the line through two given points meets the plane through three: it must cross it. */
    public function onPlane(int $p, int $q, int $a, int $b, int $c): int
    {
        return $this->pierced[$p < $q ? "$p $q $a $b $c" : "$q $p $a $b $c"] ??= $this->met($p, $q, $a, $b, $c);
    }

    private function met(int $p, int $q, int $a, int $b, int $c): int
    {
        $scale = $this->scale([$p, $q, $a, $b, $c]);
        [$px, $py, $pz] = $this->whole($p, $scale);
        [$qx, $qy, $qz] = $this->whole($q, $scale);
        [$ax, $ay, $az] = $this->whole($a, $scale);
        [$bx, $by, $bz] = $this->whole($b, $scale);
        [$cx, $cy, $cz] = $this->whole($c, $scale);
        [$ux, $uy, $uz] = [$bx - $ax, $by - $ay, $bz - $az];
        [$vx, $vy, $vz] = [$cx - $ax, $cy - $ay, $cz - $az];
        [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
        $dp = $nx * ($px - $ax) + $ny * ($py - $ay) + $nz * ($pz - $az);
        $dq = $nx * ($qx - $ax) + $ny * ($qy - $ay) + $nz * ($qz - $az);

        return $this->number($dp * $qx - $dq * $px, $dp * $qy - $dq * $py, $dp * $qz - $dq * $pz, ($dp - $dq) * $scale);
    }

    /**
     * Where two lines of one plane meet, each through two points: they must cross on the page of the axes u and v.
     */
    public function crossing(int $p, int $q, int $r, int $s, int $u, int $v): int
    {
        $one = $this->exactly($p);
        $two = $this->exactly($q);
        $dp = $this->determinant($r, $s, $p, $u, $v);
        $dq = $this->determinant($r, $s, $q, $u, $v);

        return $this->number($dp * $two[0] - $dq * $one[0], $dp * $two[1] - $dq * $one[1], $dp * $two[2] - $dq * $one[2], $dp * $two[3] - $dq * $one[3]);
    }

    /**
     * A point within a triangle, which is not kept among the others' places.
     *
     * @param  array{int, int, int}  $weights  positive
     */
    public function within(int $a, int $b, int $c, array $weights): int
    {
        $common = gmp_mul(gmp_mul($this->exactly($a)[3], $this->exactly($b)[3]), $this->exactly($c)[3]);
        $x = $y = $z = gmp_init(0);
        foreach ([[$a, $weights[0]], [$b, $weights[1]], [$c, $weights[2]]] as [$point, $weight]) {
            [$px, $py, $pz, $own] = $this->exactly($point);
            $share = gmp_mul(gmp_divexact($common, $own), $weight);
            $x = gmp_add($x, gmp_mul($share, $px));
            $y = gmp_add($y, gmp_mul($share, $py));
            $z = gmp_add($z, gmp_mul($share, $pz));
        }

        return $this->add(...self::reduced($x, $y, $z, gmp_mul($common, array_sum($weights))));
    }

    /** On the page of the axes u and v: 1 when i, j, k turn left, −1 when they turn right, 0 when they lie on one line. */
    public function turn(int $i, int $j, int $k, int $u, int $v): int
    {
        $xyz = $this->xyz;
        $ax = $xyz[3 * $i + $u];
        $ay = $xyz[3 * $i + $v];
        $bx = $xyz[3 * $j + $u];
        $by = $xyz[3 * $j + $v];
        $cx = $xyz[3 * $k + $u];
        $cy = $xyz[3 * $k + $v];
        $given = $this->given;
        if ($i < $given && $j < $given && $k < $given) {
            return Orientation::of($ax, $ay, $bx, $by, $cx, $cy);
        }
        $px = $ax - $cx;
        $py = $by - $cy;
        $qx = $bx - $cx;
        $qy = $ay - $cy;
        $left = $px * $py;
        $right = $qy * $qx;
        $det = $left - $right;
        // Every coordinate errs by its share of the largest one; a difference by two of them.
        $err = 2.0 * self::DERIVED * max(abs($ax), abs($ay), abs($bx), abs($by), abs($cx), abs($cy));
        $bound = ErrorBound::ORIENT_2D * (abs($left) + abs($right)) + 1.01 * $err * (abs($px) + abs($py) + abs($qx) + abs($qy) + 2.0 * $err);
        if ($det > $bound) {
            return 1;
        }
        if (-$det > $bound) {
            return -1;
        }

        return gmp_sign($this->determinant($i, $j, $k, $u, $v));
    }

    /** On which side of the plane through three given points a point lies: 1 when they run counter-clockwise seen from it, −1 on the other side, 0 on the plane. */
    public function side(int $a, int $b, int $c, int $o): int
    {
        $xyz = $this->xyz;
        $ox = $xyz[3 * $o];
        $oy = $xyz[3 * $o + 1];
        $oz = $xyz[3 * $o + 2];
        $ax = $xyz[3 * $a] - $ox;
        $ay = $xyz[3 * $a + 1] - $oy;
        $az = $xyz[3 * $a + 2] - $oz;
        $bx = $xyz[3 * $b] - $ox;
        $by = $xyz[3 * $b + 1] - $oy;
        $bz = $xyz[3 * $b + 2] - $oz;
        $cx = $xyz[3 * $c] - $ox;
        $cy = $xyz[3 * $c + 1] - $oy;
        $cz = $xyz[3 * $c + 2] - $oz;
        $det = $az * ($bx * $cy - $cx * $by) + $bz * ($cx * $ay - $ax * $cy) + $cz * ($ax * $by - $bx * $ay);
        $size = max(abs($ax), abs($ay), abs($az), abs($bx), abs($by), abs($bz), abs($cx), abs($cy), abs($cz));
        $err = self::DERIVED * max(abs($ox), abs($oy), abs($oz));
        // Six products of three factors, each at most so large; an error in a factor weighs as much as two products of the others, three times.
        $bound = 6.0 * ErrorBound::ORIENT_3D * $size * $size * $size + 18.1 * $err * ($size + $err) * ($size + $err);
        if ($det > $bound) {
            return -1;
        }
        if (-$det > $bound) {
            return 1;
        }
        $scale = $this->scale([$a, $b, $c]);
        [$ax, $ay, $az] = $this->whole($a, $scale);
        [$bx, $by, $bz] = $this->whole($b, $scale);
        [$cx, $cy, $cz] = $this->whole($c, $scale);
        [$px, $py, $pz, $pw] = $this->exactly($o);
        [$ux, $uy, $uz] = [$bx - $ax, $by - $ay, $bz - $az];
        [$vx, $vy, $vz] = [$cx - $ax, $cy - $ay, $cz - $az];

        return gmp_sign(($uy * $vz - $uz * $vy) * ($px * $scale - $ax * $pw) + ($uz * $vx - $ux * $vz) * ($py * $scale - $ay * $pw) + ($ux * $vy - $uy * $vx) * ($pz * $scale - $az * $pw));
    }

    /** Which of two points is farther along an axis, exactly: −1, 0 or 1. */
    public function compare(int $i, int $j, int $axis): int
    {
        $one = $this->xyz[3 * $i + $axis];
        $two = $this->xyz[3 * $j + $axis];
        if (($i < $this->given && $j < $this->given) || abs($one - $two) > self::DERIVED * 1.1 * (abs($one) + abs($two))) {
            return $one <=> $two;
        }
        $a = $this->exactly($i);
        $b = $this->exactly($j);

        return gmp_sign($a[$axis] * $b[3] - $b[$axis] * $a[3]);
    }

    /** A point that is on a page alone, at two coordinates. */
    public function onPage(float $x, float $y, int $u, int $v): int
    {
        return $this->put(array_map(static fn (int $axis): float => $axis === $u ? $x : ($axis === $v ? $y : 0.0), [0, 1, 2]));
    }

    /**
     * A further point with doubles as coordinates, which is not kept among the others' places.
     *
     * @param  array{float, float, float}  $place
     */
    public function put(array $place): int
    {
        array_push($this->xyz, ...$place);
        $n = $this->count() - 1;
        $this->exact[$n] = self::fraction($place);

        return $n;
    }

    /** The turn as a number times the three divisors. */
    private function determinant(int $i, int $j, int $k, int $u, int $v): GMP
    {
        $a = $this->exactly($i);
        $b = $this->exactly($j);
        $c = $this->exactly($k);

        return $a[$u] * ($b[$v] * $c[3] - $c[$v] * $b[3]) - $a[$v] * ($b[$u] * $c[3] - $c[$u] * $b[3]) + $a[3] * ($b[$u] * $c[$v] - $c[$u] * $b[$v]);
    }

    /**
     * A divisor for several given points: the largest of theirs, for all are powers of two.
     *
     * @param  list<int>  $points
     */
    private function scale(array $points): GMP
    {
        $scale = gmp_init(1);
        foreach ($points as $point) {
            $own = $this->exactly($point)[3];
            $scale = $own !== $scale && gmp_cmp($own, $scale) > 0 ? $own : $scale;
        }

        return $scale;
    }

    /** @return array{GMP, GMP, GMP} the coordinates of a given point times a multiple of its divisor */
    private function whole(int $point, GMP $scale): array
    {
        [$x, $y, $z, $own] = $this->exactly($point);
        if ($own === $scale) {
            return [$x, $y, $z];
        }
        $times = gmp_divexact($scale, $own);

        return [gmp_mul($x, $times), gmp_mul($y, $times), gmp_mul($z, $times)];
    }

    /** @return array{GMP, GMP, GMP, GMP} */
    private function exactly(int $point): array
    {
        return $this->exact[$point] ??= self::fraction([$this->xyz[3 * $point], $this->xyz[3 * $point + 1], $this->xyz[3 * $point + 2]]);
    }

    /**
     * @param  array{float, float, float}  $place
     * @return array{GMP, GMP, GMP, GMP} over a power of two, the same object for most places
     */
    private static function fraction(array $place): array
    {
        $parts = [];
        $least = 0;
        foreach ($place as $x) {
            $parts[] = $part = self::parts($x);
            $least = min($least, $part[1]);
        }
        $digits = self::DIGITS * intdiv(self::DIGITS - 1 - $least, self::DIGITS);
        $whole = [];
        foreach ($parts as [$mantissa, $exponent]) {
            $whole[] = gmp_mul($mantissa, self::power($exponent + $digits));
        }

        return [$whole[0], $whole[1], $whole[2], self::power($digits)];
    }

    private static function power(int $exponent): GMP
    {
        return self::$powers[$exponent] ??= gmp_pow(2, $exponent);
    }

    /** @return array{int, int} an odd number or 0, and the exponent of 2 that it is to be multiplied with (IEEE 754, binary64) */
    private static function parts(float $x): array
    {
        if ($x == 0.0) {
            return [0, 0];
        }
        /** @var array{1: int} $bits */
        $bits = unpack('q', pack('d', $x));
        $exponent = ($bits[1] >> 52) & 0x7FF;
        $mantissa = $bits[1] & 0xFFFFFFFFFFFFF;
        if ($exponent === 0) {
            $exponent = 1;
        } else {
            $mantissa |= 0x10000000000000;
        }
        $exponent -= 1075;
        while (($mantissa & 0xFF) === 0) {
            $mantissa >>= 8;
            $exponent += 8;
        }
        while (($mantissa & 1) === 0) {
            $mantissa >>= 1;
            $exponent++;
        }

        return [$x < 0 ? -$mantissa : $mantissa, $exponent];
    }

    /** The number of the point at a place: of one that is there already, or a new one. */
    private function number(GMP $x, GMP $y, GMP $z, GMP $w): int
    {
        [$x, $y, $z, $w] = self::reduced($x, $y, $z, $w);
        $this->learnGiven();
        $key = self::key($x, $y, $z, $w);
        if (isset($this->known[$key])) {
            return $this->known[$key];
        }
        // A given point has a power of two below the line.
        if (gmp_popcount($w) === 1) {
            $place = [self::nearest($x, $w), self::nearest($y, $w), self::nearest($z, $w)];
            $given = $this->known[pack('d3', ...$place)] ?? null;
            if ($given !== null) {
                [$gx, $gy, $gz, $gw] = $this->exactly($given);
                if ($gx * $w == $x * $gw && $gy * $w == $y * $gw && $gz * $w == $z * $gw) {
                    return $this->known[$key] = $given;
                }
            }
        }

        return $this->known[$key] = $this->add($x, $y, $z, $w);
    }

    private function learnGiven(): void
    {
        if ($this->areGivenKnown) {
            return;
        }
        $this->areGivenKnown = true;
        for ($n = 0, $i = 0; $n < $this->given; $n++, $i += 3) {
            $this->known[pack('d3', Zero::plain($this->xyz[$i]), Zero::plain($this->xyz[$i + 1]), Zero::plain($this->xyz[$i + 2]))] = $n;
        }
    }

    /** A new point, given in lowest terms. */
    private function add(GMP $x, GMP $y, GMP $z, GMP $w): int
    {
        $n = $this->count();
        $this->exact[$n] = [$x, $y, $z, $w];
        $this->xyz[] = self::nearest($x, $w);
        $this->xyz[] = self::nearest($y, $w);
        $this->xyz[] = self::nearest($z, $w);

        return $n;
    }

    /** @return array{GMP, GMP, GMP, GMP} in lowest terms, the divisor positive */
    private static function reduced(GMP $x, GMP $y, GMP $z, GMP $w): array
    {
        $common = gmp_gcd(gmp_gcd($x, $y), gmp_gcd($z, $w));
        if (gmp_sign($w) < 0) {
            $common = -$common;
        }

        return $common == 1 ? [$x, $y, $z, $w] : [gmp_divexact($x, $common), gmp_divexact($y, $common), gmp_divexact($z, $common), gmp_divexact($w, $common)];
    }

    private static function key(GMP $x, GMP $y, GMP $z, GMP $w): string
    {
        // Of bases that are powers of two the largest: nothing needs to be divided.
        return gmp_strval($x, 32).' '.gmp_strval($y, 32).' '.gmp_strval($z, 32).' '.gmp_strval($w, 32);
    }

    /** The fraction as a double, wrong by less than one unit in the last place. */
    private static function nearest(GMP $x, GMP $w): float
    {
        $sign = gmp_sign($x);
        if ($sign === 0) {
            return 0.0;
        }
        // So many bits more that the quotient has about 60.
        $shift = 60 - 4 * (strlen(gmp_strval(gmp_abs($x), 16)) - strlen(gmp_strval($w, 16)));
        $quotient = $shift >= 0 ? gmp_div_q(gmp_abs($x) * gmp_pow(2, $shift), $w) : gmp_div_q(gmp_abs($x), $w * gmp_pow(2, -$shift));
        // It has 57 to 64 bits.
        $quotient = gmp_div_q($quotient, 4);

        return $sign * gmp_intval($quotient) * 2.0 ** (2 - $shift);
    }
}
