<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\UnreadableMesh;
use Isotome\Format\Companions;
use Isotome\Format\InsideLook;
use Isotome\Format\MeshFile;
use Isotome\Format\ReadMesh;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Layer;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\PaintedGlb;
use Tests\Support\PaintedObj;
use Tests\Support\RunsIsotome;
use Tests\Support\Solids;

/** Materials, pictures, texture coordinates, colours and normals of OBJ files, and zips that bring what belongs to a mesh. */
final class ObjLooksTest extends TestCase
{
    use Folder;
    use RunsIsotome;

    /** @param  array<string, string>  $files */
    private function zipped(array $files): ReadMesh
    {
        return MeshFile::read(PaintedObj::zip($this->path('painted.zip'), $files));
    }

    private function painted(): ReadMesh
    {
        return $this->zipped(['box.obj' => PaintedObj::box(), 'paint.mtl' => PaintedObj::library(), 'pattern.png' => PaintedGlb::png()]);
    }

    /** At every corner of the skin what the box has there by construction: in the order of a face's corners (0, 0), (1, 0), (1, 1), (0, 1), upwards. */
    private static function assertPainted(Mesh $mesh, string $about): void
    {
        $skin = $mesh->skin;
        self::assertNotNull($skin, $about);
        $half = [20.0, 10.0, 15.0];
        // Axis and side of a face: the axes along which its coordinates go, and their directions.
        $along = ['2-' => [[1, 1], [0, 1]], '2+' => [[0, 1], [1, 1]], '1-' => [[0, 1], [2, 1]], '0+' => [[1, 1], [2, 1]], '1+' => [[0, -1], [2, 1]], '0-' => [[1, -1], [2, 1]]];
        foreach ($mesh->tags as $t => $tag) {
            if ($tag > 0) {
                continue;
            }
            $places = array_map(static fn (int $k): array => array_slice($mesh->xyz, 3 * $mesh->corners[3 * $t + $k], 3), [0, 1, 2]);
            foreach ([0, 1, 2] as $axis) {
                foreach ([1, -1] as $sign) {
                    if (array_filter($places, static fn (array $p): bool => abs($p[$axis] - $sign * $half[$axis]) > 1e-9) !== []) {
                        continue;
                    }
                    $face = $axis.($sign > 0 ? '+' : '-');
                    self::assertSame($face === '2+' ? 'green glaze' : 'painted', str_replace('_', ' ', $skin->looks->name($skin->materialOf($t))), $about);
                    foreach (array_chunk($skin->layers['uv0']->at($t), 2) as $k => [$u, $v]) {
                        [[$a, $da], [$b, $db]] = $along[$face];
                        self::assertEqualsWithDelta([0.5 + $da * $places[$k][$a] / 2 / $half[$a], 0.5 - $db * $places[$k][$b] / 2 / $half[$b]], [$u, $v], 1e-6, "$about, face $face");
                        $normal = [0.0, 0.0, 0.0];
                        $normal[$axis] = (float) $sign;
                        self::assertEqualsWithDelta($normal, array_slice($skin->layers[Skin::NORMAL]->at($t), 3 * $k, 3), 1e-6, $about);
                    }
                }
            }
        }
    }

    public function test_a_zip_brings_materials_pictures_coordinates_and_normals(): void
    {
        $read = $this->painted();
        self::assertSame([['materials', 'pictures', 'texture coordinates', 'normals'], [], 'OBJ'], [$read->mesh->skin?->words(), $read->leftOut, $read->format]);
        self::assertPainted($read->mesh, 'as it came');
        $looks = $read->mesh->skin->looks ?? self::fail();
        self::assertSame([PaintedGlb::png()], array_column($looks->pictures, 'bytes'));
        // The square root of 2 / (98 + 2); colours as light adds up (IEC 61966-2-1: 0.8 is 0.603827, 0.5 is 0.214041).
        $surface = $looks->materials[0]['pbrMetallicRoughness'] ?? [];
        self::assertIsArray($surface);
        self::assertEqualsWithDelta([0.603827, 0.132868, 0.033105, 1.0], $surface['baseColorFactor'], 1e-6);
        self::assertEqualsWithDelta(0.141421, $surface['roughnessFactor'], 1e-6);
        // Thrice as dense upwards about the lower edge is, downwards, about the upper one: 1 − 3 − 0.
        self::assertSame(['KHR_texture_transform' => ['offset' => [0.25, -2.0], 'scale' => [2.0, 3.0]]], $surface['baseColorTexture']['extensions']);
        $glaze = $looks->materials[1];
        self::assertSame(['BLEND', 0.75, 0.5, 0.25], [$glaze['alphaMode'] ?? '', ...array_map(static fn (string $key, int|string|null $at): mixed => $at === null ? $glaze['pbrMetallicRoughness'][$key] : $glaze['pbrMetallicRoughness'][$key][$at], ['baseColorFactor', 'metallicFactor', 'roughnessFactor'], [3, null, null])]);
    }

