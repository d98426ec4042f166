<?php

declare(strict_types=1);

namespace Isotome\Geometry;

use Isotome\Exception\BadBlade;

/**
 * A turn about an axis through a point.
 *
 * A turn by a whole number of quarters about a coordinate axis is exact: coordinates change places and signs and are never multiplied; about a point that is
 * not the origin each is then rounded once, by the subtraction that brings it there. Other turns use O. Rodrigues' formula (1840); each coordinate errs by a few
 * units of its last digit.
 */
final readonly class Turn
{
    /** @param  list<list<float>>  $rows  the matrix, rows of three */
    private function __construct(private array $rows)
    {
    }

    /**
     * Right-handed: seen from where the axis points, the turn is counter-clockwise.
     *
     * @param  array{float, float, float}  $axis  of any length
     *
     * @throws BadBlade when the axis is 0, 0, 0
     */
    public static function about(array $axis, float $degrees): self
    {
        $unit = Direction::unit($axis) ?? throw new BadBlade('The turn has no axis (0, 0, 0); give one with a number that is not zero.');
        $quarters = $degrees / 90.0;
        if ($quarters === floor($quarters) && count(array_filter($unit, static fn (float $part): bool => $part != 0.0)) === 1) {
            // fmod is exact; after it there are 0 to 3 quarters.
            $n = ((int) fmod($quarters, 4.0) + 4) % 4;

            return new self(self::matrix($unit, [1.0, 0.0, -1.0, 0.0][$n], [0.0, 1.0, 0.0, -1.0][$n]));
        }
        $angle = deg2rad(fmod($degrees, 360.0));

        return new self(self::matrix($unit, cos($angle), sin($angle)));
    }

    /**
     * The shortest turn that brings one direction to another; half a turn about an axis across them when they are opposite.
     *
     * @param  array{float, float, float}  $from  of any length
     * @param  array{float, float, float}  $to  of any length
     *
     * @throws BadBlade when one of them is 0, 0, 0
     */
    public static function between(array $from, array $to): self
    {
        $a = Direction::unit($from);
        $b = Direction::unit($to);
        if ($a === null || $b === null) {
            throw new BadBlade('The turn brings nothing anywhere: one of its directions is 0, 0, 0; give two with a number that is not zero.');
        }
        $cos = $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2];
        $across = [$a[1] * $b[2] - $a[2] * $b[1], $a[2] * $b[0] - $a[0] * $b[2], $a[0] * $b[1] - $a[1] * $b[0]];
        $sin = sqrt($across[0] ** 2 + $across[1] ** 2 + $across[2] ** 2);
        if ($sin < 1e-15) {
            // Along each other already, or opposite: then any axis across will do, the one across the coordinate axis that is farthest off.
            if ($cos > 0.0) {
                return new self(self::matrix([0.0, 0.0, 1.0], 1.0, 0.0));
            }
            $k = array_search(min(array_map(abs(...), $a)), array_map(abs(...), $a), true);
            $other = [(float) ($k === 0), (float) ($k === 1), (float) ($k === 2)];
            $across = [$a[1] * $other[2] - $a[2] * $other[1], $a[2] * $other[0] - $a[0] * $other[2], $a[0] * $other[1] - $a[1] * $other[0]];
            $cos = -1.0;
            $sin = 0.0;
        }
        // Exact where both lie along coordinate axes: the unit across has one part, which is 1 or −1, and sine and cosine are 0, 1 or −1.
        /** @var array{float, float, float} $axis */
        $axis = Direction::unit($across);

        return new self(self::matrix($axis, $cos, $sin));
    }

    /** @return list<array{float, float, float}> the directions that come to X, to Y and to Z */
    public function rows(): array
    {
        return array_map(static fn (array $row): array => [$row[0], $row[1], $row[2]], $this->rows);
    }

    /**
     * @param  array{float, float, float}  $through  a point that stays where it is, mm
     * @return list<float> 12 numbers: where the three axes come to, then the origin
     */
    public function map(array $through): array
    {
        $map = [];
        for ($axis = 0; $axis < 3; $axis++) {
            array_push($map, $this->rows[0][$axis], $this->rows[1][$axis], $this->rows[2][$axis]);
        }
        foreach ($this->rows as $k => $row) {
            $map[] = $through[$k] - ($row[0] * $through[0] + $row[1] * $through[1] + $row[2] * $through[2]);
        }

        return $map;
    }

    /**
     * @param  list<float>  $xyz  3 a point, mm
     * @param  array{float, float, float}  $through  a point that stays where it is, mm
     * @return list<float>
     */
    public function of(array $xyz, array $through = [0.0, 0.0, 0.0]): array
    {
        $columns = [];
        $turned = [];
        foreach ($this->rows as $k => $row) {
            // What stays, and what is added to each coordinate to keep it there.
            $shift = $through[$k] - ($row[0] * $through[0] + $row[1] * $through[1] + $row[2] * $through[2]);
            $parts = array_keys(array_filter($row, static fn (float $part): bool => $part != 0.0));
            $columns[$k] = count($parts) === 1 && abs($row[$parts[0]]) === 1.0 ? self::permuted($xyz, $parts[0], $row[$parts[0]] < 0.0, $shift) : self::summed($xyz, $row, $shift);
        }
        foreach ($columns[0] as $v => $x) {
            $turned[] = $x;
            $turned[] = $columns[1][$v];
            $turned[] = $columns[2][$v];
        }

        return $turned;
    }

    /**
     * @param  list<float>  $xyz
     * @return list<float>
     */
    private static function permuted(array $xyz, int $k, bool $isNegative, float $shift): array
    {
        $column = [];
        $count = count($xyz);
        if ($isNegative) {
            for ($i = $k; $i < $count; $i += 3) {
                $column[] = $shift - $xyz[$i];
            }
        } else {
            for ($i = $k; $i < $count; $i += 3) {
                $column[] = $shift + $xyz[$i];
            }
        }

        return $column;
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<float>  $row
     * @return list<float>
     */
    private static function summed(array $xyz, array $row, float $shift): array
    {
        [$a, $b, $c] = $row;
        $column = [];
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $column[] = $a * $xyz[$i] + $b * $xyz[$i + 1] + $c * $xyz[$i + 2] + $shift;
        }

        return $column;
    }

    /**
     * Rodrigues' formula.
     *
     * @param  array{float, float, float}  $u  unit
     * @return list<list<float>>
     */
    private static function matrix(array $u, float $cos, float $sin): array
    {
        [$x, $y, $z] = $u;
        $rest = 1.0 - $cos;

        return [
            [$cos + $rest * $x * $x, $rest * $x * $y - $sin * $z, $rest * $x * $z + $sin * $y],
            [$rest * $y * $x + $sin * $z, $cos + $rest * $y * $y, $rest * $y * $z - $sin * $x],
            [$rest * $z * $x - $sin * $y, $rest * $z * $y + $sin * $x, $cos + $rest * $z * $z],
        ];
    }
}
