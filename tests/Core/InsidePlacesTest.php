<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Exception\BadCommand;
use Isotome\Format\Companions;
use Isotome\Format\InsideLook;
use Isotome\Format\MeshFile;
use Isotome\Geometry\Plane;
use Isotome\Mesh\InsidePlaces;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Folder;
use Tests\Support\PaintedGlb;
use Tests\Support\Solids;

/** Texture coordinates of inside faces: millimetres without stretching, the same on both neighbours. */
final class InsidePlacesTest extends TestCase
{
    use Folder;

    /** @return list<list<float>> six of each triangle */
    private static function places(Mesh $mesh, float $turn = 0.0): array
    {
        return array_chunk(array_values((array) unpack('e*', InsidePlaces::of($mesh, $turn))), 6);
    }

    /** @return list<list<float>> of a triangle's corners */
    private static function corners(Mesh $mesh, int $t): array
    {
        return array_map(static fn (int $k): array => array_slice($mesh->xyz, 3 * $mesh->corners[3 * $t + $k], 3), [0, 1, 2]);
    }

    /** @param  list<float>  $p */
    private static function key(array $p): string
    {
        return implode(' ', array_map(static fn (float $c): string => sprintf('%.5f', $c + 1e-9), $p));
    }

    /** @return array<string, array{string}> */
    public static function steps(): array
    {
        return [
            'a tilted cut' => ['{"do":"cut","blade":{"kind":"flat","through":[1,2,3],"facing":[0.3,-0.4,1]}}'],
            'a series' => ['{"do":"cut","blade":{"kind":"series","facing":[0.9,0.1,0.2],"stops":[-9,0,7.5]}}'],
            'shards' => ['{"do":"cut","blade":{"kind":"cells","by":"uniform","count":14,"seed":5}}'],
        ];
    }

    #[DataProvider('steps')]
    public function test_lengths_are_true_and_neighbours_agree(string $step): void
    {
        foreach (['torus, one handle', 'millstone', 'heron'] as $name) {
            $runner = Runner::on('body', Bodies::named($name));
            $runner->run(Recipe::fromJson('{"isotome_recipe":1,"steps":['.$step.']}')->steps[0]);
            $at = [];
            $seen = $shared = 0;
            foreach ($runner->pieces() as $piece) {
                $mesh = $piece->mesh;
                foreach (self::places($mesh) as $t => $uv) {
                    if ($mesh->tags[$t] <= 0) {
                        self::assertSame([0.0, 0.0, 0.0, 0.0, 0.0, 0.0], $uv);

                        continue;
                    }
                    $seen++;
                    $places = self::corners($mesh, $t);
                    foreach ([[0, 1], [1, 2], [2, 0]] as [$a, $b]) {
                        $true = sqrt(array_sum(array_map(static fn (float $p, float $q): float => ($p - $q) ** 2, $places[$a], $places[$b])));
                        $told = hypot($uv[2 * $a] - $uv[2 * $b], $uv[2 * $a + 1] - $uv[2 * $b + 1]);
                        self::assertEqualsWithDelta($true, $told, 1e-4 * (1 + $true), "$name, {$piece->name}");
                    }
                    // The same triangle the other way round is the neighbour's: it has the same coordinates at the same places.
                    $keys = array_map(self::key(...), $places);
                    asort($keys);
                    $triangle = implode(' | ', $keys);
                    $coordinates = [];
                    foreach (array_keys($keys) as $k) {
                        array_push($coordinates, $uv[2 * $k], $uv[2 * $k + 1]);
                    }
                    if (isset($at[$triangle])) {
                        $shared++;
                        self::assertEqualsWithDelta($at[$triangle], $coordinates, 1e-6, "$name, {$piece->name}");
                    }
                    $at[$triangle] = $coordinates;
                }
            }
            self::assertGreaterThan(10, $seen);
            // A few triangles of shards are divided on one side only.
            self::assertGreaterThan(0.45 * $seen, $shared, $name);
        }
    }

    public function test_upright_is_upright_on_standing_faces_and_a_turn_turns(): void
    {
        foreach ([[1.0, 0.0, 0.0], [0.6, -0.8, 0.0], [0.0, -1.0, 0.0]] as $facing) {
            $cut = FlatCut::of(Solids::box(30, 40, 50), new FlatBlade(Plane::through([15.0, 20.0, 25.0], $facing)), 1);
            foreach ($cut->bodies ?? [] as $body) {
                foreach (self::places($body) as $t => $uv) {
                    foreach ($body->tags[$t] > 0 ? self::corners($body, $t) : [] as $k => $p) {
                        self::assertEqualsWithDelta($p[2], $uv[2 * $k + 1], 1e-9);
                        $turned = self::places($body, 90.0)[$t];
                        self::assertEqualsWithDelta([-$uv[2 * $k + 1], $uv[2 * $k]], [$turned[2 * $k], $turned[2 * $k + 1]], 1e-9);
                    }
                }
            }
        }
        // On a level face it is Y.
        $level = FlatCut::of(Solids::box(30, 40, 50), new FlatBlade(Plane::through([0.0, 0.0, 3.0], [0.0, 0.0, 1.0])), 1)->bodies[0] ?? Mesh::of([], []);
        foreach (self::places($level) as $t => $uv) {
            foreach ($level->tags[$t] > 0 ? self::corners($level, $t) : [] as $k => $p) {
                self::assertEqualsWithDelta([$p[0], $p[1]], [$uv[2 * $k], $uv[2 * $k + 1]], 1e-9);
            }
        }
    }