    public function test_cut_written_and_read_again_it_is_what_it_was(): void
    {
        $runner = Runner::on('box', $this->painted()->mesh);
        $runner->run(Recipe::fromJson('{"isotome_recipe":1,"steps":[{"do":"cut","blade":{"kind":"flat","through":[1,2,3],"facing":[0.3,-0.4,1]}}]}')->steps[0]);
        $pieces = [];
        foreach ($runner->pieces() as $piece) {
            self::assertPainted($piece->mesh, $piece->name);
            $pieces[$piece->name] = ['mesh' => $piece->mesh, 'colour' => '#336699'];
        }
        MeshFile::writeAll($pieces, $this->path('out.obj'), InsideLook::picture(PaintedGlb::png(8, 8), 'oak', 20.0));
        $read = MeshFile::read($this->path('out.obj'), files: Companions::beside($this->path('out.obj')));
        self::assertSame([], $read->leftOut);
        self::assertCount(2, $read->parts);
        foreach ($read->parts as $name => $mesh) {
            self::assertPainted($mesh, "read again: $name");
            self::assertTrue(EdgeCheck::of($mesh)->isWatertight());
            self::assertGreaterThan(0, array_sum($mesh->tags));
            self::assertSame(array_sum($pieces[$name]['mesh']->tags), array_sum($mesh->tags));
        }
        $library = (string) file_get_contents($this->path('out.mtl'));
        // What glTF has no word for is there again; the pictures are beside it, once each.
        foreach (["Ka 0.1 0.1 0.1\n", "Ks 0.5 0.5 0.5\n", "Ns 98\n", "illum 2\n", "Kd 0.8 0.4 0.2\n", "d 0.75\n", 'map_Kd -s 2 3 1 -o 0.25 0 0 pattern-', "box-A_inside\nKd 1 1 1\nmap_Kd oak-"] as $said) {
            self::assertStringContainsString($said, $library);
        }
        $pictures = array_map(static fn (string $path): string => (string) file_get_contents($path), glob($this->path('*.png')) ?: []);
        self::assertEqualsCanonicalizing([PaintedGlb::png(), PaintedGlb::png(8, 8)], $pictures);
        // And again: vertices stand in the order of the faces now, so from here on nothing changes; names do not grow.
        $texts = [];
        foreach (['second', 'third'] as $name) {
            MeshFile::writeAll(array_map(static fn (Mesh $mesh): array => ['mesh' => $mesh, 'colour' => '#336699'], $read->parts), $this->path("$name.obj"), InsideLook::picture(PaintedGlb::png(8, 8), 'oak', 20.0));
            $read = MeshFile::read($this->path("$name.obj"), files: Companions::beside($this->path("$name.obj")));
            $texts[] = [str_replace("$name.mtl", 'out.mtl', (string) file_get_contents($this->path("$name.obj"))), (string) file_get_contents($this->path("$name.mtl"))];
        }
        self::assertSame($texts[0], $texts[1]);
        self::assertSame($library, $texts[0][1]);
        self::assertCount(2, glob($this->path('*.png')) ?: []);
    }

    public function test_colours_behind_vertices_come_through(): void
    {
        $read = $this->zipped(['box.obj' => PaintedObj::box('none.mtl', true)]);
        self::assertSame([['materials', 'texture coordinates', 'normals', 'colours'], ['the materials of none.mtl: it is not there']], [$read->mesh->skin?->words(), $read->leftOut]);
        $check = static function (Mesh $mesh): void {
            foreach ($mesh->tags as $t => $_) {
                foreach (array_chunk($mesh->skin?->layers[Skin::COLOUR]->at($t) ?? [], 4) as $k => $colour) {
                    $v = 3 * $mesh->corners[3 * $t + $k];
                    self::assertEqualsWithDelta([0.5 + $mesh->xyz[$v] / 80, 0.5 + $mesh->xyz[$v + 1] / 40, 0.25, 1.0], [...array_map(\Isotome\Format\Colours::written(...), array_slice($colour, 0, 3)), $colour[3]], 1e-6);
                }
            }
        };
        $check($read->mesh);
        MeshFile::write($read->mesh, $this->path('coloured.obj'));
        $check(MeshFile::read($this->path('coloured.obj'))->mesh);
        // Materials of which only the names came are kept as well.
        self::assertSame(['painted', 'green glaze'], array_map($read->mesh->skin->looks->name(...), [0, 1]));
    }

