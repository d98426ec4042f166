<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Format\Colours;
use Isotome\Format\MeshFile;
use Isotome\Format\PlyReader;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\Solids;

/** Colours and normals of the vertices of scans. */
final class PlyColoursTest extends TestCase
{
    use Folder;

    /** @return array{int, int, int} a colour that every place has: 0 to 255 */
    private static function colour(float $x, float $y, float $z): array
    {
        return [(int) round(128 + 8 * $x), (int) round(128 + 8 * $y), (int) round(100 - 6 * $z)];
    }

    /** @return array<string, array{string, string}> format of the file, type of its colours */
    public static function layouts(): array
    {
        return [
            'text' => ['ascii', 'uchar'], 'text, floats' => ['ascii', 'float'], 'little-endian' => ['binary_little_endian', 'uint8'], 'big-endian, 16 bits' => ['binary_big_endian', 'ushort'],
            'little-endian, floats' => ['binary_little_endian', 'float32'],
        ];
    }

    /** A ball whose vertices come as triangles have them, three each, as scanners write them. */
    private static function scan(string $format, string $type): string
    {
        $ball = Solids::sphere(10, 2);
        $count = count($ball->corners);
        $text = "ply\nformat $format 1.0\nelement vertex $count\nproperty float x\nproperty float y\nproperty float z\nproperty float nx\nproperty float ny\nproperty float nz\nproperty $type red\nproperty $type green\n"
            ."property $type blue\nproperty float quality\nelement face ".intdiv($count, 3)."\nproperty list uchar int vertex_indices\nend_header\n";
        $isBig = $format === 'binary_big_endian';
        $full = ['uchar' => 255, 'uint8' => 255, 'ushort' => 65535][$type] ?? 1.0;
        foreach ($ball->corners as $v) {
            $place = array_slice($ball->xyz, 3 * $v, 3);
            $normal = array_map(static fn (float $c): float => $c / 10, $place);
            $parts = array_map(static fn (int $part): float => $part / 255 * $full, self::colour(...$place));
            $text .= match (true) {
                $format === 'ascii' => implode(' ', [...$place, ...$normal, ...array_map(static fn (float $part): string => is_int($full) ? (string) round($part) : (string) $part, $parts), 0.5])."\n",
                is_int($full) => pack($isBig ? 'G6' : 'g6', ...$place, ...$normal).pack($full > 255 ? ($isBig ? 'n3' : 'v3') : 'C3', ...array_map(static fn (float $part): int => (int) round($part), $parts)).pack($isBig ? 'G' : 'g', 0.5),
                default => pack('g10', ...$place, ...$normal, ...$parts, ...[0.5]),
            };
        }
        for ($i = 0; $i < $count; $i += 3) {
            $text .= $format === 'ascii' ? "3 $i ".($i + 1).' '.($i + 2)."\n" : pack($isBig ? 'CN3' : 'CV3', 3, $i, $i + 1, $i + 2);
        }

        return $text;
    }

    private function assertColoured(Mesh $mesh, float $delta, string $what): void
    {
        $skin = $mesh->skin;
        self::assertNotNull($skin, $what);
        foreach ($mesh->tags as $t => $tag) {
            if ($tag > 0) {
                continue;
            }
            $colours = $skin->layers[Skin::COLOUR]->at($t);
            for ($k = 0; $k < 3; $k++) {
                $v = 3 * $mesh->corners[3 * $t + $k];
                foreach (self::colour($mesh->xyz[$v], $mesh->xyz[$v + 1], $mesh->xyz[$v + 2]) as $c => $part) {
                    self::assertEqualsWithDelta($part / 255, Colours::written($colours[4 * $k + $c]), $delta, "$what, triangle $t");
                }
                self::assertEqualsWithDelta(1.0, $colours[4 * $k + 3], 1e-12);
            }
        }
    }

    #[DataProvider('layouts')]
    public function test_a_coloured_scan_is_read_cut_and_written(string $format, string $type): void
    {
        file_put_contents($this->path('scan.ply'), self::scan($format, $type));
        $read = PlyReader::read($this->path('scan.ply'));
        self::assertTrue(EdgeCheck::of($read->mesh)->isWatertight());
        self::assertSame(['the property quality of its vertices'], $read->leftOut);
        self::assertSame(['normals', 'colours'], array_values(array_intersect(['normals', 'colours'], $read->mesh->skin?->words() ?? [])));
        $this->assertColoured($read->mesh, 1e-4, 'as read');

        $runner = Runner::on('scan', $read->mesh);
        $runner->run(Recipe::fromJson('{"isotome_recipe":1,"steps":[{"do":"cut","blade":{"kind":"flat","through":[1,0.5,2],"facing":[0.2,0.3,1]}}]}')->steps[0]);
        foreach ($runner->pieces() as $piece) {
            // Between vertices light adds up, and the colour as it is written is no linear function any more.
            $this->assertColoured($piece->mesh, 0.02, $piece->name);
            $held = MeshFile::write($piece->mesh, $this->path('piece.ply'));
            $back = PlyReader::read($this->path('piece.ply'));
            self::assertSame([], $back->leftOut);
            self::assertTrue(EdgeCheck::of($back->mesh)->isWatertight(), 'vertices are not told apart by colours');
            self::assertSame($held->triangleCount(), $back->mesh->triangleCount());
            $skin = $back->mesh->skin;
            self::assertNotNull($skin);
            foreach ($held->tags as $t => $tag) {
                if ($tag === 0) {
                    self::assertEqualsWithDelta($held->skin?->layers[Skin::NORMAL]->at($t), $skin->layers[Skin::NORMAL]->at($t), 1e-6);
                    $written = static fn (array $colours): array => array_map(static fn (float $part): int => (int) round(255 * Colours::written($part)), $colours);
                    self::assertSame($written($held->skin?->layers[Skin::COLOUR]->at($t) ?? []), $written($skin->layers[Skin::COLOUR]->at($t)), 'the same in 8 bits');
                }
            }
        }
    }

    public function test_every_colour_of_8_bits_comes_back(): void
    {
        for ($part = 0; $part < 256; $part++) {
            self::assertSame($part, (int) round(255 * Colours::written(Colours::linear($part / 255))));
        }
        // IEC 61966-2-1: half of full strength as it is written is a little more than a fifth of the light.
        self::assertEqualsWithDelta(0.21404, Colours::linear(0.5), 1e-5);
        self::assertEqualsWithDelta([0.0, 1.0], [Colours::linear(-3.0), Colours::written(7.0)], 1e-12);
    }

    public function test_a_mesh_without_colours_is_written_as_before(): void
    {
        MeshFile::write(Solids::box(1, 2, 3), $this->path('box.ply'));
        $header = (string) strstr((string) file_get_contents($this->path('box.ply')), 'end_header', true);
        self::assertStringNotContainsString('red', $header);
        self::assertNull(PlyReader::read($this->path('box.ply'))->mesh->skin);
    }
}
