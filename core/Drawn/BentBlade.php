<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Isotome\Cut\Keep;
use Isotome\Exception\BadBlade;
use Isotome\Geometry\Direction;
use Isotome\Geometry\Orientation;

/** A flat blade whose edge has corners, so that it goes round things: across it a profile of heights, straight along it. Beyond its ends it runs straight on. */
final class BentBlade
{
    /** So finely the largest height is told that does not cross itself. */
    private const STEPS = 100;

    /** A direction whose cosine to the facing is nearer to 1 than this runs along it. */
    private const SQUARE = 1e-9;

    /**
     * @param  array{float, float, float}  $through  mm; where the profile's 0, 0 is
     * @param  array{float, float, float}  $facing  the way that heights are counted
     * @param  array{float, float, float}  $along  the way that it runs straight; what is left of it square to the facing
     * @param  list<array{float, float}>  $profile  mm; across (to the right for who looks along it, the facing up) and height
     *
     * @throws BadBlade when it has no direction, or crosses itself
     */
    public static function of(array $through, array $facing, array $along, array $profile, bool $isSmooth, float $kerf, Keep $keep): DrawnBlade
    {
        $f = Direction::unit($facing) ?? throw new BadBlade('Its facing has no direction (0, 0, 0); give one with a number that is not zero.');
        $a = Direction::unit($along) ?? throw new BadBlade('The direction along it is 0, 0, 0; give one with a number that is not zero.');
        $on = $a[0] * $f[0] + $a[1] * $f[1] + $a[2] * $f[2];
        $a = abs($on) > 1 - self::SQUARE ? null : Direction::unit([$a[0] - $on * $f[0], $a[1] - $on * $f[1], $a[2] - $on * $f[2]]);
        if ($a === null) {
            throw new BadBlade('It runs along its facing; give a direction along it that is square to the facing.');
        }
        $across = [$a[1] * $f[2] - $a[2] * $f[1], $a[2] * $f[0] - $a[0] * $f[2], $a[0] * $f[1] - $a[1] * $f[0]];
        $line = [];
        foreach ($profile as [$x, $h]) {
            $line[] = [$through[0] + $x * $across[0] + $h * $f[0], $through[1] + $x * $across[1] + $h * $f[1], $through[2] + $x * $across[2] + $h * $f[2]];
        }
        $blade = new DrawnBlade(Shape::Stroke, [$line], Sight::along($a), $isSmooth, kerf: $kerf, keep: $keep, runsOn: true);
        if (self::crossesItself($blade->drawn()[0])) {
            throw new BadBlade('It crosses itself'.self::offer($profile, $isSmooth));
        }

        return $blade;
    }

    /** @param  list<array{float, float}>  $profile */
    private static function offer(array $profile, bool $isSmooth): string
    {
        for ($n = self::STEPS - 1; $n > 0; $n--) {
            $lower = array_map(static fn (array $corner): array => [$corner[0], $corner[1] * $n / self::STEPS], $profile);
            if (! self::crossesItself($isSmooth ? Smooth::of($lower, false) : $lower)) {
                return sprintf('; with heights of at most %.2f times these it does not.', $n / self::STEPS);
            }
        }

        return ' whatever its heights are; let the corners follow each other from one side to the other.';
    }

    /**
     * Its ends running straight on, exactly.
     *
     * @param  list<array{float, float}>  $line
     */
    public static function crossesItself(array $line): bool
    {
        $n = count($line);
        $size = 1.0;
        foreach ($line as [$u, $v]) {
            $size = max($size, abs($u - $line[0][0]) + abs($v - $line[0][1]));
        }
        // Far enough for all that anybody cuts.
        $far = 1e4 * $size;
        $chain = [StraightOn::from($line[1], $line[0], $far), ...$line, StraightOn::from($line[$n - 2], $line[$n - 1], $far)];
        $count = count($chain);
        for ($i = 0; $i + 1 < $count; $i++) {
            for ($j = $i + 2; $j + 1 < $count; $j++) {
                if (self::meet($chain[$i], $chain[$i + 1], $chain[$j], $chain[$j + 1])) {
                    return true;
                }
            }
            // Back the way it came.
            if ($i > 0 && Orientation::of(...$chain[$i - 1], ...$chain[$i], ...$chain[$i + 1]) === 0
                && ($chain[$i][0] - $chain[$i - 1][0]) * ($chain[$i + 1][0] - $chain[$i][0]) + ($chain[$i][1] - $chain[$i - 1][1]) * ($chain[$i + 1][1] - $chain[$i][1]) < 0.0) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param  array{float, float}  $a
     * @param  array{float, float}  $b
     * @param  array{float, float}  $c
     * @param  array{float, float}  $d
     */
    private static function meet(array $a, array $b, array $c, array $d): bool
    {
        if (max($a[0], $b[0]) < min($c[0], $d[0]) || max($c[0], $d[0]) < min($a[0], $b[0]) || max($a[1], $b[1]) < min($c[1], $d[1]) || max($c[1], $d[1]) < min($a[1], $b[1])) {
            return false;
        }

        return Orientation::of(...$a, ...$b, ...$c) * Orientation::of(...$a, ...$b, ...$d) <= 0 && Orientation::of(...$c, ...$d, ...$a) * Orientation::of(...$c, ...$d, ...$b) <= 0;
    }
}
