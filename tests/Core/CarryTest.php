<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\Refusal;
use Isotome\Geometry\Affine;
use Isotome\Mesh\Layer;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;
use Isotome\Mesh\Skin;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Skins;
use Tests\Support\Solids;
use Tests\Support\Steps;

/** What a mesh carries comes through every kind of step: functions that are linear in place stay those functions, and seams stay seams. */
final class CarryTest extends TestCase
{
    private const FLAT = ['kind' => 'flat', 'through' => [0.3, 0.2, 0.1], 'facing' => [1, 0.3, 0.2]];

    /** @return array<string, array{list<array<string, mixed>>, float}> steps, and how far a corner may be moved off its triangle, mm */
    public static function steps(): array
    {
        $cells = ['kind' => 'cells', 'by' => 'uniform', 'count' => 12, 'seed' => 4];

        return [
            'cut' => [[['do' => 'cut', 'blade' => self::FLAT]], 0.0],
            'cut with an even seal and a kerf' => [[['do' => 'cut', 'blade' => self::FLAT, 'kerf' => 0.8, 'seal' => 'even', 'edge_mm' => 1.5]], 0.0],
            'cut that keeps one side' => [[['do' => 'cut', 'blade' => self::FLAT, 'keep' => 'ahead']], 0.0],
            'cut that catches vertices' => [[['do' => 'cut', 'blade' => self::FLAT, 'catch' => 0.4]], 0.4],
            'series' => [[['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [0.2, 1, 0.1], 'parts' => 6]]], 0.0],
            'series that wanders' => [[['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [0, 0, 1], 'parts' => 4, 'wander' => ['shift' => 0.1, 'tilt' => 8, 'seed' => 3]]]], 0.0],
            'score' => [[['do' => 'score', 'blade' => self::FLAT]], 0.0],
            'cells' => [[['do' => 'cut', 'blade' => $cells]], 1e-8],
            'cells with a kerf' => [[['do' => 'cut', 'blade' => $cells, 'kerf' => 0.3]], 1e-8],
            'chop' => [[['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'chop', 'rounds' => 3, 'along' => [[1, 0, 0], [0, 1, 1]], 'shift' => 0.1, 'tilt' => 5, 'seed' => 8]]], 0.0],
            'mend' => [[['do' => 'mend']], 0.0],
            'five in a row' => [[
                ['do' => 'cut', 'blade' => self::FLAT], ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 0.4], 'facing' => [0, 0.2, 1]], 'kerf' => 0.2],
                ['do' => 'score', 'blade' => ['kind' => 'flat', 'through' => [0, 0.1, 0], 'facing' => [0.1, 1, 0]]],
                ['do' => 'cut', 'blade' => [...$cells, 'count' => 5]], ['do' => 'cut', 'blade' => ['kind' => 'series', 'facing' => [1, 0, 0.3], 'parts' => 3]],
            ], 1e-8],
        ];
    }

    /**
     * @param  list<array<string, mixed>>  $steps
     * @return array<string, Piece>
     */
    private static function ran(Mesh $mesh, array $steps): array
    {
        $runner = Runner::on('jar', $mesh);
        foreach (Recipe::fromJson(json_encode(['isotome_recipe' => 1, 'steps' => $steps], JSON_THROW_ON_ERROR))->steps as $step) {
            $runner->run($step);
        }

        return $runner->pieces();
    }

    /** @param  list<array<string, mixed>>  $steps */
    #[DataProvider('steps')]
    public function test_linear_functions_stay_themselves_through(array $steps, float $moved): void
    {
        foreach (['ball' => Solids::sphere(12, 3), 'ring' => Solids::moved(Solids::torus(14, 5, 40, 20), 0.2, 0.3, 0.1)] as $name => $bare) {
            $pieces = self::ran(Skins::linear($bare), $steps);
            $plain = self::ran($bare, $steps);
            self::assertSame(
                array_map(static fn (Piece $piece): string => Packing::hash($piece->mesh->withSkin(null)), $plain), array_map(static fn (Piece $piece): string => Packing::hash($piece->mesh->withSkin(null)), $pieces),
                "$name: the shapes are the same with and without",
            );
            $corners = 0;
            foreach ($pieces as $piece) {
                $corners += $this->assertLinear($piece->mesh, [], $moved, "$name, $piece->name");
            }
            self::assertGreaterThan(count($bare->tags), $corners, $name);
        }
    }

    public function test_every_kind_of_step_gives_the_same_shapes_with_and_without(): void
    {
        $bare = Solids::moved(Solids::torus(24, 9, 40, 20), 0.2, 0.3, 0.1);
        // Paint needs something to paint: its shapes are compared in PaintTest.
        foreach (array_diff_key(Steps::all(), Steps::paints()) as $name => $step) {
            $shapes = [];
            foreach ([$bare, Skins::linear($bare)] as $mesh) {
                try {
                    $shapes[] = array_map(static fn (Piece $piece): string => Packing::hash($piece->mesh->withSkin(null)), self::ran($mesh, [$step]));
                } catch (Refusal $refusal) {
                    $shapes[] = $refusal->getMessage();
                }
            }
            self::assertSame($shapes[0], $shapes[1], (string) $name);
        }
    }

    public function test_images_carry_what_they_are_images_of(): void
    {
        $bare = Solids::moved(Solids::torus(14, 5, 40, 20), 0.2, 0.3, 0.1);
        foreach ([
            ['do' => 'turn', 'about' => [1, 2, 3], 'degrees' => 33],
            ['do' => 'turn', 'about' => [1, 0, 0], 'degrees' => 90, 'through' => [1, 2, 3]],
            ['do' => 'turn', 'face' => [0.3, 0.2, 1]],
            ['do' => 'move', 'by' => [3, -40, 0.125]],
            ['do' => 'scale', 'times' => [2, 0.5, 7], 'through' => [1, 2, 3]],
            ['do' => 'mirror', 'planes' => [['through' => [1, 0, 0], 'facing' => [1, 0.2, 0.1]]]],
            ['do' => 'mirror', 'planes' => [['through' => [1, 0, 0], 'facing' => [1, 0, 0]], ['through' => [0, 1, 0], 'facing' => [0, 1, 0]]]],
            ['do' => 'mirror', 'planes' => [['through' => [30, 0, 0], 'facing' => [1, 0, 0]]], 'cut' => false],
            ['do' => 'mirror', 'copies' => ['through' => [40, 0, 0], 'axis' => [0, 0, 1], 'count' => 3]],
        ] as $n => $step) {
            $recipe = Recipe::fromJson(json_encode(['isotome_recipe' => 1, 'steps' => [$step]], JSON_THROW_ON_ERROR))->steps[0];
            $images = $recipe->images([new Piece('jar', $bare)]);
            $corners = 0;
            foreach (self::ran(Skins::linear($bare), [$step]) as $piece) {
                $corners += $this->assertLinear($piece->mesh, array_map(Affine::back(...), $images), 1e-9, "step $n");
            }
            self::assertGreaterThan(1000, $corners, "step $n");
        }
    }

    public function test_normals_are_turned_and_mirrored_with_the_surface(): void
    {
        $bare = Solids::sphere(10, 4);
        $normals = [];
        foreach ($bare->corners as $v) {
            foreach ([0, 1, 2] as $k) {
                $normals[] = $bare->xyz[3 * $v + $k] / 10;
            }
        }
        $ball = $bare->withSkin(new Skin(new Looks, str_repeat("\0\0\0\0", $bare->triangleCount()), [Skin::NORMAL => Layer::of(3, $normals)]));
        foreach ([
            [['do' => 'turn', 'about' => [1, 2, 3], 'degrees' => 77, 'through' => [0, 0, 0]]], [['do' => 'mirror', 'planes' => [['through' => [0, 0, 0], 'facing' => [1, 0.3, 0.2]]]]],
            [['do' => 'cut', 'blade' => self::FLAT]],
        ] as $steps) {
            foreach (self::ran($ball, $steps) as $piece) {
                $layer = $piece->mesh->skin->layers[Skin::NORMAL] ?? null;
                self::assertNotNull($layer);
                foreach ($piece->mesh->tags as $t => $tag) {
                    $given = $layer->at($t);
                    for ($k = 0; $k < 3; $k++) {
                        $v = 3 * $piece->mesh->corners[3 * $t + $k];
                        [$x, $y, $z] = array_slice($given, 3 * $k, 3);
                        if ($tag > 0) {
                            self::assertSame([0.0, 0.0, 0.0], [$x, $y, $z]);

                            continue;
                        }
                        self::assertEqualsWithDelta(1.0, sqrt($x * $x + $y * $y + $z * $z), 1e-12);
                        $outward = ($x * $piece->mesh->xyz[$v] + $y * $piece->mesh->xyz[$v + 1] + $z * $piece->mesh->xyz[$v + 2]) / 10;
                        self::assertGreaterThan(0.98, $outward);
                    }
                }
            }
        }
    }

    public function test_without_anything_to_carry_nothing_is_marked(): void
    {
        $pieces = self::ran(Bodies::named(Bodies::names()[0]), [['do' => 'cut', 'blade' => self::FLAT]]);
        foreach ($pieces as $piece) {
            self::assertNull($piece->mesh->skin);
            self::assertLessThan(2, max($piece->mesh->tags));
        }
    }

    /**
     * @param  list<list<float>>  $back  from where images are to where they were
     * @param  float  $moved  mm
     * @return int corners that were compared
     */
    private function assertLinear(Mesh $mesh, array $back, float $moved, string $what): int
    {
        $skin = $mesh->skin;
        self::assertNotNull($skin, $what);
        $corners = 0;
        foreach ($mesh->tags as $t => $tag) {
            $uv = $skin->layers['uv0']->at($t);
            $colour = $skin->layers[Skin::COLOUR]->at($t);
            if ($skin->materialOf($t) < 0) {
                self::assertGreaterThan(0, $tag, "$what: only new faces have no material");
                self::assertSame(array_fill(0, 6, 0.0), $uv);
                self::assertEqualsWithDelta(array_fill(0, 12, 1.0), $colour, 1e-12);

                continue;
            }
            self::assertSame(0, $tag, $what);
            for ($k = 0; $k < 3; $k++) {
                $v = 3 * $mesh->corners[3 * $t + $k];
                $least = INF;
                foreach ([Affine::IDENTITY, ...$back] as $map) {
                    /** @var array{float, float, float} $place */
                    $place = Affine::points([$mesh->xyz[$v], $mesh->xyz[$v + 1], $mesh->xyz[$v + 2]], $map);
                    $expected = [...Skins::uv($place, $skin->materialOf($t) === 1), ...Skins::colour($place)];
                    $given = [...array_slice($uv, 2 * $k, 2), ...array_slice($colour, 4 * $k, 4)];
                    $least = min($least, max(array_map(static fn (float $one, float $other): float => abs($one - $other), $expected, $given)));
                }
                // The functions change by less than 0.04 a millimetre.
                self::assertLessThan(1e-9 + 0.04 * $moved, $least, "$what, triangle $t");
                $corners++;
            }
        }

        return $corners;
    }
}