    public function test_smoothing_groups_give_normals_where_none_are_given(): void
    {
        $box = Solids::box(10, 10, 10);
        $obj = '';
        foreach (array_chunk($box->xyz, 3) as $place) {
            $obj .= 'v '.implode(' ', $place)."\n";
        }
        $faces = static fn (string $s): string => "$s\n".implode('', array_map(static fn (array $face): string => 'f '.implode(' ', array_map(static fn (int $v): int => $v + 1, $face))."\n", array_chunk($box->corners, 3)));
        $read = function (string $bytes): Mesh {
            file_put_contents($this->path('s.obj'), $bytes);

            return MeshFile::read($this->path('s.obj'))->mesh;
        };
        self::assertNull($read($obj.$faces('s off'))->skin);
        self::assertEqualsWithDelta(1 / sqrt(3), abs($read($obj.$faces('s 1'))->skin?->layers[Skin::NORMAL]->at(0)[0] ?? 0.0), 1e-12);
    }

    public function test_statements_without_a_face_between_them_cost_nothing(): void
    {
        file_put_contents($this->path('many.obj'), str_replace("usemtl painted\n", str_repeat("g a\nusemtl painted\ns 1\n", 200_000), PaintedObj::box('none.mtl')));
        memory_reset_peak_usage();
        $before = memory_get_usage();
        $read = MeshFile::read($this->path('many.obj'));
        self::assertSame(['painted', 'green glaze'], array_map(($read->mesh->skin->looks ?? self::fail())->name(...), [0, 1]));
        self::assertLessThan(20_000_000, memory_get_peak_usage() - $before);
    }

    public function test_a_file_without_any_of_it_carries_nothing(): void
    {
        $ball = Solids::sphere(20, 2);
        MeshFile::write($ball, $this->path('ball.obj'));
        self::assertStringContainsString("\nvn ", (string) file_get_contents($this->path('ball.obj')));
        self::assertFileDoesNotExist($this->path('ball.mtl'));
        $read = MeshFile::read($this->path('ball.obj'));
        self::assertNull($read->mesh->skin);
        self::assertEqualsCanonicalizing(array_chunk($ball->xyz, 3), array_chunk($read->mesh->xyz, 3));
        $text = str_replace(\Isotome\Format\ObjWriter::HEAD, '# another', (string) file_get_contents($this->path('ball.obj')));
        file_put_contents($this->path('other.obj'), $text);
        self::assertSame(['normals'], MeshFile::read($this->path('other.obj'))->mesh->skin?->words());
    }

    /** @return iterable<string, array{array<string, string>, list<string>}> files, and what is said */
    public static function lies(): iterable
    {
        $box = PaintedObj::box();
        yield 'a picture that is none' => [['box.obj' => $box, 'paint.mtl' => PaintedObj::library(), 'pattern.png' => 'GIF89a'], ['the picture pattern.png: it is no PNG, JPEG or WebP']];
        yield 'a picture of 20,000 pixels' => [['box.obj' => $box, 'paint.mtl' => PaintedObj::library(), 'pattern.png' => PaintedGlb::png(20000, 20000)], ['the picture pattern.png: its 20000 × 20000 pixels are more than 16384 a side']];
        yield 'a picture that did not come' => [['box.obj' => $box, 'paint.mtl' => PaintedObj::library()], ['the picture pattern.png: it is not there']];
        yield 'paths that lead away' => [['models/box.obj' => PaintedObj::box('../../paint.mtl'), 'paint.mtl' => PaintedObj::library(), '/etc/paint.mtl' => 'newmtl painted'], ['the materials of paint.mtl: it is not there']];
        yield 'a picture outside' => [['box.obj' => $box, 'paint.mtl' => PaintedObj::library('/etc/passwd')], ['the picture passwd: it is not there']];
        yield 'one that names a drive' => [['box.obj' => $box, 'paint.mtl' => PaintedObj::library('C:\\pictures\\pattern.png'), 'pattern.png' => PaintedGlb::png()], []];
        yield 'another case' => [['box.obj' => $box, 'PAINT.MTL' => PaintedObj::library('Pattern.PNG'), 'pattern.png' => PaintedGlb::png()], []];
        yield 'coordinates beyond the list' => [['box.obj' => str_replace('/4/', '/9/', $box), 'paint.mtl' => PaintedObj::library(), 'pattern.png' => PaintedGlb::png()], ['texture coordinates or normals that are named and not there']];
        yield 'coordinates that are no numbers' => [['box.obj' => str_replace("vt 1 1\n", "vt nan x\n", $box), 'paint.mtl' => PaintedObj::library(), 'pattern.png' => PaintedGlb::png()], ['texture coordinates or normals that are named and not there']];
    }

