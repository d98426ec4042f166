<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\BadBed;
use Isotome\Fit\BuildSpace;
use Isotome\Geometry\Affine;
use Isotome\Geometry\Box;
use Isotome\Geometry\Chance;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Plate\Mask;
use Isotome\Plate\Plates;
use Isotome\Plate\Silhouette;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Pieces on plates: within the bed, apart, lying at 0, on no more plates than boxes in shelves. */
final class PlatesTest extends TestCase
{
    /** @return array<string, Mesh> */
    private static function pieces(int $count, int $seed): array
    {
        $chance = new Chance($seed);
        $pieces = [];
        for ($n = 0; $n < $count; $n++) {
            $side = static fn (): float => 8 + 50 * $chance->uniform() ** 2;
            $mesh = match ($n % 4) {
                0 => Solids::box($side(), $side(), $side()),
                1 => Solids::torus($side(), 4.0, 24, 10),
                2 => Solids::prism([[0.0, 0.0], [$side() + 20, 0.0], [$side() + 20, 6.0], [6.0, 6.0], [6.0, $side() + 20], [0.0, $side() + 20]], 5.0),
                default => Solids::cone($side(), $side(), 16),
            };
            $pieces["piece $n"] = Solids::moved($mesh, 6 * $chance->uniform(), 6 * $chance->uniform(), 6 * $chance->uniform(), 1.0, [30.0, -10.0, 5.0]);
        }

        return $pieces;
    }

    /**
     * @param  array<string, Mesh>  $pieces
     */
    private static function assertValid(array $pieces, Plates $plates, BuildSpace $space, float $apart): void
    {
        $names = array_keys($pieces);
        $seen = [];
        foreach ($plates->plates as $plate) {
            self::assertNotSame([], $plate);
            $outlines = [];
            foreach ($plate as ['piece' => $n, 'map' => $map]) {
                $seen[] = $n;
                $mesh = $pieces[$names[$n]];
                $laid = Mesh::of(array_values(Affine::points($mesh->xyz, $map)), $mesh->corners);
                // Turned and moved, not mirrored or stretched.
                self::assertEqualsWithDelta(Volume::of($mesh), Volume::of($laid), 1e-9 * Volume::of($mesh) + 1e-9);
                foreach ([$space->x, $space->y, $space->z] as $k => $side) {
                    $along = array_column(array_chunk($laid->xyz, 3), $k);
                    self::assertGreaterThanOrEqual(-1e-6, min($along));
                    self::assertLessThanOrEqual($side + 1e-6, max($along));
                    if ($k === 2) {
                        self::assertEqualsWithDelta(0.0, min($along), 1e-9);
                    }
                }
                // Places of the silhouette, on edges and within faces.
                $places = [];
                for ($i = 0, $count = count($laid->corners); $i < $count; $i += 3) {
                    [$a, $b, $c] = [3 * $laid->corners[$i], 3 * $laid->corners[$i + 1], 3 * $laid->corners[$i + 2]];
                    for ($u = 0; $u <= 2; $u++) {
                        for ($v = 0; $v <= 2 - $u; $v++) {
                            $w = 2 - $u - $v;
                            $places[] = [($u * $laid->xyz[$a] + $v * $laid->xyz[$b] + $w * $laid->xyz[$c]) / 2, ($u * $laid->xyz[$a + 1] + $v * $laid->xyz[$b + 1] + $w * $laid->xyz[$c + 1]) / 2];
                        }
                    }
                }
                $outlines[] = $places;
            }
            foreach ($outlines as $i => $some) {
                for ($j = 0; $j < $i; $j++) {
                    $least = INF;
                    [$ax, $ay, $bx, $by] = [array_column($some, 0), array_column($some, 1), array_column($outlines[$j], 0), array_column($outlines[$j], 1)];
                    if (max(min($ax) - max($bx), min($bx) - max($ax), min($ay) - max($by), min($by) - max($ay)) >= $apart) {
                        continue;
                    }
                    foreach ($some as [$x, $y]) {
                        foreach ($outlines[$j] as [$p, $q]) {
                            $square = ($x - $p) ** 2 + ($y - $q) ** 2;
                            $least = $square < $least ? $square : $least;
                        }
                    }
                    self::assertGreaterThanOrEqual($apart - 1e-6, sqrt($least));
                }
            }
        }
        sort($seen);
        self::assertSame(range(0, count($pieces) - 1), $seen, 'every piece once');
    }

