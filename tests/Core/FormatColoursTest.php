<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Format\Colours;
use Isotome\Format\MeshFile;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\Solids;

/** Colours of OFF, STL and of the faces of PLY: a box of 10 × 20 × 30 mm whose colours follow from where a corner or a face is. */
final class FormatColoursTest extends TestCase
{
    use Folder;

    private function file(string $name, string $bytes): Mesh
    {
        file_put_contents($this->path($name), $bytes);
        $mesh = MeshFile::read($this->path($name))->mesh;
        self::assertSame([12, true], [$mesh->triangleCount(), EdgeCheck::of($mesh)->isWatertight()]);

        return $mesh;
    }

    /**
     * @param  callable(list<float>, int): list<float>  $expected  of a place on a face (0 to 5 in the order of Solids::box), as it is written
     */
    private static function assertColours(Mesh $mesh, callable $expected, float $within = 1e-6): void
    {
        self::assertNotNull($mesh->skin);
        foreach ($mesh->tags as $t => $tag) {
            foreach ($tag > 0 ? [] : array_chunk($mesh->skin->layers[Skin::COLOUR]->at($t), 4) as $k => $colour) {
                $place = array_slice($mesh->xyz, 3 * $mesh->corners[3 * $t + $k], 3);
                self::assertEqualsWithDelta($expected($place, self::face($mesh, $t)), [...array_map(Colours::written(...), array_slice($colour, 0, 3)), $colour[3]], $within);
            }
        }
    }

    private static function face(Mesh $mesh, int $t): int
    {
        $places = array_map(static fn (int $k): array => array_slice($mesh->xyz, 3 * $mesh->corners[3 * $t + $k], 3), [0, 1, 2]);
        foreach ([[2, 0.0], [2, 30.0], [1, 0.0], [1, 20.0], [0, 0.0], [0, 10.0]] as $face => [$axis, $at]) {
            if (array_filter($places, static fn (array $p): bool => abs($p[$axis] - $at) > 1e-6) === []) {
                return $face;
            }
        }
        self::fail('A triangle lies on no face.');
    }

    /** @return iterable<string, array{string, bool}> first word, and whether colours are from 0 to 255 */
    public static function offs(): iterable
    {
        yield 'COFF' => ['COFF', false];
        yield 'COFF, bytes' => ['COFF', true];
        yield 'CNOFF' => ['CNOFF', false];
        yield 'STCNOFF' => ['STCNOFF', true];
        yield 'STOFF' => ['STOFF', false];
        yield 'NOFF' => ['NOFF', false];
    }

    #[DataProvider('offs')]
    public function test_off_with_normals_colours_and_texture_coordinates(string $head, bool $isBytes): void
    {
        $box = Solids::box(10, 20, 30);
        $text = "$head\n8 12 0\n";
        foreach (array_chunk($box->xyz, 3) as [$x, $y, $z]) {
            $text .= "$x $y $z".(str_contains($head, 'N') ? ' 0 3 4' : '');
            $parts = [$x / 10, $y / 40, 0.25 + $z / 60];
            $text .= str_contains($head, 'C') ? ' '.implode(' ', array_map(static fn (float $part): float => $isBytes ? round(255 * $part) : $part, [...$parts, 0.5])) : '';
            $text .= (str_starts_with($head, 'ST') ? ' '.($x / 10).' '.($z / 30) : '')."\n";
        }
        foreach (array_chunk($box->corners, 3) as [$a, $b, $c]) {
            $text .= "3 $a $b $c\n";
        }
        $mesh = $this->file('box.off', $text);
        self::assertSame([...(str_contains($head, 'N') ? ['normals'] : []), ...(str_contains($head, 'C') ? ['colours'] : []), ...(str_starts_with($head, 'ST') ? ['texture coordinates'] : [])], $mesh->skin?->words());
        if (str_contains($head, 'C')) {
            self::assertColours($mesh, static fn (array $p): array => [$p[0] / 10, $p[1] / 40, 0.25 + $p[2] / 60, 0.5], $isBytes ? 0.003 : 1e-6);
        }
        foreach ($mesh->tags as $t => $_) {
            $normal = ($mesh->skin->layers[Skin::NORMAL] ?? null)?->at($t);
            $normal === null || self::assertEqualsWithDelta([0.0, 0.6, 0.8], array_slice($normal, 3, 3), 1e-12);
            foreach (array_chunk(($mesh->skin->layers['uv0'] ?? null)?->at($t) ?? [], 2) as $k => $uv) {
                $v = 3 * $mesh->corners[3 * $t + $k];
                self::assertEqualsWithDelta([$mesh->xyz[$v] / 10, 1 - $mesh->xyz[$v + 2] / 30], $uv, 1e-12);
            }
        }
    }

