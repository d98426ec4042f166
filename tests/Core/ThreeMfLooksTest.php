<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\UnreadableMesh;
use Isotome\Format\Colours;
use Isotome\Format\MeshFile;
use Isotome\Format\ReadMesh;
use Isotome\Format\ThreeMfLooks;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\PaintedGlb;
use Tests\Support\PaintedObj;
use Tests\Support\Solids;

/** Base materials, colours and textures of 3MF files: read, cut and written. */
final class ThreeMfLooksTest extends TestCase
{
    use Folder;

    /**
     * A box of 10 × 20 × 30 mm put together by hand from the specification: bottom and top of brass, the front coloured at its corners, the right one textured, the rest of the object's own oak.
     *
     * @param  array<string, string>  $change  of the model's text
     * @param  array<string, string>  $files  beside the model
     */
    private function read(array $change = [], ?array $files = null): ReadMesh
    {
        $box = Solids::box(10, 20, 30);
        $vertices = $triangles = '';
        foreach (array_chunk($box->xyz, 3) as [$x, $y, $z]) {
            $vertices .= "<vertex x=\"$x\" y=\"$y\" z=\"$z\"/>";
        }
        foreach (array_chunk($box->corners, 3) as $t => $face) {
            $place = static fn (int $v): int => (int) ($box->xyz[3 * $v + 1] > 0) + 2 * (int) ($box->xyz[3 * $v + 2] > 0);
            $bearing = match (intdiv($t, 2)) {
                0, 1 => 'pid="5" p1="1"',
                2 => 'pid="6" '.implode(' ', array_map(static fn (int $k): string => 'p'.($k + 1).'="'.(int) ($box->xyz[3 * $face[$k]] > 0).'"', [0, 1, 2])),
                5 => 'pid="8" '.implode(' ', array_map(static fn (int $k): string => 'p'.($k + 1).'="'.$place($face[$k]).'"', [0, 1, 2])),
                default => '',
            };
            $triangles .= "<triangle v1=\"$face[0]\" v2=\"$face[1]\" v3=\"$face[2]\" $bearing/>";
        }
        $model = '<?xml version="1.0" encoding="UTF-8"?><model unit="millimeter" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02" xmlns:m="'.ThreeMfLooks::MATERIALS.'" requiredextensions="m"><resources>'
            .'<basematerials id="5"><base name="oak" displaycolor="#8A5A2B"/><base name="brass" displaycolor="#C0A04080"/></basematerials>'
            .'<m:colorgroup id="6"><m:color color="#FF0000"/><m:color color="#0000FF40"/></m:colorgroup>'
            .'<m:texture2d id="7" path="/3D/Textures/pattern.png" contenttype="image/png" tilestyleu="mirror" tilestylev="clamp" filter="nearest"/>'
            .'<m:texture2dgroup id="8" texid="7"><m:tex2coord u="0" v="0"/><m:tex2coord u="1" v="0"/><m:tex2coord u="0" v="1"/><m:tex2coord u="1" v="1"/></m:texture2dgroup>'
            ."<object id=\"9\" name=\"box\" type=\"model\" pid=\"5\" pindex=\"0\"><mesh><vertices>$vertices</vertices><triangles>$triangles</triangles></mesh></object>"
            .'</resources><build><item objectid="9"/></build></model>';
        PaintedObj::zip($this->path('box.3mf'), ['3D/3dmodel.model' => strtr($model, $change), ...$files ?? ['3D/Textures/pattern.png' => PaintedGlb::png()]]);

        return MeshFile::read($this->path('box.3mf'));
    }

    /** What the box has by construction, at every corner of its skin. */
    private static function assertPainted(Mesh $mesh, string $about): void
    {
        $skin = $mesh->skin;
        self::assertNotNull($skin, $about);
        foreach ($mesh->tags as $t => $tag) {
            if ($tag > 0) {
                self::assertSame(-1, $skin->materialOf($t), $about);

                continue;
            }
            $places = array_map(static fn (int $k): array => array_slice($mesh->xyz, 3 * $mesh->corners[3 * $t + $k], 3), [0, 1, 2]);
            $lies = static fn (int $axis, float $at): bool => array_filter($places, static fn (array $p): bool => abs($p[$axis] - $at) > 1e-5) === [];
            $name = $skin->materialOf($t) < 0 ? '' : $skin->looks->name($skin->materialOf($t));
            if ($lies(2, 0.0) || $lies(2, 30.0)) {
                self::assertSame('brass', $name, $about);
            } elseif ($lies(1, 0.0)) {
                foreach (array_chunk($skin->layers[Skin::COLOUR]->at($t), 4) as $k => $colour) {
                    // From red to a clear blue along X, as light adds up.
                    $share = $places[$k][0] / 10;
                    self::assertEqualsWithDelta([1 - $share, 0.0, $share, 1 - $share * (1 - 64 / 255)], $colour, 0.006, $about);
                }
            } elseif ($lies(0, 10.0)) {
                self::assertStringStartsWith('pattern', $name, $about);
                foreach (array_chunk($skin->layers['uv0']->at($t), 2) as $k => $uv) {
                    self::assertEqualsWithDelta([$places[$k][1] / 20, 1 - $places[$k][2] / 30], $uv, 1e-5, $about);
                }
            } else {
                self::assertSame('oak', $name, $about);
            }
        }
    }

