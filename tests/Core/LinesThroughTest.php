<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Geometry\Chance;
use Isotome\Mesh\LinesThrough;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Upright lines through triangles: against each triangle looked at by itself, and against a ball. */
final class LinesThroughTest extends TestCase
{
    public function test_lines_meet_a_triangle_where_its_plane_is_and_nowhere_else(): void
    {
        $chance = new Chance(77);
        for ($n = 0; $n < 200; $n++) {
            $xyz = [];
            for ($k = 0; $k < 9; $k++) {
                $xyz[] = 20 * $chance->uniform();
            }
            [$lines, $heights] = LinesThrough::of($xyz, [0, 1, 2], 0.11, 0.17, 0.7, 1000);
            $met = array_combine($lines, $heights);
            self::assertCount(count($lines), $met);
            for ($row = 0; $row < 30; $row++) {
                for ($column = 0; $column < 30; $column++) {
                    [$s, $t, $z] = self::within($xyz, 0.11 + 0.7 * $column, 0.17 + 0.7 * $row);
                    $least = min($s, $t, 1 - $s - $t);
                    if ($least > 1e-9) {
                        self::assertEqualsWithDelta($z, $met[1000 * $row + $column] ?? NAN, 1e-6);
                    } elseif ($least < -1e-9) {
                        self::assertArrayNotHasKey(1000 * $row + $column, $met);
                    }
                }
            }
        }
    }

    /**
     * @param  list<float>  $p
     * @return array{float, float, float} the shares of two corners at a place (barycentric coordinates, A. F. Möbius 1827), and the height there
     */
    private static function within(array $p, float $x, float $y): array
    {
        $area = ($p[3] - $p[0]) * ($p[7] - $p[1]) - ($p[4] - $p[1]) * ($p[6] - $p[0]);
        $s = (($x - $p[0]) * ($p[7] - $p[1]) - ($y - $p[1]) * ($p[6] - $p[0])) / $area;
        $t = (($p[3] - $p[0]) * ($y - $p[1]) - ($p[4] - $p[1]) * ($x - $p[0])) / $area;

        return [$s, $t, $p[2] + $s * ($p[5] - $p[2]) + $t * ($p[8] - $p[2])];
    }

    public function test_a_ball_is_met_twice_by_every_line_within_it(): void
    {
        $ball = Solids::sphere(10, 4);
        [$lines, $heights, $triangles] = LinesThrough::of($ball->xyz, $ball->corners, -12.03, -12.07, 0.5, 100);
        self::assertCount(count($lines), $triangles);
        self::assertSame([2], array_values(array_unique(array_count_values($lines))));
        self::assertEqualsWithDelta(M_PI * 100 / 0.25, count($lines) / 2, 30);
        foreach ($lines as $n => $line) {
            $square = (-12.03 + 0.5 * ($line % 100)) ** 2 + (-12.07 + 0.5 * intdiv($line, 100)) ** 2;
            if ($square < 90) {
                self::assertEqualsWithDelta(sqrt(100 - $square), abs($heights[$n]), 0.1);
            }
        }
        // Walls that stand upright are not met.
        $box = Solids::box(4, 4, 4);
        self::assertSame([0.0, 4.0], array_values(array_unique(LinesThrough::of($box->xyz, $box->corners, 0.3, 0.3, 0.5, 100)[1])));
    }
}