    public function test_colours_of_off_faces_and_colours_written(): void
    {
        $box = Solids::box(10, 20, 30);
        $text = "OFF\n8 12 0\n";
        foreach (array_chunk($box->xyz, 3) as $place) {
            $text .= implode(' ', $place)."\n";
        }
        foreach (array_chunk($box->corners, 3) as $t => $face) {
            // The last face has none, the one before an index of a map.
            $text .= '3 '.implode(' ', $face).match (intdiv($t, 2)) {
                5 => '',
                4 => ' 7',
                default => ' '.(40 * intdiv($t, 2)).' 100 200'
            }."\n";
        }
        $expected = static fn (array $p, int $face): array => $face >= 4 ? [1.0, 1.0, 1.0, 1.0] : [40 * $face / 255, 100 / 255, 200 / 255, 1.0];
        self::assertColours($this->file('box.off', $text), $expected);

        $coloured = $this->file('coloured.off', preg_replace('/^OFF/', 'COFF', (string) preg_replace_callback('/^(0|10) (0|20) (0|30)$/m', static fn (array $m): string => "$m[0] ".($m[1] / 10).' '.($m[2] / 20).' 0.5 1', $text)) ?? '');
        $runner = Runner::on('box', $coloured);
        $runner->run(Recipe::fromJson('{"isotome_recipe":1,"steps":[{"do":"cut","blade":{"kind":"flat","through":[4,11,13],"facing":[0.3,-0.4,1]}}]}')->steps[0]);
        foreach ($runner->pieces() as $piece) {
            $written = MeshFile::write($piece->mesh, $this->path('piece.off'));
            self::assertSame([], MeshFile::losesOf($piece->mesh, 'off'));
            $read = MeshFile::read($this->path('piece.off'))->mesh;
            self::assertSame($written->triangleCount(), $read->triangleCount());
            $known = 0;
            foreach ($read->corners as $i => $v) {
                $colour = array_slice($read->skin?->layers[Skin::COLOUR]->at(intdiv($i, 3)) ?? [], 4 * ($i % 3), 4);
                $p = array_slice($read->xyz, 3 * $v, 3);
                // Light adds up along an edge, so only corners of the box itself are told here.
                if (in_array($p[0], [0.0, 10.0], true) && in_array($p[1], [0.0, 20.0], true) && in_array($p[2], [0.0, 30.0], true)) {
                    self::assertEqualsWithDelta([$p[0] / 10, $p[1] / 20, 0.5, 1.0], [...array_map(Colours::written(...), array_slice($colour, 0, 3)), $colour[3]], 1e-5);
                    $known++;
                }
            }
            self::assertGreaterThan(6, $known);
        }
    }

    public function test_colours_of_stl_only_where_the_header_says_so(): void
    {
        $box = Solids::box(10, 20, 30);
        $triangles = '';
        foreach (array_chunk($box->corners, 3) as $t => $face) {
            $triangles .= pack('g3', 0, 0, 0);
            foreach ($face as $v) {
                $triangles .= pack('g3', ...array_slice($box->xyz, 3 * $v, 3));
            }
            // Red, green and blue from the lowest bit on; the last two triangles have the header's.
            $triangles .= pack('v', intdiv($t, 2) === 5 ? 0x8000 : (5 * intdiv($t, 2)) | 31 << 5 | 3 << 10);
        }
        $stl = static fn (string $header): string => str_pad($header, 80, "\0").pack('V', 12).$triangles;
        self::assertNull($this->file('plain.stl', $stl('made somewhere'))->skin);
        $mesh = $this->file('coloured.stl', $stl('made somewhere COLOR='."\xff\x80\x00\x40".',MATERIAL=x'));
        self::assertSame(['colours'], $mesh->skin?->words());
        self::assertColours($mesh, static fn (array $p, int $face): array => $face === 5 ? [1.0, 128 / 255, 0.0, 64 / 255] : [5 * $face / 31, 1.0, 3 / 31, 1.0]);
        // At the very end of the header there would be no room for a colour.
        self::assertNull($this->file('end.stl', $stl(str_repeat(' ', 74).'COLOR='))->skin);
    }

    public function test_colours_and_places_of_ply_faces(): void
    {
        $box = Solids::box(10, 20, 30);
        foreach (['ascii', 'binary_little_endian'] as $format) {
            $bytes = "ply\nformat $format 1.0\nelement vertex 8\nproperty double x\nproperty double y\nproperty double z\nelement face 12\nproperty list uchar int vertex_indices\n"
                ."property list uchar float texcoord\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nend_header\n";
            foreach (array_chunk($box->xyz, 3) as $place) {
                $bytes .= $format === 'ascii' ? implode(' ', $place)."\n" : pack('e3', ...$place);
            }
            foreach (array_chunk($box->corners, 3) as $t => $face) {
                $uv = array_merge(...array_map(static fn (int $v): array => [$box->xyz[3 * $v] / 10, $box->xyz[3 * $v + 2] / 30], $face));
                $colour = [40 * intdiv($t, 2), 100, 200];
                $bytes .= $format === 'ascii' ? '3 '.implode(' ', $face).' 6 '.implode(' ', $uv).' '.implode(' ', $colour)."\n" : pack('CV3Cg6C3', 3, ...[...$face, 6, ...$uv, ...$colour]);
            }
            $mesh = $this->file('box.ply', $bytes);
            self::assertSame(['colours', 'texture coordinates'], $mesh->skin?->words());
            self::assertColours($mesh, static fn (array $p, int $face): array => [40 * $face / 255, 100 / 255, 200 / 255, 1.0]);
            foreach ($mesh->tags as $t => $_) {
                foreach (array_chunk($mesh->skin->layers['uv0']->at($t), 2) as $k => $uv) {
                    $v = 3 * $mesh->corners[3 * $t + $k];
                    self::assertEqualsWithDelta([$mesh->xyz[$v] / 10, 1 - $mesh->xyz[$v + 2] / 30], $uv, 1e-6);
                }
            }
        }
    }
}