    /**
     * First fit by decreasing height, in shelves, of the boxes as pieces lie (E. G. Coffman, M. R. Garey, D. S. Johnson, R. E. Tarjan 1980).
     *
     * @param  array<string, Mesh>  $pieces
     */
    private static function shelves(array $pieces, Plates $plates, BuildSpace $space, float $apart): int
    {
        $names = array_keys($pieces);
        $boxes = [];
        foreach (array_merge(...$plates->plates) as ['piece' => $n, 'map' => $map]) {
            $laid = Affine::points($pieces[$names[$n]]->xyz, $map);
            $sizes = array_map(static fn (int $k): float => max(array_column(array_chunk($laid, 3), $k)) - min(array_column(array_chunk($laid, 3), $k)), [0, 1]);
            $boxes[] = [max($sizes), min($sizes)];
        }
        usort($boxes, static fn (array $a, array $b): int => $b[1] <=> $a[1]);
        $shelves = $tops = [];
        foreach ($boxes as [$wide, $deep]) {
            foreach ($shelves as $k => $taken) {
                if ($taken + $wide <= $space->x) {
                    $shelves[$k] += $wide + $apart;

                    continue 2;
                }
            }
            $plate = 0;
            while (isset($tops[$plate]) && $space->y < $tops[$plate] + $deep) {
                $plate++;
            }
            $tops[$plate] = ($tops[$plate] ?? 0.0) + $deep + $apart;
            $shelves[] = $wide + $apart;
        }

        return count($tops);
    }

    /** What goes in on none of its faces goes in tilted: a rod along the diagonal of the space. */
    public function test_what_fits_only_tilted_is_put_on_a_plate(): void
    {
        $pieces = ['rod' => Solids::box(300, 12, 12), 'cube' => Solids::box(20, 20, 20)];
        $plates = Plates::of($pieces, new BuildSpace(200.0, 200.0, 200.0), 2.0)->plates;
        $stable = [];
        foreach ($plates as $plate) {
            foreach ($plate as ['piece' => $n, 'map' => $map, 'stable' => $isStable]) {
                $box = Box::of(Affine::points(array_values($pieces)[$n]->xyz, $map));
                self::assertGreaterThanOrEqual(-1e-6, min($box->min));
                self::assertLessThanOrEqual(200 + 1e-6, max($box->max));
                self::assertEqualsWithDelta(0.0, $box->min[2], 1e-9);
                $stable[$n] = $isStable;
            }
        }
        ksort($stable);
        self::assertSame([false, true], $stable);
        $this->expectException(BadBed::class);
        $this->expectExceptionMessage('rod does not go on the bed, however it is turned; cut it first.');
        Plates::of(['rod' => Solids::box(350, 12, 12)], new BuildSpace(200.0, 200.0, 200.0), 2.0);
    }

    public function test_random_pieces_lie_within_the_bed_and_apart_on_no_more_plates_than_boxes(): void
    {
        $space = new BuildSpace(160, 120, 150);
        foreach ([[14, 1, 2.0, true], [14, 2, 0.0, true], [10, 3, 5.0, false], [16, 4, 1.0, true]] as [$count, $seed, $apart, $isTurned]) {
            $pieces = self::pieces($count, $seed);
            $plates = Plates::of($pieces, $space, $apart, $isTurned);
            self::assertValid($pieces, $plates, $space, $apart);
            self::assertLessThanOrEqual(self::shelves($pieces, $plates, $space, $apart), count($plates->plates));
            if ($seed === 1) {
                self::assertEquals($plates, Plates::of($pieces, $space, $apart, $isTurned), 'the same every time');
            }
        }
    }