    /**
     * @param  array<string, string>  $files
     * @param  list<string>  $said
     */
    #[DataProvider('lies')]
    public function test_what_cannot_be_taken_over_is_named_and_nothing_outside_is_read(array $files, array $said): void
    {
        $read = $this->zipped($files);
        self::assertSame($said, $read->leftOut);
        self::assertSame([12, true], [$read->mesh->triangleCount(), EdgeCheck::of($read->mesh)->isWatertight()]);
        self::assertSame($said === [] || str_contains($said[0], 'coordinates'), ($read->mesh->skin->looks->pictures ?? []) !== []);
        foreach ($read->mesh->skin->layers ?? [] as $layer) {
            self::assertTrue(is_finite(array_sum($layer->at(0))));
        }
    }

    public function test_beside_a_file_on_the_disk_only_its_folder_is_read(): void
    {
        mkdir($this->path('in'));
        mkdir($this->path('in/below'));
        file_put_contents($this->path('secret.mtl'), PaintedObj::library());
        file_put_contents($this->path('in/pattern.png'), PaintedGlb::png());
        file_put_contents($this->path('in/below/paint.mtl'), PaintedObj::library());
        symlink($this->path('secret.mtl'), $this->path('in/linked.mtl'));
        foreach (['../secret.mtl' => false, 'linked.mtl' => false, 'below/paint.mtl' => true, './below//paint.mtl' => true] as $library => $isThere) {
            file_put_contents($this->path('in/box.obj'), PaintedObj::box($library));
            self::assertSame($isThere, MeshFile::read($this->path('in/box.obj'), files: Companions::beside($this->path('in/box.obj')))->leftOut === [], $library);
        }
        // The application gives none: a file that came alone stays alone.
        self::assertNotSame([], MeshFile::read($this->path('in/box.obj'))->leftOut);
        rename($this->path('in/below/paint.mtl'), $this->path('in/paint.mtl'));
        file_put_contents($this->path('in/box.obj'), PaintedObj::box());
        [$code, , $errors] = $this->isotome('convert', $this->path('in/box.obj'), $this->path('out.glb'));
        self::assertSame([0, ''], [$code, $errors]);
        self::assertSame(['materials', 'pictures', 'texture coordinates', 'normals'], MeshFile::read($this->path('out.glb'))->mesh->skin?->words());
    }

    public function test_several_meshes_in_a_zip_are_several_parts(): void
    {
        MeshFile::write(Solids::box(10, 10, 10), $this->path('one.stl'));
        MeshFile::write(Solids::box(20, 10, 10, [30.0, 0.0, 0.0]), $this->path('one.ply'));
        $files = ['a/one.stl' => (string) file_get_contents($this->path('one.stl')), 'a/one.ply' => (string) file_get_contents($this->path('one.ply')), '__MACOSX/a/._one.stl' => 'x', 'manifest.json' => '{}',
            'b/box.obj' => PaintedObj::box(), 'b/paint.mtl' => PaintedObj::library(), 'b/pattern.png' => PaintedGlb::png()];
        $read = $this->zipped($files);
        self::assertSame(['one', 'one 2', 'box'], array_keys($read->parts));
        self::assertSame(36, $read->mesh->triangleCount());
        self::assertEqualsWithDelta([-20.0, -10.0, -15.0], Box::of($read->mesh->xyz)->min, 1e-9);
        self::assertNull($read->parts['one']->skin);
        self::assertPainted($read->parts['box'], 'in a zip with others');
        self::assertContains('pictures', $read->mesh->skin?->words() ?? []);
    }

