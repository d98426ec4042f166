<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\UnreadableMesh;
use Isotome\Format\GlbReader;
use Isotome\Format\GlbWriter;
use Isotome\Format\MeshFile;
use Isotome\Format\ReadMesh;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\PaintedGlb;
use Tests\Support\RunsIsotome;
use Tests\Support\Solids;

/** Materials, pictures, texture coordinates, colours and normals of GLB files: read, cut and written. */
final class LooksTest extends TestCase
{
    use Folder;
    use RunsIsotome;

    private function read(string $bytes): ReadMesh
    {
        file_put_contents($this->path('painted.glb'), $bytes);

        return GlbReader::read($this->path('painted.glb'));
    }

    /**
     * What the box has by construction at a place of a face that looks along an axis, in millimetres and Z up.
     *
     * @param  array{float, float, float}  $p
     * @param  array{float, float, float}  $n
     * @return array{array{float, float}, array{float, float, float, float}}
     */
    private static function painted(array $p, array $n): array
    {
        // To the file's axes: X, Z, −Y.
        $q = [$p[0] / 20, $p[2] / 15, -$p[1] / 10];
        $m = [$n[0], $n[2], -$n[1]];
        [$u, $v] = match (true) {
            $m[0] > 0.5 => [$q[1], $q[2]],
            $m[0] < -0.5 => [$q[2], $q[1]],
            $m[1] > 0.5 => [$q[2], $q[0]],
            $m[1] < -0.5 => [$q[0], $q[2]],
            $m[2] > 0.5 => [$q[0], $q[1]],
            default => [$q[1], $q[0]],
        };

        return [[($u + 1) / 2, ($v + 1) / 2], [1.0, ($u + 1) / 2, 0.0, 1.0]];
    }

    private function assertPainted(Mesh $mesh, float $delta, string $what): int
    {
        $skin = $mesh->skin;
        self::assertNotNull($skin, $what);
        $checked = 0;
        foreach ($mesh->tags as $t => $tag) {
            if ($tag > 0) {
                self::assertSame(-1, $skin->materialOf($t), $what);

                continue;
            }
            $places = $normals = [];
            for ($k = 0; $k < 3; $k++) {
                $v = 3 * $mesh->corners[3 * $t + $k];
                $places[] = [$mesh->xyz[$v], $mesh->xyz[$v + 1], $mesh->xyz[$v + 2]];
            }
            $normals = array_chunk($skin->layers[Skin::NORMAL]->at($t), 3);
            self::assertSame($normals[0][2] > 0.5 ? 'glaze' : 'painted clay', $skin->looks->name($skin->materialOf($t)), $what);
            foreach ($places as $k => $place) {
                /** @var array{float, float, float} $normal */
                $normal = $normals[$k];
                [$uv, $colour] = self::painted($place, $normal);
                self::assertEqualsWithDelta($uv, array_slice($skin->layers['uv0']->at($t), 2 * $k, 2), $delta, $what);
                self::assertEqualsWithDelta($colour, array_slice($skin->layers[Skin::COLOUR]->at($t), 4 * $k, 4), $delta + 1e-5, $what);
                $checked++;
            }
        }

        return $checked;
    }

    public function test_a_painted_box_is_read_with_all_it_carries(): void
    {
        $read = $this->read(PaintedGlb::box());
        self::assertTrue(EdgeCheck::of($read->mesh)->isWatertight());
        self::assertSame([], $read->leftOut);
        self::assertSame(36, $this->assertPainted($read->mesh, 1e-7, 'as read'));
        $looks = $read->mesh->skin->looks ?? null;
        self::assertNotNull($looks);
        self::assertSame([['kind' => 'image/png', 'bytes' => PaintedGlb::png(), 'name' => 'pattern']], $looks->pictures);
        self::assertSame([['picture' => 0, 'sampler' => ['magFilter' => 9728, 'wrapS' => 33071]]], $looks->textures);
        self::assertSame('BLEND', $looks->materials[1]['alphaMode'] ?? null);
    }

