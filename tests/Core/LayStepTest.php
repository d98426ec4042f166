<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\BadBlade;
use Isotome\Exception\BadRecipe;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\TestCase;
use Tests\Support\Solids;

/** Pieces laid down, each by itself. */
final class LayStepTest extends TestCase
{
    /**
     * @param  list<Piece>  $pieces
     * @param  array<string, mixed>  $step
     * @return list<Piece>
     */
    private static function run_step(array $pieces, array $step): array
    {
        $meshes = [];
        foreach ($pieces as $piece) {
            $meshes[$piece->name] = $piece->mesh;
        }
        $runner = Runner::on('parts', array_values($meshes)[0], $meshes);
        $runner->run(Recipe::fromJson(json_encode(['isotome_recipe' => 1, 'steps' => [$step]], JSON_THROW_ON_ERROR))->steps[0]);

        return array_values($runner->pieces());
    }

    public function test_each_piece_lies_on_its_largest_face_at_the_height_0(): void
    {
        $box = Solids::box(20, 30, 4);
        $pieces = [];
        foreach ([[0.3, 1.1, 0.7], [2.0, 0.1, 5.0], [0.0, M_PI / 2, 0.0]] as $n => [$a, $b, $c]) {
            $pieces[] = new Piece("plank-$n", Solids::moved($box, $a, $b, $c, 1.0, [50.0 * $n, 7.0, 300.0]));
        }
        foreach (self::run_step($pieces, ['do' => 'lay']) as $n => $piece) {
            $made = Box::of($piece->mesh->xyz);
            self::assertSame(0.0, $made->min[2]);
            self::assertEqualsWithDelta(4.0, $made->max[2], 1e-9);
            // All corners of the face below are at the height 0, exactly.
            self::assertCount(4, array_filter(array_chunk($piece->mesh->xyz, 3), static fn (array $at): bool => $at[2] === 0.0));
            $before = Box::of($pieces[$n]->mesh->xyz);
            foreach ([0, 1] as $k) {
                self::assertEqualsWithDelta($before->min[$k] + $before->max[$k], $made->min[$k] + $made->max[$k], 1e-9);
            }
            self::assertEqualsWithDelta(2400.0, Volume::of($piece->mesh), 1e-8);
            self::assertTrue(EdgeCheck::of($piece->mesh)->isWatertight());
        }
    }

    public function test_a_given_direction_comes_to_lie_below(): void
    {
        $ring = Solids::torus(40, 14, 40, 20);
        [$piece] = self::run_step([new Piece('ring', $ring)], ['do' => 'lay', 'on' => [1, 0, 0]]);
        $box = Box::of($piece->mesh->xyz);
        self::assertEqualsWithDelta([0.0, 108.0], [$box->min[2], $box->max[2]], 1e-9);
        // A quarter turn: what was along X is exactly along Z.
        $was = Box::of($ring->xyz);
        self::assertEqualsWithDelta($was->size()[2], $box->size()[0], 1e-12);
    }

    public function test_laying_down_twice_changes_nothing_more(): void
    {
        $angle = Solids::moved(Solids::cells(4, 2, 3, static fn (int $x, int $y, int $z): bool => $x === 0 || $z === 0), 0.4, 0.9, 0.1, 1.0, [3.0, 2.0, 9.0]);
        $once = self::run_step([new Piece('angle', $angle)], ['do' => 'lay']);
        $twice = self::run_step($once, ['do' => 'lay']);
        foreach ($once[0]->mesh->xyz as $i => $c) {
            self::assertEqualsWithDelta($c, $twice[0]->mesh->xyz[$i], 1e-9);
        }
    }

    public function test_what_cannot_be_laid_down_is_refused(): void
    {
        $sheet = Mesh::of([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0], [0, 1, 2]);
        foreach ([[['do' => 'lay', 'on' => [0, 0, 0]], 'no direction'], [['do' => 'lay', 'on' => 'worst'], '"best"'], [['do' => 'lay'], 'not watertight']] as [$step, $why]) {
            try {
                self::run_step([new Piece('sheet', $sheet)], $step);
                self::fail($why);
            } catch (BadBlade|BadRecipe $refusal) {
                self::assertStringContainsString($why, $refusal->getMessage());
            }
        }
    }
}
