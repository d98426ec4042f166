<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Format\MeshFile;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Layer;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;
use Isotome\Mesh\SmoothNormals;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\PaintedGlb;
use Tests\Support\Solids;

/** Normals for shading, beside solids whose normals are known in closed form. */
final class NormalsTest extends TestCase
{
    use Folder;

    /** @return list<array{float, float, float}> of the corners */
    private static function normals(Mesh $mesh, float $crease = SmoothNormals::CREASE): array
    {
        /** @var list<array{float, float, float}> */
        return array_chunk(array_values((array) unpack('e*', SmoothNormals::of($mesh, $crease))), 3);
    }

    /**
     * @param  array{float, float, float}  $a
     * @param  array{float, float, float}  $b
     * @return float degrees
     */
    private static function between(array $a, array $b): float
    {
        $cross = [$a[1] * $b[2] - $a[2] * $b[1], $a[2] * $b[0] - $a[0] * $b[2], $a[0] * $b[1] - $a[1] * $b[0]];

        return rad2deg(atan2(sqrt($cross[0] ** 2 + $cross[1] ** 2 + $cross[2] ** 2), $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2]));
    }

    /** @return array{float, float, float} */
    private static function place(Mesh $mesh, int $corner): array
    {
        $v = 3 * $mesh->corners[$corner];

        return [$mesh->xyz[$v], $mesh->xyz[$v + 1], $mesh->xyz[$v + 2]];
    }

    public function test_a_box_has_sharp_edges_and_a_wide_crease_rounds_them(): void
    {
        $box = Solids::box(20, 30, 40);
        $sharp = self::normals($box);
        foreach ($sharp as $i => $n) {
            $t = 3 * intdiv($i, 3);
            [$a, $b, $c] = [self::place($box, $t), self::place($box, $t + 1), self::place($box, $t + 2)];
            $flat = array_map(static fn (int $k): float => $a[$k] === $b[$k] && $b[$k] === $c[$k] ? ($a[$k] > 0 ? 1.0 : -1.0) : 0.0, [0, 1, 2]);
            self::assertEqualsWithDelta(array_map(abs(...), $flat), array_map(abs(...), $n), 1e-15);
        }
        // Each of three faces counts by its right angle, however it is divided: the corner points straight out.
        foreach (self::normals($box, 100.0) as $n) {
            self::assertEqualsWithDelta(array_fill(0, 3, 1 / sqrt(3)), array_map(abs(...), $n), 1e-12);
        }
    }

    public function test_a_ball_is_smooth_and_stays_so_when_it_is_cut_but_for_the_rim(): void
    {
        $ball = Solids::sphere(40, 4);
        foreach (self::normals($ball) as $i => $n) {
            self::assertLessThan(0.5, self::between($n, self::place($ball, $i)));
        }
        $cut = FlatCut::of($ball, new FlatBlade(Plane::through([3.0, 2.0, 7.0], [0.3, 0.2, 1.0])), 1);
        self::assertNotNull($cut);
        foreach ($cut->bodies as $side => $body) {
            foreach (self::normals($body) as $i => $n) {
                if ($body->tags[intdiv($i, 3)] > 0) {
                    // Exactly the cut's own: the skin does not pull on it, sharp as the rim is.
                    $facing = [0.3 / sqrt(1.13), 0.2 / sqrt(1.13), 1 / sqrt(1.13)];
                    self::assertLessThan(1e-9, min(self::between($n, $facing), self::between($n, [-$facing[0], -$facing[1], -$facing[2]])), "side $side");
                } else {
                    // A face of this ball spans some 3.5 degrees.
                    self::assertLessThan(3.5, self::between($n, self::place($body, $i)), "side $side");
                }
            }
        }
    }

    public function test_the_edges_of_a_cylinder_are_sharp_and_its_side_is_round(): void
    {
        $around = 48;
        $cylinder = Solids::prism(array_map(static fn (int $k): array => [10 * cos(2 * M_PI * $k / $around), 10 * sin(2 * M_PI * $k / $around)], range(0, $around - 1)), 25);
        foreach (self::normals($cylinder) as $i => $n) {
            [$x, $y] = self::place($cylinder, $i);
            if (abs($n[2]) > 0.5) {
                self::assertEqualsWithDelta([0.0, 0.0, 1.0], [$n[0], $n[1], abs($n[2])], 1e-12);
            } else {
                self::assertLessThan(1e-6, self::between($n, [$x, $y, 0.0]));
            }
        }
    }

    public function test_smoothing_groups_decide_instead_of_the_crease(): void
    {
        $box = Solids::box(20, 20, 20);
        $groups = array_fill(0, $box->triangleCount(), 1);
        $smooth = array_chunk(array_values((array) unpack('e*', SmoothNormals::of($box, 30.0, $groups))), 3);
        self::assertEqualsWithDelta(array_fill(0, 3, 1 / sqrt(3)), array_map(abs(...), $smooth[0]), 1e-12);
        self::assertSame(SmoothNormals::of($box), SmoothNormals::of($box, 180.0, array_map(static fn (array $n): int => 1 + (int) (abs($n[0]) * 1 + abs($n[1]) * 2 + abs($n[2]) * 4 + 0.5), array_map(static fn (int $t): array => self::normals($box)[3 * $t], range(0, $box->triangleCount() - 1)))));
        // 0 is none: every face for itself, and even two triangles of one face do not share.
        self::assertSame(SmoothNormals::of($box), SmoothNormals::of($box, 180.0, array_fill(0, $box->triangleCount(), 0)));
    }

    public function test_faces_without_area_are_no_obstacle_and_give_no_direction(): void
    {
        // A needle of no width between two halves of a square.
        $mesh = Mesh::of([0, 0, 0, 10, 0, 0, 10, 10, 0, 0, 10, 0, 5, 5, 0], [0, 1, 4, 1, 2, 4, 0, 4, 2, 0, 2, 3]);
        foreach (self::normals($mesh) as $n) {
            self::assertEqualsWithDelta([0.0, 0.0, 1.0], $n, 1e-15);
        }
        self::assertSame([[0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]], self::normals(Mesh::of([0, 0, 0, 1, 0, 0, 2, 0, 0], [0, 1, 2])));
        self::assertSame('', SmoothNormals::of(Mesh::of([], [])));
    }

    public function test_a_glb_has_them_and_those_that_a_mesh_carries_stay(): void
    {
        $ball = Solids::sphere(40, 3);
        MeshFile::write($ball, $this->path('ball.glb'));
        // Our own remark says that they were worked out: read again, the mesh carries none.
        self::assertNull(MeshFile::read($this->path('ball.glb'))->mesh->skin);
        $bytes = (string) file_get_contents($this->path('ball.glb'));
        file_put_contents($this->path('other.glb'), str_replace('"worked out"', '"by another"', $bytes));
        $read = MeshFile::read($this->path('other.glb'))->mesh;
        self::assertSame(['normals'], $read->skin?->words());
        foreach ($read->tags as $t => $_) {
            foreach (array_chunk($read->skin->layers[Skin::NORMAL]->at($t), 3) as $k => $n) {
                /** @var array{float, float, float} $n */
                self::assertLessThan(1.5, self::between($n, self::place($read, 3 * $t + $k)));
            }
        }
        // A given normal is kept although it is no such one.
        $given = str_repeat(pack('e3', 0.0, 0.6, 0.8), 3 * $ball->triangleCount());
        MeshFile::write($ball->withSkin(new Skin(new Looks, str_repeat("\0", 4 * $ball->triangleCount()), [Skin::NORMAL => new Layer(3, $given)])), $this->path('given.glb'));
        $read = MeshFile::read($this->path('given.glb'))->mesh;
        self::assertEqualsWithDelta([0.0, 0.6, 0.8], array_slice($read->skin?->layers[Skin::NORMAL]->at(7) ?? [], 0, 3), 1e-7);
        file_put_contents($this->path('painted.glb'), PaintedGlb::box());
        self::assertContains('normals', MeshFile::read($this->path('painted.glb'))->mesh->skin?->words() ?? []);
    }

    public function test_corners_that_carry_no_normal_get_one_beside_those_that_do(): void
    {
        // A ball that carries normals, all turned by a known angle, but none around one vertex.
        $ball = Solids::sphere(40, 3);
        $turned = static fn (float $x, float $y, float $z): array => [$y / 40, $z / 40, $x / 40];
        $normals = [];
        foreach (array_chunk($ball->corners, 3) as $face) {
            foreach ($face as $v) {
                array_push($normals, ...(in_array(5, $face, true) ? [0.0, 0.0, 0.0] : $turned(...array_slice($ball->xyz, 3 * $v, 3))));
            }
        }
        $mesh = $ball->withSkin(new Skin(new Looks, str_repeat("\0", 4 * $ball->triangleCount()), [Skin::NORMAL => Layer::of(3, $normals)]));
        foreach (['glb', 'obj'] as $format) {
            MeshFile::write($mesh, $this->path("ball.$format"));
            $read = MeshFile::read($this->path("ball.$format"))->mesh;
            self::assertSame(['normals'], $read->skin?->words(), $format);
            $worked = 0;
            foreach ($read->tags as $t => $_) {
                $places = array_map(static fn (int $k): array => self::place($read, 3 * $t + $k), [0, 1, 2]);
                $isGap = array_filter($places, static fn (array $p): bool => self::between($p, array_slice($ball->xyz, 15, 3)) < 1e-3) !== [];
                foreach (array_chunk($read->skin->layers[Skin::NORMAL]->at($t), 3) as $k => $n) {
                    /** @var array{float, float, float} $n */
                    self::assertLessThan($isGap ? 1.5 : 1e-3, self::between($n, $isGap ? $places[$k] : $turned(...$places[$k])), $format);
                    $worked += $isGap ? 1 : 0;
                }
            }
            self::assertGreaterThanOrEqual(15, $worked, $format);
        }
    }
}
