<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Affine;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Layer;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;
use Isotome\Mesh\Volume;
use Isotome\Operation\Kinds;
use Isotome\Operation\Runner;
use Isotome\Operation\Step;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Pieces are moved and scaled, together, and stay what they are. */
final class PlaceTest extends TestCase
{
    /** @param  array<string, mixed>  $step */
    private static function placed(Mesh $mesh, array $step): Mesh
    {
        $runner = Runner::on('part', $mesh);
        $record = $runner->run(Kinds::read($step, 'step'));
        self::assertSame(['part'], $record->gave);

        return $runner->pieces()['part']->mesh;
    }

    public function test_a_box_is_moved_exactly_and_scaled_about_its_middle_or_a_place(): void
    {
        $box = Solids::box(4, 2, 1, [10.0, 0.0, 0.0]);
        $moved = Box::of(self::placed($box, ['do' => 'move', 'by' => [0.5, -3, 100]])->xyz);
        self::assertSame([[10.5, -3.0, 100.0], [14.5, -1.0, 101.0]], [$moved->min, $moved->max]);
        $scaled = self::placed($box, ['do' => 'scale', 'times' => [2, 1, 0.5]]);
        self::assertSame([[8.0, 0.0, 0.25], [16.0, 2.0, 0.75]], [Box::of($scaled->xyz)->min, Box::of($scaled->xyz)->max]);
        self::assertTrue(EdgeCheck::of($scaled)->isWatertight());
        self::assertSame(8.0, Volume::measure($scaled)->volume);
        $scaled = Box::of(self::placed($box, ['do' => 'scale', 'times' => [0.1, 0.1, 0.1], 'through' => [10, 0, 0]])->xyz);
        self::assertEqualsWithDelta([[10.0, 0.0, 0.0], [10.4, 0.2, 0.1]], [$scaled->min, $scaled->max], 1e-15);
    }

    public function test_a_recipe_in_inches_moves_by_inches_and_scales_by_plain_factors(): void
    {
        $box = Solids::box(1, 1, 1);
        self::assertEqualsWithDelta([25.4, 0.0, 0.0], Box::of(self::done($box, Kinds::read(['do' => 'move', 'by' => [1, 0, 0]], 'step', 25.4)))->min, 1e-12);
        self::assertSame([2.0, 2.0, 2.0], Box::of(self::done($box, Kinds::read(['do' => 'scale', 'times' => [2, 2, 2]], 'step', 25.4)))->size());
    }

    /** @return list<float> */
    private static function done(Mesh $mesh, Step $step): array
    {
        $runner = Runner::on('part', $mesh);
        $runner->run($step);

        return $runner->pieces()['part']->mesh->xyz;
    }

    /** Normals of a ball that is scaled are those of an ellipsoid: (x/a², y/b², z/c²). */
    public function test_normals_of_a_scaled_ball_are_those_of_an_ellipsoid(): void
    {
        $bare = Solids::sphere(10, 3);
        $normals = [];
        foreach ($bare->corners as $v) {
            array_push($normals, $bare->xyz[3 * $v] / 10, $bare->xyz[3 * $v + 1] / 10, $bare->xyz[3 * $v + 2] / 10);
        }
        $ball = $bare->withSkin(new Skin(new Looks, str_repeat("\0\0\0\0", $bare->triangleCount()), [Skin::NORMAL => Layer::of(3, $normals)]));
        $times = [3.0, 1.0, 0.25];
        $mesh = self::placed($ball, ['do' => 'scale', 'times' => $times, 'through' => [0, 0, 0]]);
        $layer = $mesh->skin->layers[Skin::NORMAL] ?? null;
        self::assertNotNull($layer);
        foreach ($mesh->tags as $t => $_) {
            $given = $layer->at($t);
            for ($k = 0; $k < 3; $k++) {
                $v = 3 * $mesh->corners[3 * $t + $k];
                $true = array_map(static fn (int $axis): float => $mesh->xyz[$v + $axis] / $times[$axis] ** 2, [0, 1, 2]);
                $length = sqrt($true[0] ** 2 + $true[1] ** 2 + $true[2] ** 2);
                self::assertEqualsWithDelta(array_map(static fn (float $part): float => $part / $length, $true), array_slice($given, 3 * $k, 3), 1e-9);
            }
        }
    }

    public function test_a_map_and_its_inverse_make_nothing_of_each_other(): void
    {
        foreach ([[2.0, 0.0, 0.0, 0.0, 0.5, 0.0, 0.0, 0.0, 7.0, 1.0, 2.0, 3.0], [1.0, 2.0, 0.5, -1.0, 3.0, 0.0, 0.2, 0.1, -4.0, 9.0, -8.0, 7.0], [0.0, 1.0, 0.0, -1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 5.0, 6.0, 7.0]] as $map) {
            self::assertEqualsWithDelta(Affine::IDENTITY, Affine::then($map, Affine::back($map)), 1e-12);
        }
    }

    public function test_factors_that_turn_over_or_flatten_are_refused(): void
    {
        foreach ([[0, 1, 1], [1, -2, 1], [1, 1, 2e4]] as $times) {
            try {
                Kinds::read(['do' => 'scale', 'times' => $times], 'step 1');
                self::fail('it was taken');
            } catch (BadRecipe $refusal) {
                self::assertStringContainsString('step 1.times holds a factor that is not from 0.0001 to 10000', $refusal->getMessage());
            }
        }
    }
}