    public function test_closed_forms(): void
    {
        // Sixteen cubes of 50 mm fill a bed of 200 exactly; the seventeenth needs another.
        $cubes = array_fill_keys(array_map(static fn (int $n): string => "cube $n", range(1, 17)), Solids::box(50, 50, 50));
        $plates = Plates::of($cubes, new BuildSpace(200, 200, 200), 0.0);
        self::assertSame([16, 1], array_map(count(...), $plates->plates));
        self::assertValid($cubes, $plates, new BuildSpace(200, 200, 200), 0.0);
        // Two angles reach into each other, as their boxes do not.
        $angle = Solids::prism([[0.0, 0.0], [90.0, 0.0], [90.0, 20.0], [20.0, 20.0], [20.0, 90.0], [0.0, 90.0]], 10.0);
        $pair = ['one' => $angle, 'other' => $angle];
        $plates = Plates::of($pair, new BuildSpace(115, 115, 50), 2.0);
        self::assertSame([2], array_map(count(...), $plates->plates));
        self::assertValid($pair, $plates, new BuildSpace(115, 115, 50), 2.0);
        // Exactly as large as the bed; and a strip that lies from corner to corner.
        self::assertCount(1, Plates::of(['plate' => Solids::box(200, 150, 10)], new BuildSpace(200, 150, 20), 3.0)->plates);
        $strip = ['strip' => Solids::box(260, 10, 5)];
        $plates = Plates::of($strip, new BuildSpace(200, 200, 20), 3.0);
        self::assertValid($strip, $plates, new BuildSpace(200, 200, 20), 3.0);
        $this->expectException(BadBed::class);
        $this->expectExceptionMessage('strip does not go on the bed, on whichever of its faces it stands; let it be turned, or cut it first.');
        Plates::of($strip, new BuildSpace(200, 200, 20), 3.0, false);
    }

    public function test_a_silhouette_covers_its_piece_in_every_turn(): void
    {
        foreach (self::pieces(8, 9) as $name => $mesh) {
            $silhouette = Silhouette::of($mesh, 0.5);
            foreach ([0.0, 33.0, 90.0, 217.5] as $degrees) {
                $mask = Mask::of($silhouette, $degrees, 1.0);
                [$x0, $y0] = $silhouette->box($degrees);
                [$c, $s] = Silhouette::turn($degrees);
                $chance = new Chance(5);
                for ($i = 0, $count = count($mesh->corners); $i < $count; $i += 3) {
                    [$u, $v] = [$chance->uniform(), $chance->uniform()];
                    [$u, $v] = $u + $v > 1 ? [1 - $u, 1 - $v] : [$u, $v];
                    [$a, $b, $d] = [3 * $mesh->corners[$i], 3 * $mesh->corners[$i + 1], 3 * $mesh->corners[$i + 2]];
                    $x = $mesh->xyz[$a] + $u * ($mesh->xyz[$b] - $mesh->xyz[$a]) + $v * ($mesh->xyz[$d] - $mesh->xyz[$a]);
                    $y = $mesh->xyz[$a + 1] + $u * ($mesh->xyz[$b + 1] - $mesh->xyz[$a + 1]) + $v * ($mesh->xyz[$d + 1] - $mesh->xyz[$a + 1]);
                    [$column, $row] = [(int) floor($c * $x - $s * $y - $x0), (int) floor($s * $x + $c * $y - $y0)];
                    self::assertNotSame([], array_filter($mask->rows[$row], static fn (array $span): bool => $span[0] <= $column && $column < $span[1]), "$name at $degrees");
                }
            }
        }
    }

    public function test_pieces_are_turned_by_steps_only_when_that_is_asked(): void
    {
        $pieces = [];
        for ($n = 0; $n < 6; $n++) {
            $pieces["p$n"] = Solids::moved(Solids::box(60 + 5 * $n, 20, 10), 0.0, 0.0, 0.3 * $n);
        }
        $turns = static function (float $step) use ($pieces): array {
            $angles = [];
            foreach (Plates::of($pieces, new BuildSpace(120, 120, 50), 1.0, true, $step)->plates as $plate) {
                foreach ($plate as $one) {
                    // What comes of X, against how the piece was turned before it was laid down.
                    $angles[] = fmod(rad2deg(atan2($one['map'][1], $one['map'][0])) + 720.0, $step > 0.0 ? $step : 1e9);
                }
            }

            return $angles;
        };
        foreach ([90.0, 45.0] as $step) {
            foreach ($turns($step) as $rest) {
                self::assertEqualsWithDelta(0.0, min($rest, $step - $rest), 1e-6);
            }
        }
        // A rod longer than the bed is wide goes in from corner to corner all the same.
        $rod = ['rod' => Solids::box(140, 6, 6)];
        self::assertCount(1, Plates::of($rod, new BuildSpace(120, 120, 50), 1.0, true, 90.0)->plates);
    }
}
