<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cells\Locate;
use Isotome\Drawn\DrawnBlade;
use Isotome\Drawn\Shape;
use Isotome\Drawn\Sight;
use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Support\Solids;

/** Beyond the bounds of what was drawn, every place is in the shard that they say: compared with walking from cell to cell. */
final class PageBoundsTest extends TestCase
{
    public function test_what_is_beyond_is_in_the_shard_that_is_told(): void
    {
        $body = Solids::sphere(40.0, 2);
        $random = new Randomizer(new Mt19937(20261129));
        $beyond = 0;
        $bounded = [];
        foreach (range(0, 59) as $round) {
            $blade = $this->blade($random, $round);
            $complex = $blade->space($body)->complex;
            if ($complex->bounds === null) {
                continue;
            }
            $bounded[$blade->shape->name] = ($bounded[$blade->shape->name] ?? 0) + 1;
            $xyz = $this->places($random, $body);
            [$cells] = Locate::of($xyz, $complex, 1e-9);
            foreach ($complex->bounds->beyond($xyz, 1e-6) as $n => $plane) {
                if ($plane >= 0) {
                    $beyond++;
                    self::assertSame($complex->label[$cells[$n]], $complex->bounds->shards[$plane], "round $round, place $n");
                }
            }
        }
        self::assertGreaterThan(5, min($bounded['Stroke'] ?? 0, $bounded['Outline'] ?? 0, $bounded['Grid'] ?? 0));
        self::assertGreaterThan(2000, $beyond);
    }

    private function blade(Randomizer $random, int $round): DrawnBlade
    {
        $sight = $round % 3 === 0 ? Sight::from([5.0, -150.0, 20.0], [0.0, 0.0, 0.0]) : Sight::along([0.2 * ($round % 5), 1.0, -0.1 * ($round % 4)]);
        $at = fn (float $u, float $v): array => [$u, 0.0, $v];
        $some = fn (float $most): float => $most * ($random->getInt(-1_000_000, 1_000_000) / 1e6);
        $kerf = $round % 4 === 1 ? 0.8 : 0.0;
        if ($round % 5 < 2) {
            $way = $some(0.8);
            $stroke = [];
            for ($k = -8; $k <= 8; $k++) {
                $stroke[] = $at(10.0 * $k, 10.0 * $k * $way + $some(4.0));
            }

            return new DrawnBlade(Shape::Stroke, [$stroke], $sight, kerf: $kerf, depth: $kerf > 0.0 && $round % 2 === 0 ? 25.0 : null);
        }
        if ($round % 5 < 4) {
            [$u, $v] = [$some(15.0), $some(15.0)];
            $outline = [];
            for ($k = 0; $k < 9; $k++) {
                $r = 8.0 + $some(4.0);
                $outline[] = $at($u + $r * cos($k * 2 * M_PI / 9), $v + $r * sin($k * 2 * M_PI / 9));
            }

            return new DrawnBlade(Shape::Outline, [$outline], $sight, kerf: $kerf, depth: $round % 2 === 0 ? 30.0 : null);
        }
        $v = $some(20.0);

        return new DrawnBlade(Shape::Grid, [[$at(-70.0, $v), $at(70.0, $v + 2.0)], [$at(-70.0, $v + 5.0), $at(70.0, $v + 3.0)]], $sight, kerf: $kerf);
    }

    /** @return list<float> */
    private function places(Randomizer $random, Mesh $body): array
    {
        $box = Box::of($body->xyz);
        $xyz = [];
        for ($i = 0; $i < 600; $i++) {
            $xyz[] = $box->min[$i % 3] + $random->getInt(0, 1_000_000) / 1e6 * ($box->max[$i % 3] - $box->min[$i % 3]);
        }

        return $xyz;
    }
}