    /** @return iterable<string, array{array<string, string>|string, string}> */
    public static function bad(): iterable
    {
        yield 'nothing in it' => [['readme.txt' => 'x'], '/holds no mesh file/'];
        yield 'a zip in a zip' => [['inner.zip' => 'PK'], '/holds no mesh file/'];
        yield 'no zip' => ['this is none', '/is no zip/'];
        yield 'a bomb' => [['box.stl' => str_repeat("\0", 60_000_000)], '/unpacks to far more than/'];
        yield 'a damaged mesh' => [['bad.obj' => "v 0 0 0\nf 1 2 3\n"], '/^The OBJ file bad\.obj is damaged at line 2/'];
        yield 'a path that leads away' => [['../../box.obj' => PaintedObj::box()], '/holds no mesh file/'];
        yield 'too many' => [array_fill_keys(array_map(static fn (int $n): string => "$n.stl", range(1, 501)), 'x'), '/holds 501 mesh files/'];
    }

    /** @param  array<string, string>|string  $files */
    #[DataProvider('bad')]
    public function test_a_bad_zip_is_refused_in_one_sentence(array|string $files, string $said): void
    {
        if (is_string($files)) {
            file_put_contents($this->path('bad.zip'), $files);
        } else {
            PaintedObj::zip($this->path('bad.zip'), $files);
        }
        $this->expectException(UnreadableMesh::class);
        $this->expectExceptionMessageMatches($said);
        MeshFile::read($this->path('bad.zip'));
    }

    public function test_gltf_as_text_with_its_data_in_it_or_in_a_zip(): void
    {
        $glb = PaintedGlb::box();
        file_put_contents($this->path('box.glb'), $glb);
        $expected = MeshFile::read($this->path('box.glb'))->mesh;
        $length = ((array) unpack('V', $glb, 12))[1];
        $json = json_decode(substr($glb, 20, $length), true);
        self::assertIsArray($json);
        $data = substr($glb, 28 + $length);
        $same = static function (Mesh $mesh) use ($expected): void {
            self::assertSame(\Isotome\Mesh\Packing::hash($expected), \Isotome\Mesh\Packing::hash($mesh));
        };
        $within = $json;
        $within['buffers'] = [['byteLength' => strlen($data), 'uri' => 'data:application/octet-stream;base64,'.base64_encode($data)]];
        file_put_contents($this->path('box.gltf'), json_encode($within));
        $same(MeshFile::read($this->path('box.gltf'))->mesh);
        // Data in two files, the picture in a third, with a name that is written as an address.
        $beside = $json;
        $picture = array_pop($beside['bufferViews']);
        $half = $beside['bufferViews'][3]['byteOffset'];
        foreach ($beside['bufferViews'] as $n => $view) {
            $beside['bufferViews'][$n] = ['buffer' => $n < 3 ? 0 : 1, 'byteOffset' => $view['byteOffset'] - ($n < 3 ? 0 : $half)] + $view;
        }
        $beside['buffers'] = [['byteLength' => $half, 'uri' => 'box%20one.bin'], ['byteLength' => $picture['byteOffset'] - $half, 'uri' => './two.bin']];
        $beside['images'] = [['name' => 'pattern', 'uri' => 'pictures/pattern.png']];
        $files = ['m/box.gltf' => (string) json_encode($beside), 'm/box one.bin' => substr($data, 0, $half), 'm/two.bin' => substr($data, $half, $picture['byteOffset'] - $half), 'm/pictures/pattern.png' => PaintedGlb::png()];
        $read = $this->zipped($files);
        $same($read->mesh);
        self::assertSame('glTF', $read->format);
        unset($files['m/two.bin']);
        $this->expectException(UnreadableMesh::class);
        $this->expectExceptionMessage('needs its data (two.bin), which did not come with it');
        $this->zipped($files);
    }

    public function test_what_obj_files_do_not_keep_is_said(): void
    {
        file_put_contents($this->path('painted.glb'), PaintedGlb::box(['materials' => [['occlusionTexture' => ['index' => 0]]]]));
        $mesh = MeshFile::read($this->path('painted.glb'))->mesh;
        self::assertSame(['pictures of roughness, metal and shadow', 'extensions of materials'], MeshFile::losesOf($mesh, 'obj'));
        $skin = $mesh->skin ?? self::fail();
        $more = $mesh->withSkin(new Skin($skin->looks, $skin->materials, [...$skin->layers, 'uv1' => new Layer(2, $skin->layers['uv0']->bytes)]));
        self::assertContains('further texture coordinates', MeshFile::losesOf($more, 'obj'));
        self::assertSame([], MeshFile::losesOf($mesh, 'glb'));
    }
}
