<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\PlainFans;
use Isotome\Check\TrianglePair;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Support\Solids;

/** What is called a plain fan is one, by the exact test on all its pairs; and smooth bodies have hardly anything else. */
final class PlainFansTest extends TestCase
{
    public function test_smooth_bodies_are_plain_everywhere(): void
    {
        foreach ([Solids::sphere(10, 3), Solids::torus(40, 14, 40, 30), Solids::moved(Solids::torus(40, 14, 40, 30), 0.3, 0.2, 0.7, 1.0, [5.0, -7.0, 90.0])] as $body) {
            self::assertSame(str_repeat("\1", $body->vertexCount()), self::plain($body));
        }
    }

    public function test_no_triangles_meet_around_a_vertex_that_is_called_plain(): void
    {
        $random = new Randomizer(new Mt19937(21));
        $between = static fn (float $low, float $high): float => $low + ($high - $low) * $random->getInt(0, 1_000_000) / 1e6;
        $counts = ['plain and apart' => 0, 'meeting' => 0, 'apart only' => 0];
        for ($round = 0; $round < 3000; $round++) {
            // A closed fan: mostly once around, sometimes twice, with heights and places that fold it now and then, on a coarse grid in every second round.
            $sides = $random->getInt(3, 9);
            $turns = $random->getInt(0, 5) === 0 ? 2 : 1;
            $xyz = [0.0, 0.0, 0.0];
            for ($k = 0; $k < $sides; $k++) {
                $angle = 2 * M_PI * $turns * ($k + $between(-0.6, 0.6)) / $sides;
                $far = $between(0.5, 3.0);
                $one = [$far * cos($angle), $far * sin($angle), $between(-1.2, 1.2)];
                array_push($xyz, ...($round % 2 === 0 ? $one : array_map(static fn (float $part): float => round($part * 2), $one)));
            }
            $corners = [];
            for ($k = 0; $k < $sides; $k++) {
                array_push($corners, 0, 1 + $k, 1 + ($k + 1) % $sides);
            }
            $mesh = Solids::moved(Mesh::of($xyz, $corners), $round % 4 < 2 ? 0.0 : 0.4, 0.0, $round % 4 < 2 ? 0.0 : 0.3, 1.0, [0.0, 0.0, 0.0]);
            $meets = false;
            for ($t = 0; $t < $sides; $t++) {
                for ($s = $t + 1; $s < $sides; $s++) {
                    $meets = $meets || TrianglePair::meets($mesh->xyz, self::three($corners, $t), self::three($corners, $s));
                }
            }
            $isPlain = self::plain($mesh)[0] === "\1";
            self::assertFalse($isPlain && $meets, "round $round");
            $counts[$isPlain ? 'plain and apart' : ($meets ? 'meeting' : 'apart only')]++;
        }
        // All three happen often, so this test can fail.
        self::assertGreaterThan(300, min($counts['plain and apart'], $counts['meeting']));
        self::assertGreaterThan(50, $counts['apart only']);
    }

    public function test_two_fans_at_one_vertex_and_open_ones_are_not_plain(): void
    {
        $box = Solids::box(2, 2, 2);
        $two = Solids::together($box, Solids::moved($box, 0.0, 0.0, 0.0, 1.0, [2.0, 2.0, 2.0]));
        $joined = Places::joined($two);
        $plain = self::plain($joined);
        foreach (str_split($plain) as $v => $byte) {
            $isBoth = [$joined->xyz[3 * $v], $joined->xyz[3 * $v + 1], $joined->xyz[3 * $v + 2]] === [2.0, 2.0, 2.0];
            self::assertFalse($isBoth && $byte === "\1");
        }
        $open = Mesh::of($box->xyz, array_slice($box->corners, 3));
        foreach (array_slice($box->corners, 0, 3) as $v) {
            self::assertSame("\0", self::plain($open)[$v]);
        }
    }

    /**
     * @param  list<int>  $corners
     * @return array{int, int, int}
     */
    private static function three(array $corners, int $t): array
    {
        return [3 * $corners[3 * $t], 3 * $corners[3 * $t + 1], 3 * $corners[3 * $t + 2]];
    }

    private static function plain(Mesh $mesh): string
    {
        $planes = [];
        $at = static fn (int $v): array => [$mesh->xyz[3 * $v], $mesh->xyz[3 * $v + 1], $mesh->xyz[3 * $v + 2]];
        for ($t = 0; $t < $mesh->triangleCount(); $t++) {
            [$a, $b, $c] = [$at($mesh->corners[3 * $t]), $at($mesh->corners[3 * $t + 1]), $at($mesh->corners[3 * $t + 2])];
            $u = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]];
            $v = [$c[0] - $a[0], $c[1] - $a[1], $c[2] - $a[2]];
            array_push($planes, $u[1] * $v[2] - $u[2] * $v[1], $u[2] * $v[0] - $u[0] * $v[2], $u[0] * $v[1] - $u[1] * $v[0], 0.0);
        }

        return PlainFans::of($mesh, $planes);
    }
}
