<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\Section;
use Isotome\Exception\BadMesh;
use Isotome\Format\MeshFile;
use Isotome\Geometry\Chance;
use Isotome\Geometry\Plane;
use Isotome\Mend\RemoveFaces;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use Isotome\Plate\Islands;
use Isotome\Plate\Layer;
use Isotome\Plate\Layers;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\RunsIsotome;
use Tests\Support\Solids;

/** Layers against closed forms and sections, and islands on bodies made for it. */
final class LayersTest extends TestCase
{
    use Folder;
    use RunsIsotome;

    /** @return list<Layer> */
    private static function layers(Mesh $mesh, float $height): array
    {
        return iterator_to_array(Layers::of($mesh, $height)->each(), false);
    }

    public function test_areas_of_prisms_cones_and_a_ring_in_closed_form(): void
    {
        foreach (self::layers(Solids::box(4.0, 5.0, 3.0), 0.25) as $layer) {
            self::assertEqualsWithDelta(20.0, $layer->area(), 1e-12);
            self::assertCount(1, $layer->outlines);
        }
        // A pyramid over a polygon: its sections shrink with the square of the distance from the tip.
        $cone = Solids::cone(6, 10, 9);
        $ground = 9 / 2 * 36 * sin(2 * M_PI / 9);
        $layers = Layers::of($cone, 0.1);
        foreach ($layers->each() as $n => $layer) {
            self::assertEqualsWithDelta($ground * (1 - ($layers->at($n) - $layers->bottom) / 10) ** 2, $layer->area(), 1e-9);
        }
        // A ring has an outline and a hole in every layer; the area between circles of 40 ± √(14² − z²).
        foreach (self::layers(Solids::torus(40, 14, 400, 200), 0.5) as $layer) {
            self::assertCount(2, $layer->outlines);
            self::assertEqualsWithDelta(1.0, $layer->area() / (4 * M_PI * 40 * sqrt(196 - $layer->height ** 2)), 0.02);
            self::assertLessThan(0.0, min($layer->areas));
        }
    }

    public function test_areas_times_heights_add_up_to_the_volume(): void
    {
        foreach ([Solids::sphere(9, 4), Solids::torus(8, 3, 60, 40), Solids::nest(3), Solids::together(Solids::sphere(9, 3), Solids::insideOut(Solids::sphere(6, 3)))] as $mesh) {
            $turned = Solids::moved($mesh, 0.4, 0.7, 0.2);
            $sum = 0.0;
            foreach (self::layers($turned, 0.01) as $layer) {
                $sum += 0.01 * $layer->area();
            }
            self::assertEqualsWithDelta(1.0, $sum / Volume::of($turned), 1e-4);
        }
    }

    public function test_a_layer_is_the_section_at_its_height(): void
    {
        $chance = new Chance(16);
        for ($n = 0; $n < 12; $n++) {
            $mesh = Solids::moved([Solids::sphere(9, 3), Solids::torus(8, 3, 40, 20), Solids::nest(2), Solids::prism([[0.0, 0.0], [4.0, 0.0], [4.0, 3.0], [2.0, 1.0], [0.0, 3.0]], 3.0)][$n % 4], 6 * $chance->uniform(), 6 * $chance->uniform(), 6 * $chance->uniform());
            foreach (self::layers($mesh, 0.7) as $layer) {
                $section = Section::of($mesh, Plane::through([0.0, 0.0, $layer->height], [0.0, 0.0, 1.0]));
                self::assertEqualsWithDelta($section->area, $layer->area(), 1e-9);
                self::assertCount(count($section->outlines), $layer->outlines);
            }
        }
    }

    public function test_cuts_through_vertices_and_flat_faces_close(): void
    {
        // Steps at every whole height, and cuts right at them: as if just below.
        $stairs = Solids::cells(4, 2, 4, static fn (int $x, int $y, int $z): bool => $z <= $x);
        foreach (self::layers($stairs, 2.0) as $n => $layer) {
            self::assertEqualsWithDelta([8.0, 4.0][$n], $layer->area(), 1e-12);
        }
        // Where four faces meet at an edge.
        $touching = Solids::cells(2, 2, 1, static fn (int $x, int $y, int $z): bool => $x === $y);
        foreach (self::layers($touching, 0.1) as $layer) {
            self::assertEqualsWithDelta(2.0, $layer->area(), 1e-12);
        }
    }

    /** @return list<array{float, float, float, float}> x, y, area, and the height of the layer */
    private static function hanging(Mesh $mesh, float $height): array
    {
        $found = [];
        $below = null;
        foreach (self::layers($mesh, $height) as $layer) {
            foreach ($below === null ? [] : Islands::of($layer, $below) as $island) {
                $found[] = [$island[0], $island[1], $island[2], $layer->height];
            }
            $below = $layer;
        }

        return $found;
    }