    public function test_cut_and_written_it_is_what_it_was(): void
    {
        $mesh = $this->read(PaintedGlb::box())->mesh;
        $runner = Runner::on('box', $mesh);
        foreach (Recipe::fromJson('{"isotome_recipe":1,"steps":[{"do":"cut","blade":{"kind":"flat","through":[3,1,2],"facing":[1,0.3,0.4]},"kerf":0.5},{"do":"cut","blade":{"kind":"cells","by":"uniform","count":4,"seed":2}}]}')->steps as $step) {
            $runner->run($step);
        }
        $corners = 0;
        $all = [];
        foreach ($runner->pieces() as $piece) {
            $corners += $this->assertPainted($piece->mesh, 1e-7, $piece->name);
            $held = MeshFile::write($piece->mesh, $this->path("$piece->name.glb"), $piece->name);
            $back = MeshFile::read($this->path("$piece->name.glb"));
            self::assertSame([], $back->leftOut);
            self::assertTrue(EdgeCheck::of($back->mesh)->isWatertight());
            self::assertSame($held->triangleCount(), $back->mesh->triangleCount());
            $this->assertPainted($back->mesh, 1e-5, "$piece->name, read back");
            self::assertSame(PaintedGlb::png(), $back->mesh->skin->looks->pictures[0]['bytes'] ?? null, 'the picture is the same to the byte');
            $all[$piece->name] = ['mesh' => $piece->mesh, 'colour' => $piece->colour];
        }
        self::assertGreaterThan(100, $corners);
        // Together: the picture and the materials once for all pieces.
        MeshFile::writeAll($all, $this->path('all.glb'));
        $bytes = (string) file_get_contents($this->path('all.glb'));
        self::assertSame(1, substr_count($bytes, PaintedGlb::png()));
        self::assertSame(1, substr_count($bytes, '"painted clay"'));
        foreach (MeshFile::read($this->path('all.glb'))->parts as $name => $part) {
            $this->assertPainted($part, 1e-5, "$name, of all");
        }
    }

