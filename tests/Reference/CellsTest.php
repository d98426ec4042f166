<?php

declare(strict_types=1);

namespace Tests\Reference;

use Demo\Heron;
use Isotome\Cells\CellsBlade;
use Isotome\Cells\Contacts;
use Isotome\Cells\Shatter;
use Isotome\Cells\ShatterSettings;
use Isotome\Cells\Sites;
use Isotome\Cells\StandIn;
use Isotome\Format\StlWriter;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Volume;
use Isotome\Mirror\Mirror;
use Isotome\Mirror\MirrorSettings;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\Solids;

final class CellsTest extends TestCase
{
    use Folder;

    /**
     * Volumes and neighbours of the cells in a box. Source: Debian package voro++ 0.4.6 (C. H. Rycroft, "Voro++: a three-dimensional Voronoi cell
     * library in C++", Chaos 19, 2009), its command line with ordered output.
     */
    public function test_cells_in_a_box_agree_with_voro(): void
    {
        foreach ([[20, 1], [300, 2], [1000, 3]] as [$count, $seed]) {
            $box = Solids::box(60, 40, 30);
            $sites = Sites::random(StandIn::of($box), 'uniform', $count, $seed);
            $lines = '';
            for ($n = 0; $n < $count; $n++) {
                $lines .= sprintf("%d %.17g %.17g %.17g\n", $n, $sites[3 * $n], $sites[3 * $n + 1], $sites[3 * $n + 2]);
            }
            $file = $this->file("sites-$count", $lines);
            exec('voro++ -o -c '.escapeshellarg('%i %v;%n;%f').' 0 60 0 40 0 30 '.escapeshellarg($file).' 2>&1', $said, $code);
            self::assertSame(0, $code, implode("\n", $said));
            $theirs = [];
            foreach (file("$file.vol", FILE_IGNORE_NEW_LINES) ?: [] as $line) {
                [$first, $neighbours, $areas] = explode(';', $line);
                [$id, $volume] = sscanf($first, '%d %f') ?? [0, 0.0];
                foreach (array_combine(array_map(intval(...), explode(' ', trim($neighbours))), array_map(floatval(...), explode(' ', trim($areas)))) as $other => $area) {
                    // Walls of the box are below 0 there; what touches in little more than an edge is left aside.
                    if ($other >= 0 && $area > 1e-3) {
                        $theirs[(int) $id]['areas'][$other] = $area;
                    }
                }
                $theirs[(int) $id]['volume'] = (float) $volume;
            }
            self::assertCount($count, $theirs);
            $bodies = Shatter::of($box, new CellsBlade('points', points: $sites), new ShatterSettings, 1)->bodies ?? [];
            self::assertCount($count, $bodies);
            $ours = [];
            foreach (Contacts::areas($bodies) as $one => $others) {
                foreach ($others as $other => $area) {
                    if ($area > 1e-3) {
                        $ours[$one][$other] = $ours[$other][$one] = $area;
                    }
                }
            }
            foreach ($bodies as $n => $body) {
                self::assertEqualsWithDelta($theirs[$n]['volume'], Volume::of($body), 1e-5 * max(1.0, $theirs[$n]['volume']), "cell $n");
                $expected = $theirs[$n]['areas'] ?? [];
                $found = $ours[$n] ?? [];
                // Six digits there: an area near the limit may be on either side of it.
                foreach ($expected as $other => $area) {
                    if ($area > 2e-3) {
                        self::assertEqualsWithDelta($area, $found[$other] ?? 0.0, 1e-4 * max(1.0, $area), "cell $n, neighbour $other");
                    }
                }
                foreach ($found as $other => $area) {
                    if ($area > 2e-3) {
                        self::assertArrayHasKey($other, $expected, "cell $n");
                    }
                }
            }
        }
    }

    /** Shards by a general-purpose library: the body's intersection with each cell. Source: npm package manifold-3d (E. Lalish and others). */
    public function test_shards_agree_with_the_librarys_intersections(): void
    {
        foreach (['torus' => Solids::torus(20, 7, 60, 40), 'heron' => Heron::mesh(6.0), 'frame' => Solids::cells(5, 5, 2, static fn (int $x, int $y, int $z): bool => $x % 2 === 0 || $y % 2 === 0)] as $name => $body) {
            $mesh = StlWriter::write($body, $this->path("$name.stl"));
            $blade = new CellsBlade('uniform', 40, 12);
            $cells = $blade->complex($mesh)->corners();
            $question = $this->file("$name.json", (string) json_encode(['file' => $this->path("$name.stl"), 'cells' => $cells]));
            $answer = json_decode((string) shell_exec('cd '.escapeshellarg(dirname(__DIR__, 2)).' && node tests/Support/intersect-cells.mjs '.escapeshellarg($question)), true);
            self::assertIsArray($answer);
            self::assertCount(40, $answer);
            $shards = Shatter::of($mesh, $blade, new ShatterSettings(apart: false), 1)->bodies ?? [];
            $next = 0;
            foreach ($answer as $n => $theirs) {
                if ($theirs['volume'] < 1e-6) {
                    continue;
                }
                $measures = Volume::measure($shards[$next++]);
                self::assertEqualsWithDelta($theirs['volume'], $measures->volume, 1e-4 * $theirs['volume'] + 1e-5, "$name, cell $n");
                self::assertEqualsWithDelta($theirs['area'], $measures->area, 1e-4 * $theirs['area'] + 1e-5, "$name, cell $n");
            }
            self::assertSame(count($shards), $next);
        }
    }

    /** Twice the half that the same library cuts off, without the section. */
    public function test_a_mirrored_body_agrees_with_the_librarys_half(): void
    {
        $mesh = StlWriter::write(Heron::mesh(6.0), $this->path('heron.stl'));
        $normal = [0.8, 0.36, 0.48];
        $question = $this->file('mirror.json', (string) json_encode(['file' => $this->path('heron.stl'), 'normal' => $normal, 'offset' => 4.0]));
        $answer = json_decode((string) shell_exec('cd '.escapeshellarg(dirname(__DIR__, 2)).' && node tests/Support/intersect-cells.mjs '.escapeshellarg($question)), true);
        self::assertIsArray($answer);
        $bodies = Mirror::of($mesh, new MirrorSettings([Plane::at(4.0, $normal)], true), 1)->bodies;
        $volume = $area = 0.0;
        foreach ($bodies as $body) {
            $measures = Volume::measure($body);
            $volume += $measures->volume;
            $area += $measures->area;
        }
        self::assertEqualsWithDelta($answer['volume'], $volume, 1e-5 * $volume);
        self::assertEqualsWithDelta($answer['area'], $area, 1e-4 * $area);
    }
}
