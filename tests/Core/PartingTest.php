<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\Closing;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\Parting;
use Isotome\Cut\Seal;
use Isotome\Cut\Split;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Bodies as Separated;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Blades;
use Tests\Support\Bodies;
use Tests\Support\Solids;

/** What is found to hang together before triangles are moved is what comes apart after they were. */
final class PartingTest extends TestCase
{
    /** @return iterable<string, array{string}> */
    public static function bodies(): iterable
    {
        foreach (Bodies::names() as $name) {
            if (! str_contains($name, '3,000')) {
                yield $name => [$name];
            }
        }
    }

    #[DataProvider('bodies')]
    public function test_bodies_are_those_of_dividing_first_and_separating_then(string $name): void
    {
        $this->compare(Bodies::named($name), 20, $name);
    }

    public function test_cavities_open_meshes_and_vertices_without_triangles(): void
    {
        $nest = Solids::nest(4);
        $this->compare($nest, 40, 'shells in shells');
        $far = Solids::together($nest, Solids::moved($nest, 0.3, 0.2, 0.1, 1.0, [60.0, 0.0, 0.0]), Solids::box(200, 1, 1, [-60.0, 30.0, 0.0]));
        $this->compare($far, 40, 'several nests');
        $ball = Solids::sphere(10, 3);
        $open = Mesh::of([0.0, 0.0, 99.0, ...$ball->xyz, 5.0, 5.0, 5.0], array_map(static fn (int $v): int => $v + 1, array_slice($ball->corners, 0, 2700)), array_slice($ball->tags, 0, 900));
        $this->compare($open, 30, 'a ball with a hole and two vertices too many');
    }

    public function test_only_what_is_wanted_is_given(): void
    {
        $parting = Parting::of(Solids::sphere(10, 3), Plane::through([0.0, 0.0, 1.0], [0.0, 0.1, 1.0]));
        $cap = Closing::cap($parting->rim, new FlatBlade(Plane::at(0.0, [0.0, 0.0, 1.0])));
        self::assertSame([0, 1], array_map(count(...), $parting->bodies($cap, 1, false, true)));
        $again = Parting::of(Solids::sphere(10, 3), Plane::through([0.0, 0.0, 1.0], [0.0, 0.1, 1.0]));
        self::assertSame([1, 0], array_map(count(...), $again->bodies($cap, 1, true, false)));
    }

    private function compare(Mesh $mesh, int $times, string $what): void
    {
        $blades = new Blades($mesh, 31);
        for ($n = 0; $n < $times; $n++) {
            $plane = $n % 2 ? $blades->anywhere() : $blades->unlucky();
            $blade = new FlatBlade($plane, seal: $n % 5 === 4 ? Seal::Open : ($n % 5 === 3 ? Seal::Even : Seal::Lean));
            $parting = Parting::of($mesh, $plane);
            $halves = Split::of($mesh, $plane);
            self::assertSame($halves->isOneSided(), $parting->isOneSided(), "$what, blade $n");
            $cap = Closing::cap($halves->rim, $blade);
            [$behind, $ahead] = $parting->bodies($cap, 7, true, true);
            foreach ([[$behind, true, $halves->behindBase], [$ahead, false, $halves->aheadBase]] as [$bodies, $isBehind, $base]) {
                $expected = Separated::of(Closing::shut($halves->take($isBehind), [[$halves->rim, $cap, $isBehind, $base]], 7));
                self::assertSame(array_map(Packing::hash(...), $expected), array_map(Packing::hash(...), $bodies), "$what, blade $n");
                foreach ([...$bodies, ...$expected] as $body) {
                    // The number of shells that is remembered of a body is the one that would be counted.
                    self::assertSame(Separated::shellCount(Mesh::of($body->xyz, $body->corners, $body->tags)), Separated::shellCount($body), "$what, blade $n");
                }
            }
        }
    }
}
