<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\Refusal;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\TestCase;
use Tests\Support\Skins;
use Tests\Support\SolidPairs;
use Tests\Support\Solids;

/** Cuts along the skin of other pieces. */
final class BodyStepTest extends TestCase
{
    /**
     * @param  array<string, Mesh>  $parts
     * @param  array<string, mixed>  $step
     */
    private static function ran(array $parts, array $step): Runner
    {
        $runner = Runner::on('body', array_values($parts)[0], $parts);
        foreach (Recipe::fromJson(json_encode(['isotome_recipe' => 1, 'steps' => [$step]], JSON_THROW_ON_ERROR))->steps as $one) {
            $runner->run($one);
        }

        return $runner;
    }

    /** @return array<string, float> */
    private static function volumes(Runner $runner): array
    {
        return array_map(static fn (Piece $piece): float => round(Volume::of($piece->mesh), 9), $runner->pieces());
    }

    public function test_what_is_within_and_what_is_around_are_pieces_and_the_tool_stays(): void
    {
        $parts = ['plate' => Solids::box(10, 10, 2), 'rod' => Solids::box(2, 2, 6, [4.0, 4.0, -2.0]), 'far' => Solids::box(1, 1, 1, [50.0, 0.0, 0.0])];
        $cut = ['do' => 'cut', 'blade' => ['kind' => 'body', 'with' => ['rod']]];
        $runner = self::ran($parts, $cut);
        self::assertSame(['plate-A' => 8.0, 'plate-B' => 192.0, 'rod' => 24.0, 'far' => 1.0], self::volumes($runner));
        self::assertSame([['plate'], ['plate-A', 'plate-B']], [$runner->records()[0]->took, $runner->records()[0]->gave]);
        self::assertSame(['plate-A' => 8.0, 'rod' => 24.0, 'far' => 1.0], self::volumes(self::ran($parts, [...$cut, 'keep' => 'behind'])));
        self::assertSame(['plate-A' => 192.0, 'rod' => 24.0, 'far' => 1.0], self::volumes(self::ran($parts, [...$cut, 'keep' => 'ahead'])));
        $runner = self::ran($parts, [...$cut, 'spend' => true]);
        self::assertSame(['plate-A' => 8.0, 'plate-B' => 192.0, 'far' => 1.0], self::volumes($runner));
        self::assertSame(['plate', 'rod'], $runner->records()[0]->parents['plate-A']);
        // Two targets at once, each divided by two tools: the second tool takes a corner of both.
        $parts['corner'] = Solids::box(5, 5, 5, [8.0, 8.0, 1.0]);
        $parts['lid'] = Solids::box(10, 10, 1, [0.0, 0.0, 2.0]);
        $runner = self::ran($parts, ['do' => 'cut', 'of' => ['plate', 'lid'], 'blade' => ['kind' => 'body', 'with' => ['rod', 'corner']]]);
        self::assertSame(
            ['plate-A' => 8.0, 'plate-B' => 4.0, 'plate-C' => 188.0, 'rod' => 24.0, 'far' => 1.0, 'corner' => 125.0, 'lid-A' => 4.0, 'lid-B' => 4.0, 'lid-C' => 92.0], self::volumes($runner),
        );
    }

    /** A large box is a flat blade: the same volumes, over the bodies of the tests. */
    public function test_a_large_box_cuts_as_a_flat_blade_does(): void
    {
        $pairs = new SolidPairs(404);
        $cut = 0;
        for ($n = 0; $n < 60; $n++) {
            [$body] = $pairs->next();
            if (! EdgeCheck::of($body)->isWatertight()) {
                // It touches itself along edges: refused, as by every such step.
                continue;
            }
            $box = Box::of($body->xyz);
            $at = 0.37 * $box->min[0] + 0.63 * $box->max[0];
            $half = Solids::box(200, 400, 400, [$at - 200.0, -200.0, -200.0]);
            $flat = self::ran(['body' => $body, 'tool' => $half], ['do' => 'cut', 'of' => ['body'], 'blade' => ['kind' => 'flat', 'through' => [$at, 0, 0], 'facing' => [1, 0, 0]]]);
            $made = self::ran(['body' => $body, 'tool' => $half], ['do' => 'cut', 'of' => ['body'], 'blade' => ['kind' => 'body', 'with' => ['tool']]]);
            $sides = [];
            foreach (['flat' => $flat, 'body' => $made] as $kind => $runner) {
                $sides[$kind] = [0.0, 0.0];
                foreach ($runner->pieces() as $name => $piece) {
                    if ($name !== 'tool') {
                        self::assertTrue(EdgeCheck::of($piece->mesh)->isWatertight(), "$kind $n");
                        $sides[$kind][(int) (Box::of($piece->mesh->xyz)->max[0] > $at + 1e-7)] += Volume::of($piece->mesh);
                    }
                }
            }
            self::assertEqualsWithDelta($sides['flat'], $sides['body'], 1e-8 * max(1.0, array_sum($sides['flat'])), "body $n");
            $cut += count($made->pieces()) > 2 ? 1 : 0;
        }
        self::assertGreaterThan(30, $cut);
    }

    public function test_what_pieces_carry_stays_and_cut_faces_are_inside(): void
    {
        $ball = Skins::linear(Solids::sphere(6, 4));
        $runner = self::ran(['ball' => $ball, 'tool' => Solids::torus(6, 2, 24, 12)], ['do' => 'cut', 'of' => ['ball'], 'blade' => ['kind' => 'body', 'with' => ['tool']]]);
        $corners = $inside = 0;
        foreach (array_diff_key($runner->pieces(), ['tool' => true]) as $piece) {
            $skin = $piece->mesh->skin;
            self::assertNotNull($skin);
            foreach ($piece->mesh->tags as $t => $tag) {
                if ($tag > 0) {
                    $inside++;

                    continue;
                }
                $uv = $skin->layers['uv0']->at($t);
                for ($k = 0; $k < 3; $k++) {
                    $v = 3 * $piece->mesh->corners[3 * $t + $k];
                    self::assertEqualsWithDelta(Skins::uv([$piece->mesh->xyz[$v], $piece->mesh->xyz[$v + 1], $piece->mesh->xyz[$v + 2]], $skin->materialOf($t) === 1), [$uv[2 * $k], $uv[2 * $k + 1]], 1e-9);
                    $corners++;
                }
            }
        }
        self::assertGreaterThan(3000, $corners);
        self::assertGreaterThan(200, $inside);
    }

    public function test_what_cannot_be_cut_is_refused(): void
    {
        $parts = ['plate' => Solids::box(10, 10, 2), 'far' => Solids::box(1, 1, 1, [50.0, 0.0, 0.0]), 'torn' => Mesh::of([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0], [0, 1, 2])];
        $says = [];
        foreach ([['plate', 'far'], ['plate', 'torn'], ['plate', 'gone'], ['plate', 'plate']] as [$of, $with]) {
            try {
                self::ran($parts, ['do' => 'cut', 'of' => [$of], 'blade' => ['kind' => 'body', 'with' => [$with]]]);
            } catch (Refusal $refusal) {
                $says[] = $refusal->getMessage();
            }
        }
        self::assertSame([
            'steps[0]: what is to cut meets none of the others; move it until it does.',
            'steps[0]: torn is not watertight (3 edges open), so nobody can say what is inside of it; mend it first.',
            'steps[0] names no piece that is there in with; name pieces to cut.',
            'steps[0] has nothing but its tools; name others in of.',
        ], $says);
    }
}