    public function test_a_picture_of_the_inside_is_in_the_file_once_with_coordinates_of_its_width(): void
    {
        $bodies = FlatCut::of(Solids::box(30, 40, 50), new FlatBlade(Plane::through([10.0, 0.0, 3.0], [1.0, 0.0, 0.0])), 1)->bodies ?? [];
        $pieces = [];
        foreach ($bodies as $n => $body) {
            $pieces["half $n"] = ['mesh' => $body, 'colour' => '#336699'];
        }
        MeshFile::writeAll($pieces, $this->path('halves.glb'), InsideLook::picture(PaintedGlb::png(4, 2), 'oak', 25.0));
        $bytes = (string) file_get_contents($this->path('halves.glb'));
        self::assertSame(1, substr_count($bytes, PaintedGlb::png(4, 2)));
        $json = json_decode(substr($bytes, 20, ((array) unpack('V', $bytes, 12))[1]), true);
        self::assertIsArray($json);
        self::assertEqualsCanonicalizing(['skin', 'inside', 'skin'], array_column($json['materials'], 'name'));
        $start = 28 + ((array) unpack('V', $bytes, 12))[1];
        $found = 0;
        foreach ($json['meshes'] as $n => $mesh) {
            $pivot = $json['nodes'][$n]['translation'];
            foreach ($mesh['primitives'] as $primitive) {
                $values = static function (string $name) use ($json, $primitive, $bytes, $start): array {
                    $accessor = $json['accessors'][$primitive['attributes'][$name]];
                    $view = $json['bufferViews'][$accessor['bufferView']];

                    return array_values((array) unpack('g*', substr($bytes, $start + $view['byteOffset'], $view['byteLength'])));
                };
                $isInside = $json['materials'][$primitive['material']]['name'] === 'inside';
                self::assertSame([$isInside ? 1.0 : 0.0], array_values(array_unique($values('_INSIDE'))));
                if (! $isInside) {
                    self::assertArrayNotHasKey('TEXCOORD_0', $primitive['attributes']);

                    continue;
                }
                $places = array_chunk($values('POSITION'), 3);
                foreach (array_chunk($values('TEXCOORD_0'), 2) as $v => [$across, $down]) {
                    // The face stands along Y and up: across is Y, and Z goes up the picture, which is half as high as wide. Metres, Y up.
                    self::assertEqualsWithDelta(-1000 * ($places[$v][2] + $pivot[2]) / 25, $across, 1e-5);
                    self::assertEqualsWithDelta(-1000 * ($places[$v][1] + $pivot[1]) / 12.5, $down, 1e-5);
                    $found++;
                }
            }
        }
        // Four corners and four diagonals on each side of the cut.
        self::assertSame(16, $found);
    }

    public function test_read_again_the_look_of_the_inside_is_nothing_that_the_mesh_carries(): void
    {
        file_put_contents($this->path('painted.glb'), PaintedGlb::box());
        $bare = FlatCut::of(Solids::box(30, 40, 50), new FlatBlade(Plane::through([10.0, 0.0, 3.0], [1.0, 0.0, 0.0])), 1)->bodies ?? [];
        $runner = Runner::on('box', MeshFile::read($this->path('painted.glb'))->mesh);
        $runner->run(Recipe::fromJson('{"isotome_recipe":1,"steps":[{"do":"cut","blade":{"kind":"flat","through":[1,2,3],"facing":[0.3,-0.4,1]}}]}')->steps[0]);
        $oak = PaintedGlb::png(4, 2);
        $mesh = array_values($runner->pieces())[0]->mesh;
        foreach (['glb', 'obj'] as $format) {
            MeshFile::write($mesh, $this->path("piece.$format"), inside: InsideLook::picture($oak, 'oak', 25.0));
            $read = MeshFile::read($this->path("piece.$format"), files: Companions::beside($this->path("piece.$format")))->mesh;
            self::assertSame([PaintedGlb::png()], array_column($read->skin->looks->pictures ?? [], 'bytes'), $format);
            self::assertNotContains('inside', array_column($read->skin->looks->materials ?? [], 'name'), $format);
            MeshFile::write($bare[0], $this->path("bare.$format"), inside: InsideLook::picture($oak, 'oak', 25.0));
            self::assertNull(MeshFile::read($this->path("bare.$format"), files: Companions::beside($this->path("bare.$format")))->mesh->skin, $format);
        }
    }

    public function test_a_picture_that_cannot_be_used_is_refused(): void
    {
        foreach ([['no picture', 'oak', 50.0], [PaintedGlb::png(20000, 4), 'oak', 50.0], [PaintedGlb::png(), 'oak', 0.0], [PaintedGlb::png(), 'oak', NAN]] as [$bytes, $name, $width]) {
            try {
                InsideLook::picture($bytes, $name, $width);
                self::fail('A picture was taken.');
            } catch (BadCommand $refused) {
                self::assertMatchesRegularExpression('/^The (picture oak cannot be used: .+|width of a picture is .+); .+\.$/', $refused->getMessage());
            }
        }
    }
}