    /** @return iterable<string, array{Mesh, float, list<array{float, float}>}> a body, the height of layers, and height and area of each island */
    public static function bodies(): iterable
    {
        yield 'a box' => [Solids::box(4, 4, 4), 0.2, []];
        yield 'a ball, which grows on all sides' => [Solids::sphere(9, 3), 0.05, []];
        yield 'a mushroom, whose brim hangs on its stem' => [Solids::cells(3, 3, 3, static fn (int $x, int $y, int $z): bool => $z === 2 || ($x === 1 && $y === 1)), 0.25, []];
        // An arm that comes down from a beam.
        yield 'a gallows' => [Solids::cells(4, 1, 4, static fn (int $x, int $y, int $z): bool => $x === 0 || $z === 3 || ($x === 3 && $z > 0)), 0.5, [[1.25, 1.0]]];
        yield 'a ball above a box' => [Solids::together(Solids::box(8, 8, 2), Solids::moved(Solids::box(2, 2, 2), 0, 0, 0, 1.0, [0.0, 0.0, 6.0])), 0.5, [[6.25, 4.0]]];
        // A ring around a post touches nothing: the post goes up through its hole.
        yield 'a ring around a post' => [Solids::together(Solids::box(2, 2, 12, [-1.0, -1.0, -6.0]), self::frame(4.0, 8.0, 2.0)), 0.5, [[-0.75, 48.0]]];
        // A leaning bar so flat that each layer lies beside the one below: two wide, three further a millimetre.
        yield 'a bar that leans too far' => [self::leaning(2.0, 3.0, 3.0), 1.0, [[3.0, 2.0], [4.0, 2.0]]];
        yield 'a bar that leans less' => [self::leaning(2.0, 1.5, 3.0), 1.0, []];
    }

    /** @param  list<array{float, float}>  $wanted */
    #[DataProvider('bodies')]
    public function test_islands_are_found_and_nothing_else(Mesh $mesh, float $height, array $wanted): void
    {
        $found = array_map(static fn (array $one): array => [$one[3], $one[2]], self::hanging($mesh, $height));
        self::assertEqualsWithDelta($wanted, $found, 1e-6);
    }

    public function test_the_place_of_an_island_lies_in_it(): void
    {
        [$island] = self::hanging(Solids::cells(4, 1, 4, static fn (int $x, int $y, int $z): bool => $x === 0 || $z === 3 || ($x === 3 && $z > 0)), 0.5);
        self::assertTrue($island[0] > 3 && $island[0] < 4 && $island[1] > 0 && $island[1] < 1);
    }

    /** A square ring, of the given height, its middle at the origin. */
    private static function frame(float $inner, float $outer, float $height): Mesh
    {
        $xyz = $corners = [];
        foreach ([[$outer, 0], [$inner, 0], [$inner, 1], [$outer, 1]] as [$size, $up]) {
            foreach ([[-1, -1], [1, -1], [1, 1], [-1, 1]] as [$x, $y]) {
                array_push($xyz, $x * $size / 2, $y * $size / 2, ($up - 0.5) * $height);
            }
        }
        // Round and round: bottom, inside, top, outside.
        for ($ring = 0; $ring < 4; $ring++) {
            for ($k = 0; $k < 4; $k++) {
                [$a, $b] = [4 * $ring + $k, 4 * $ring + ($k + 1) % 4];
                [$c, $d] = [4 * (($ring + 1) % 4) + ($k + 1) % 4, 4 * (($ring + 1) % 4) + $k];
                array_push($corners, $a, $c, $b, $a, $d, $c);
            }
        }

        return Mesh::of($xyz, $corners);
    }

    /** A box of so much width, one deep, that moves so far to the side with every millimetre of height. */
    private static function leaning(float $wide, float $lean, float $tall): Mesh
    {
        $box = Solids::box($wide, 1.0, $tall);
        $xyz = $box->xyz;
        for ($i = 0; $i < count($xyz); $i += 3) {
            $xyz[$i] += $lean * $xyz[$i + 2];
            $xyz[$i + 2] += $tall / 2;
        }

        return Mesh::of(array_values($xyz), $box->corners);
    }

    /** @return iterable<string, array{Mesh, float, string}> */
    public static function refused(): iterable
    {
        yield 'open' => [RemoveFaces::of(Solids::box(2, 2, 2), [0 => true]), 0.1, 'The body has 3 open edges'];
        yield 'no height' => [Solids::box(2, 2, 2), 0.0, 'give a height of more than 0'];
        yield 'no number' => [Solids::box(2, 2, 2), NAN, 'give a height of more than 0'];
        yield 'too many' => [Solids::box(2, 2, 2), 1e-5, 'give layers of at least 0.0001 mm'];
    }

    #[DataProvider('refused')]
    public function test_what_has_no_layers_is_refused(Mesh $mesh, float $height, string $why): void
    {
        $this->expectException(BadMesh::class);
        $this->expectExceptionMessage($why);
        Layers::of($mesh, $height);
    }

    public function test_the_command_tells_of_every_layer(): void
    {
        MeshFile::write(Solids::cells(4, 1, 4, static fn (int $x, int $y, int $z): bool => $x === 0 || $z === 3 || ($x === 3 && $z > 0)), $this->path('gallows.stl'), 'gallows');
        [$code, $out] = $this->isotome('layers', $this->path('gallows.stl'), '--layer', '0.5', '--json');
        $document = json_decode($out, true);
        self::assertSame([0, ['layer_mm', 'bottom_mm', 'volume_mm3', 'islands', 'layers']], [$code, array_keys($document)]);
        self::assertSame([8, 1, 9.0], [count($document['layers']), $document['islands'], $document['volume_mm3']]);
        self::assertSame(['at_mm' => 1.25, 'area_mm2' => 2.0, 'outlines' => 2], array_slice($document['layers'][2], 0, 3));
        self::assertSame(1.0, $document['layers'][2]['islands'][0]['area_mm2']);
        [$code, $out] = $this->isotome('layers', $this->path('gallows.stl'), '--layer', '0.5');
        self::assertSame([0, 8, 1], [$code, substr_count($out, 'mm²'), substr_count($out, '1 in the air')]);
        foreach ([['--layer', '0'], ['--layer', 'thin'], []] as $wrong) {
            [$code, $out, $error] = $this->isotome('layers', $this->path('gallows.stl'), ...$wrong);
            self::assertSame([2, ''], [$code, $out]);
            self::assertStringContainsString('--layer', $error);
        }
    }
}