    public function test_a_node_turns_and_mirrors_normals_with_the_surface(): void
    {
        foreach ([['rotation' => [0.1, 0.7, 0.2, sqrt(1 - 0.54)]], ['scale' => [-1, 1, 1]], ['scale' => [2, 0.5, -3], 'translation' => [1, 2, 3]]] as $n => $node) {
            $mesh = $this->read(PaintedGlb::box(['nodes' => [$node]]))->mesh;
            self::assertTrue(EdgeCheck::of($mesh)->isWatertight());
            foreach ($mesh->tags as $t => $_) {
                [$a, $b, $c] = array_map(static fn (int $v): array => array_slice($mesh->xyz, 3 * $v, 3), array_slice($mesh->corners, 3 * $t, 3));
                [$ux, $uy, $uz, $vx, $vy, $vz] = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2], $c[0] - $a[0], $c[1] - $a[1], $c[2] - $a[2]];
                $face = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
                $length = sqrt($face[0] ** 2 + $face[1] ** 2 + $face[2] ** 2);
                foreach (array_chunk(($mesh->skin->layers[Skin::NORMAL] ?? null)?->at($t) ?? [], 3) as $normal) {
                    self::assertEqualsWithDelta(1.0, ($face[0] * $normal[0] + $face[1] * $normal[1] + $face[2] * $normal[2]) / $length, 1e-6, "node $n, triangle $t");
                }
            }
        }
    }

    /** @return array<string, array{string, string|null}> a file, and the beginning of what is said to be left out; or null where there is nothing */
    public static function partly(): array
    {
        $no = ['images' => [['bufferView' => 99]]];

        return [
            'a picture that is none' => [PaintedGlb::box([], 'no picture at all'), 'the picture pattern: it is no PNG, JPEG or WebP'],
            'a picture cut short' => [PaintedGlb::box([], substr(PaintedGlb::png(), 0, 12)), 'the picture pattern: it is damaged'],
            'a picture of 20,000 pixels' => [PaintedGlb::box([], PaintedGlb::png(20_000, 20_000)), 'the picture pattern: its 20000 × 20000 pixels are more than 16384 a side'],
            'a picture that is not there' => [PaintedGlb::box($no), 'the picture pattern: it is not in the file'],
            'a picture elsewhere' => [PaintedGlb::box(['images' => [['bufferView' => null, 'uri' => '../../etc/passwd']]]), 'the picture pattern: it is not in the file'],
            'an extension of a material' => [PaintedGlb::box(['materials' => [['extensions' => ['MILLRACE_moss' => ['depth' => 2]]]]]), 'the extension MILLRACE_moss of a material'],
            'bones and movement' => [PaintedGlb::box(['animations' => [[]], 'skins' => [[]]]), 'movement'],
        ];
    }

    #[DataProvider('partly')]
    public function test_what_cannot_be_taken_over_is_left_out_and_named(string $bytes, ?string $said): void
    {
        $read = $this->read($bytes);
        self::assertStringStartsWith((string) $said, $read->leftOut[0] ?? '');
        self::assertSame(36, $this->assertPainted($read->mesh, 1e-7, (string) $said));
        $text = json_encode($read->mesh->skin->looks->materials ?? null, JSON_THROW_ON_ERROR);
        self::assertStringNotContainsString('MILLRACE', $text);
        self::assertSame(! str_starts_with((string) $said, 'the picture'), str_contains($text, 'baseColorTexture'));
        // It is written without, and read again.
        MeshFile::write($read->mesh, $this->path('again.glb'), 'again');
        self::assertSame([], MeshFile::read($this->path('again.glb'))->leftOut);
    }

    /** @return array<string, array{array<mixed>, string}> */
    public static function damaged(): array
    {
        return [
            'texture coordinates of other length' => [['accessors' => [2 => ['count' => 7]]], 'its TEXCOORD_0 are not one for each vertex'],
            'colours that are no numbers of 0 to 1' => [['accessors' => [3 => ['normalized' => false]]], 'accessor 3 has components that fit no attribute'],
            'normals of two numbers' => [['accessors' => [1 => ['type' => 'VEC2']]], 'its NORMAL are not one for each vertex'],
            'texture coordinates beyond the data' => [['accessors' => [2 => ['byteOffset' => 400]]], 'accessor 2 reaches beyond its data'],
        ];
    }

    /** @param  array<mixed>  $change */
    #[DataProvider('damaged')]
    public function test_damaged_attributes_are_refused(array $change, string $said): void
    {
        $this->expectException(UnreadableMesh::class);
        $this->expectExceptionMessage($said);
        $this->read(PaintedGlb::box($change));
    }

    public function test_texture_coordinates_that_are_not_numbers_are_refused(): void
    {
        $bytes = PaintedGlb::box();
        $at = strpos($bytes, pack('g8', 0, 0, 1, 0, 1, 1, 0, 1));
        self::assertIsInt($at);
        $this->expectExceptionMessage('its TEXCOORD_0 are not all numbers');
        $this->read(substr_replace($bytes, pack('g', NAN), $at, 4));
    }

    public function test_the_command_line_says_what_is_left_out_and_gives_the_same_bytes_as_the_core(): void
    {
        file_put_contents($this->path('painted box.glb'), PaintedGlb::box(['cameras' => [[]]]));
        file_put_contents($this->path('recipe.json'), '{"isotome_recipe":1,"steps":[{"do":"cut","blade":{"kind":"flat","through":[3,1,2],"facing":[1,0.3,0.4]}}]}');
        $said = [];
        foreach (['glb', 'ply', 'stl'] as $as) {
            [$code, , $errors] = $this->isotome('run', $this->path('recipe.json'), $this->path('painted box.glb'), '--out', $this->path($as), '--as', $as);
            self::assertSame(0, $code, $errors);
            $said[$as] = array_values(array_filter(explode("\n", $errors)));
        }
        self::assertSame(['left out: cameras'], $said['glb']);
        self::assertSame(['left out: cameras', 'left out: materials, which ply files do not keep', 'left out: pictures, which ply files do not keep', 'left out: texture coordinates, which ply files do not keep'], $said['ply']);
        self::assertCount(6, $said['stl']);
        $runner = Runner::on('painted box', $this->read(PaintedGlb::box())->mesh);
        $runner->run(Recipe::fromJson((string) file_get_contents($this->path('recipe.json')))->steps[0]);
        $step = GlbWriter::step(array_map(static fn (Piece $piece): Mesh => $piece->mesh, array_values($runner->pieces())));
        foreach ($runner->pieces() as $piece) {
            MeshFile::write($piece->mesh, $this->path('here.glb'), $piece->name, $piece->colour, $step);
            $files = glob($this->path('glb').'/*-'.substr($piece->name, -1).'.glb') ?: [];
            self::assertFileEquals($files[0] ?? '', $this->path('here.glb'));
        }
    }

    public function test_the_colour_in_which_a_bare_piece_was_written_is_not_taken_for_a_material_of_its_own(): void
    {
        MeshFile::write(Solids::box(1, 2, 3), $this->path('bare.glb'), 'bare', '#6c9783');
        self::assertNull(MeshFile::read($this->path('bare.glb'))->mesh->skin);
        // Of any other program's file it is one.
        file_put_contents($this->path('other.glb'), str_replace('"Isotome"', '"Another"', (string) file_get_contents($this->path('bare.glb'))));
        self::assertSame(['materials'], MeshFile::read($this->path('other.glb'))->mesh->skin?->words());
    }

    public function test_a_material_beyond_the_list_is_none(): void
    {
        $mesh = $this->read(PaintedGlb::box(['meshes' => [['primitives' => [1 => ['material' => 0]]]], 'materials' => [1 => ['name' => 'spare']]]))->mesh;
        self::assertSame(0, $mesh->skin?->materialOf(0));
        $this->expectExceptionMessage('number 7 of its materials is used and not there');
        $this->read(PaintedGlb::box(['meshes' => [['primitives' => [1 => ['material' => 7]]]]]));
    }
}