    public function test_materials_colours_and_textures_are_read(): void
    {
        $read = $this->read();
        self::assertSame([['materials', 'pictures', 'colours', 'texture coordinates'], []], [$read->mesh->skin?->words(), $read->leftOut]);
        self::assertPainted($read->mesh, 'as it came');
        $looks = $read->mesh->skin->looks ?? self::fail();
        self::assertSame([PaintedGlb::png()], array_column($looks->pictures, 'bytes'));
        self::assertSame([['picture' => 0, 'sampler' => ['wrapS' => 33648, 'wrapT' => 33071, 'magFilter' => 9728]]], $looks->textures);
        self::assertEqualsWithDelta([Colours::linear(0xC0 / 255), Colours::linear(0xA0 / 255), Colours::linear(0x40 / 255), 128 / 255], $looks->materials[1]['pbrMetallicRoughness']['baseColorFactor'] ?? [], 1e-12);
    }

    public function test_cut_written_and_read_again_it_is_what_it_was(): void
    {
        $runner = Runner::on('box', $this->read()->mesh);
        $runner->run(Recipe::fromJson('{"isotome_recipe":1,"steps":[{"do":"cut","blade":{"kind":"flat","through":[4,11,13],"facing":[0.3,-0.4,1]}}]}')->steps[0]);
        $pieces = [];
        foreach ($runner->pieces() as $piece) {
            self::assertPainted($piece->mesh, $piece->name);
            self::assertSame([], MeshFile::losesOf($piece->mesh, '3mf'));
            $pieces[$piece->name] = ['mesh' => $piece->mesh, 'colour' => '#336699'];
        }
        MeshFile::writeAll($pieces, $this->path('out.3mf'));
        $read = MeshFile::read($this->path('out.3mf'));
        self::assertSame([['box-A', 'box-B'], []], [array_keys($read->parts), $read->leftOut]);
        foreach ($read->parts as $name => $mesh) {
            self::assertPainted($mesh, "read again: $name");
            self::assertTrue(EdgeCheck::of($mesh)->isWatertight());
            self::assertGreaterThan(0, array_sum($mesh->tags));
        }
        // The same pieces give the same bytes, and the picture is there once.
        $bytes = (string) file_get_contents($this->path('out.3mf'));
        MeshFile::writeAll($pieces, $this->path('out.3mf'));
        self::assertSame($bytes, (string) file_get_contents($this->path('out.3mf')));
        self::assertSame(['mirror', 'clamp'], [
            preg_match('/tilestyleu="(\w+)"/', (string) file_get_contents('zip://'.$this->path('out.3mf').'#3D/3dmodel.model'), $u) === 1 ? $u[1] : '',
            preg_match('/tilestylev="(\w+)"/', (string) file_get_contents('zip://'.$this->path('out.3mf').'#3D/3dmodel.model'), $v) === 1 ? $v[1] : '',
        ]);
    }

    public function test_a_mirroring_item_keeps_what_lies_where(): void
    {
        $read = $this->read(['<item objectid="9"/>' => '<item objectid="9" transform="-1 0 0 0 1 0 0 0 1 10 0 0"/>']);
        self::assertTrue(EdgeCheck::of($read->mesh)->isWatertight());
        $back = Mesh::of(array_map(static fn (int $i, float $c): float => $i % 3 === 0 ? 10.0 - $c : $c, array_keys($read->mesh->xyz), $read->mesh->xyz), $read->mesh->corners, $read->mesh->tags, $read->mesh->skin);
        self::assertPainted($back, 'mirrored');
    }

    public function test_pieces_that_carry_nothing_are_written_as_before_and_carry_nothing(): void
    {
        MeshFile::write(Solids::box(10, 10, 10), $this->path('plain.3mf'));
        self::assertNull(MeshFile::read($this->path('plain.3mf'))->mesh->skin);
        $model = (string) file_get_contents('zip://'.$this->path('plain.3mf').'#3D/3dmodel.model');
        self::assertStringNotContainsString('xmlns:m', $model);
    }

    /** @return iterable<string, array{array<string, string>, array<string, string>|null, list<string>}> */
    public static function lies(): iterable
    {
        yield 'no picture there' => [[], [], ['the picture pattern.png: it is not there']];
        yield 'a picture that is none' => [[], ['3D/Textures/pattern.png' => 'GIF89a'], ['the picture pattern.png: it is no PNG, JPEG or WebP']];
        yield 'a path that leads away' => [['/3D/Textures/pattern.png' => '/3D/../../pattern.png'], null, ['the picture pattern.png: it is not there']];
        yield 'a property beyond the list' => [['p1="1"/><triangle v1="4"' => 'p1="99"/><triangle v1="4"'], null, []];
        yield 'no such group' => [['pid="6"' => 'pid="66"'], null, []];
        yield 'no such texture' => [['texid="7"' => 'texid="77"'], null, ['the picture without a name: it is not there']];
        yield 'no colour' => [['#FF0000' => 'red'], null, []];
        yield 'coordinates that are no numbers' => [['u="1" v="1"' => 'u="nan" v="1e999"'], null, []];
    }

    /**
     * @param  array<string, string>  $change
     * @param  array<string, string>|null  $files
     * @param  list<string>  $said
     */
    #[DataProvider('lies')]
    public function test_what_cannot_be_taken_over_is_named_and_the_shape_is_read(array $change, ?array $files, array $said): void
    {
        $read = $this->read($change, $files);
        self::assertSame($said, $read->leftOut);
        self::assertSame([12, true], [$read->mesh->triangleCount(), EdgeCheck::of($read->mesh)->isWatertight()]);
        foreach ($read->mesh->skin->layers ?? [] as $layer) {
            for ($t = 0; $t < 12; $t++) {
                self::assertTrue(is_finite(array_sum($layer->at($t))));
            }
        }
    }

    public function test_other_extensions_are_still_refused(): void
    {
        $this->expectException(UnreadableMesh::class);
        $this->expectExceptionMessage('requires the extension');
        $this->read(['requiredextensions="m"' => 'requiredextensions="m s" xmlns:s="http://example.test/slices"']);
    }
}
