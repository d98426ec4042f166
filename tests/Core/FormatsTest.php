<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Section;
use Isotome\Cut\SectionDrawing;
use Isotome\Exception\BadCommand;
use Isotome\Format\GlbWriter;
use Isotome\Format\MeshFile;
use Isotome\Format\PolygonFaces;
use Isotome\Format\Units;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Faces;
use Tests\Support\Folder;
use Tests\Support\Solids;
use ZipArchive;

/** What is written is read again, in every format; and each format's own ways are understood. */
final class FormatsTest extends TestCase
{
    use Folder;

    /** @return iterable<string, array{string}> */
    public static function formats(): iterable
    {
        foreach (MeshFile::FORMATS as $format) {
            yield $format => [$format];
        }
    }

    #[DataProvider('formats')]
    public function test_what_is_written_reads_back_exactly(string $format): void
    {
        foreach (['torus, one handle', 'hollow ball with a ball in the cavity', 'table on nine legs', 'torus a kilometre away', 'millstone'] as $name) {
            $mesh = FlatCut::of(Bodies::named($name), new FlatBlade(Plane::through(Box::of(Bodies::named($name)->xyz)->size(), [0.3, 0.2, 1.0])), 1)->bodies[0] ?? Bodies::named($name);
            $path = $this->path("piece.$format");
            $held = MeshFile::write($mesh, $path, $name);
            $read = MeshFile::read($path);
            self::assertTrue(EdgeCheck::of($read->mesh)->isWatertight(), "$name is watertight in the file");
            self::assertSame([$held->triangleCount(), $held->vertexCount()], [$read->mesh->triangleCount(), $read->mesh->vertexCount()], $name);
            self::assertSame(self::places($held), self::places($read->mesh), $name);
            // A kilometre from the origin 32-bit floats are sixteenths of a millimetre apart.
            self::assertEqualsWithDelta(Volume::of($mesh), Volume::of($read->mesh), (str_contains($name, 'kilometre') ? 1e-3 : 1e-5) * Volume::of($mesh), $name);
            $again = $this->path("again.$format");
            MeshFile::write($mesh, $again, $name);
            self::assertFileEquals($path, $again, 'the same piece gives the same bytes');
        }
    }

    /** @return list<string> corners of all triangles in order, by place */
    private static function places(Mesh $mesh): array
    {
        $all = [];
        for ($i = 0; $i < count($mesh->corners); $i += 3) {
            $points = [];
            for ($k = 0; $k < 3; $k++) {
                $points[] = implode(' ', array_slice($mesh->xyz, 3 * $mesh->corners[$i + $k], 3));
            }
            $first = (int) array_search(min($points), $points, true);
            $all[] = implode('|', [...array_slice($points, $first), ...array_slice($points, 0, $first)]);
        }
        sort($all);

        return $all;
    }

    #[DataProvider('formats')]
    public function test_neighbours_have_identical_places_on_their_common_face_in_the_files(string $format): void
    {
        $outcome = FlatCut::of(Solids::moved(Solids::torus(20, 7, 40, 24), 0.3, 0.2, 0.1, 1.0, [130.0, 40.0, 7.0]), new FlatBlade(Plane::through([131.0, 42.0, 7.0], [0.3, 0.2, 1.0])), 1);
        self::assertNotNull($outcome);
        $step = GlbWriter::step($outcome->bodies);
        $read = [];
        foreach ($outcome->bodies as $n => $body) {
            MeshFile::write($body, $this->path("$n.$format"), "piece $n", '#8f9a86', $step);
            $mesh = MeshFile::read($this->path("$n.$format"))->mesh;
            $plane = Plane::through([131.0, 42.0, 7.0], [0.3, 0.2, 1.0]);
            $tags = [];
            for ($i = 0; $i < count($mesh->corners); $i += 3) {
                $on = true;
                for ($k = $i; $k < $i + 3; $k++) {
                    $v = 3 * $mesh->corners[$k];
                    $on = $on && abs($plane->nx * $mesh->xyz[$v] + $plane->ny * $mesh->xyz[$v + 1] + $plane->nz * $mesh->xyz[$v + 2] - $plane->offset) < 2e-5;
                }
                $tags[] = $on ? 1 : 0;
            }
            $read[] = Mesh::of($mesh->xyz, $mesh->corners, $tags);
        }
        self::assertSame(0, Faces::withoutTwin($read, 1));
        self::assertGreaterThan(10, array_sum($read[0]->tags));
    }

    /** @return iterable<string, array{string}> */
    public static function scenes(): iterable
    {
        yield 'obj' => ['obj'];
        yield '3mf' => ['3mf'];
        yield 'glb' => ['glb'];
    }

    #[DataProvider('scenes')]
    public function test_several_pieces_in_one_file_keep_their_names_and_stay_apart(string $format): void
    {
        $outcome = FlatCut::of(Solids::torus(20, 7, 40, 24), new FlatBlade(Plane::through([1.0, 0.0, 0.0], [1.0, 0.0, 0.0])), 1);
        $pieces = [];
        foreach ($outcome->bodies ?? [] as $n => $body) {
            $pieces["jar <$n> & \"co\""] = ['mesh' => $body, 'colour' => '#123456'];
        }
        self::assertGreaterThan(1, count($pieces));
        MeshFile::writeAll($pieces, $this->path("all.$format"));
        $read = MeshFile::read($this->path("all.$format"));
        self::assertSame($format === 'obj' ? array_map(static fn (string $name): string => str_replace(' ', '_', $name), array_keys($pieces)) : array_keys($pieces), array_map(strval(...), array_keys($read->parts)));
        foreach ($read->parts as $part) {
            self::assertTrue(EdgeCheck::of($part)->isWatertight());
        }
        if ($format !== 'obj') {
            self::assertSame(array_sum(array_map(static fn (array $piece): int => count(array_filter($piece['mesh']->tags)), $pieces)), array_sum($read->mesh->tags), 'inside faces are told apart');
        }
    }

    public function test_an_stl_holds_one_body(): void
    {
        $this->expectException(BadCommand::class);
        MeshFile::writeAll(['a' => ['mesh' => Solids::box(1, 1, 1), 'colour' => '#000000']], $this->path('all.stl'));
    }

    public function test_polygons_of_obj_negative_numbers_groups_and_continued_lines(): void
    {
        // A box as six quads with negative indices, its sides separate groups that share vertices; a line goes on after a backslash.
        $obj = "# a box\nmtllib none.mtl\nv 0 0 0\nv 10 0 0\nv 10 20 0 1.0\nv 0 20 0\nv 0 0 30\nv 10 0 30\nv 10 20 30\nv 0 20 30\nvn 0 0 1\nvt 0 0\n"
            ."g bottom\nusemtl red\nf -8/1/1 -5//1 -6/1 -7\ng top\nf 5 6 \\\n7 8\ng sides\nf 1 2 6 5\nf 2 3 7 6\nf 3 4 8 7\nf 4 1 5 8\n";
        $read = MeshFile::read($this->file('box.obj', $obj));
        self::assertTrue(EdgeCheck::of($read->mesh)->isWatertight());
        self::assertSame([12, 8, []], [$read->mesh->triangleCount(), $read->mesh->vertexCount(), $read->parts]);
        self::assertEqualsWithDelta(6000.0, Volume::of($read->mesh), 1e-9);
        self::assertEqualsWithDelta(6000.0 * 25.4 ** 3, Volume::of(MeshFile::read($this->path('box.obj'), Units::Inches)->mesh), 1e-3);
    }

    public function test_sides_with_vertices_of_their_own_are_welded(): void
    {
        $box = Solids::box(10, 20, 30);
        $obj = '';
        for ($t = 0; $t < 12; $t++) {
            $obj .= "o side $t\n";
            for ($k = 0; $k < 3; $k++) {
                $obj .= 'v '.implode(' ', array_slice($box->xyz, 3 * $box->corners[3 * $t + $k], 3))."\n";
            }
            $obj .= "f -3 -2 -1\n";
        }
        $read = MeshFile::read($this->file('sides.obj', $obj));
        self::assertTrue(EdgeCheck::of($read->mesh)->isWatertight());
        self::assertSame([], $read->parts);
    }

    /** @return iterable<string, array{list<array{float, float}>}> */
    public static function polygons(): iterable
    {
        yield 'arrow' => [[[0.0, 0.0], [4.0, 0.0], [1.0, 1.0], [0.0, 4.0]]];
        yield 'arrow, from the dent' => [[[1.0, 1.0], [0.0, 4.0], [0.0, 0.0], [4.0, 0.0]]];
        yield 'square' => [[[0.0, 0.0], [4.0, 0.0], [4.0, 4.0], [0.0, 4.0]]];
        yield 'comb' => [[[0.0, 0.0], [7.0, 0.0], [7.0, 5.0], [6.0, 5.0], [6.0, 1.0], [5.0, 1.0], [5.0, 5.0], [4.0, 5.0], [4.0, 1.0], [3.0, 1.0], [3.0, 5.0], [0.0, 5.0]]];
        yield 'with a point on an edge' => [[[0.0, 0.0], [2.0, 0.0], [4.0, 0.0], [4.0, 4.0], [0.0, 4.0]]];
        yield 'spiral' => [[[0.0, 0.0], [9.0, 0.0], [9.0, 9.0], [2.0, 9.0], [2.0, 3.0], [6.0, 3.0], [6.0, 6.0], [5.0, 6.0], [5.0, 4.0], [3.0, 4.0], [3.0, 8.0], [8.0, 8.0], [8.0, 1.0], [0.0, 1.0]]];
    }

    /** @param  list<array{float, float}>  $points */
    #[DataProvider('polygons')]
    public function test_a_polygon_becomes_triangles_that_cover_it_once(array $points): void
    {
        foreach ([[0, 1, 2], [2, 0, 1], [1, 2, 0], [1, 0, 2]] as $axes) {
            foreach ([$points, array_reverse($points)] as $way) {
                $xyz = [];
                foreach ($way as [$x, $y]) {
                    $place = [$x, $y, 0.25 * $x - 0.5 * $y];
                    array_push($xyz, $place[$axes[0]], $place[$axes[1]], $place[$axes[2]]);
                }
                $count = count($points);
                $looks = PolygonFaces::LOOKS;
                $triangles = PolygonFaces::triangles($xyz, range(0, $count - 1), $looks);
                self::assertCount(3 * ($count - 2), $triangles);
                $mesh = Mesh::of($xyz, $triangles);
                $twice = 0.0;
                foreach ($points as $i => [$x, $y]) {
                    [$u, $v] = $points[($i + 1) % $count];
                    $twice += $x * $v - $u * $y;
                }
                // The slope of the plane stretches the area.
                self::assertEqualsWithDelta(abs($twice) / 2 * sqrt(1 + 0.25 ** 2 + 0.5 ** 2), Volume::measure($mesh)->area, 1e-9);
                // Each edge of the polygon once, in its direction.
                $edges = [];
                foreach ($triangles as $h => $a) {
                    $b = $triangles[$h % 3 === 2 ? $h - 2 : $h + 1];
                    $edges["$a-$b"] = true;
                }
                for ($i = 0; $i < $count; $i++) {
                    self::assertArrayHasKey($i.'-'.(($i + 1) % $count), $edges);
                }
            }
        }
    }

    public function test_ply_in_text_and_both_byte_orders_with_extra_properties(): void
    {
        $box = Solids::box(10, 20, 30);
        $header = static fn (string $format): string => "ply\nformat $format 1.0\ncomment made in a test\nelement sensor 1\nproperty list uchar float readings\nelement vertex 8\nproperty uchar red\nproperty float x\nproperty double y\nproperty float z\nproperty short quality\nelement face 12\nproperty uchar flags\nproperty list uchar uint vertex_index\nelement edge 0\nproperty int a\nend_header\n";
        foreach (['ascii', 'binary_little_endian', 'binary_big_endian'] as $format) {
            [$f, $d, $u, $s] = $format === 'binary_big_endian' ? ['G', 'E', 'N', 'n'] : ['g', 'e', 'V', 'v'];
            $body = $format === 'ascii' ? "2 0.5 0.25\n" : pack("C$f$f", 2, 0.5, 0.25);
            for ($v = 0; $v < 8; $v++) {
                [$x, $y, $z] = array_slice($box->xyz, 3 * $v, 3);
                $body .= $format === 'ascii' ? "200 $x $y $z -7\n" : pack("C$f$d$f$s", 200, $x, $y, $z, 65529);
            }
            for ($t = 0; $t < 12; $t++) {
                $c = array_slice($box->corners, 3 * $t, 3);
                $body .= $format === 'ascii' ? '1 3 '.implode(' ', $c)."\n" : pack("CC{$u}3", 1, 3, ...$c);
            }
            $read = MeshFile::read($this->file('box.ply', $header($format).$body));
            self::assertEquals([$box->xyz, $box->corners], [self::inOrder($read->mesh, $box), $box->corners], $format);
            self::assertEqualsWithDelta(6000.0, Volume::of($read->mesh), 1e-9, $format);
        }
    }

    /** @return list<float> the places of the other mesh's vertices, as found in this one */
    private static function inOrder(Mesh $mesh, Mesh $like): array
    {
        $xyz = array_fill(0, count($like->xyz), 0.0);
        foreach ($like->corners as $i => $v) {
            for ($k = 0; $k < 3; $k++) {
                $xyz[3 * $v + $k] = $mesh->xyz[3 * $mesh->corners[$i] + $k];
            }
        }

        return $xyz;
    }

    public function test_off_with_comments_counts_beside_the_word_and_colours(): void
    {
        $off = "OFF 4 2 0\n# a sheet\n0 0 0\n1 0 0 # a corner\n\n1 1 0\n0 1 0\n4 0 1 2 3 255 0 0\n2 0 1\n";
        self::assertSame(2, MeshFile::read($this->file('a.off', $off))->mesh->triangleCount());
    }

    public function test_3mf_units_components_and_transforms(): void
    {
        $box = Solids::box(1, 2, 3);
        $vertices = $triangles = '';
        foreach (array_chunk($box->xyz, 3) as [$x, $y, $z]) {
            $vertices .= "<vertex x=\"$x\" y=\"$y\" z=\"$z\"/>";
        }
        foreach (array_chunk($box->corners, 3) as [$a, $b, $c]) {
            $triangles .= "<triangle v1=\"$a\" v2=\"$b\" v3=\"$c\"/>";
        }
        $model = '<?xml version="1.0"?><model unit="inch" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><resources>'
            ."<object id=\"1\" name=\"block\"><mesh><vertices>$vertices</vertices><triangles>$triangles</triangles></mesh></object>"
            .'<object id="2" name="pair"><components><component objectid="1"/><component objectid="1" transform="0 1 0 -1 0 0 0 0 1 10 0 0"/></components></object></resources>'
            // Mirrored in x: the corners' order turns with it.
            .'<build><item objectid="2" transform="-1 0 0 0 1 0 0 0 1 0 0 5"/><item objectid="1" transform="1 0 0 0 1 0 0 0 1 -20 0 0"/></build></model>';
        $read = MeshFile::read(self::threeMf($this->path('units.3mf'), $model));
        self::assertSame(['block', 'block 2', 'block 3'], array_keys($read->parts));
        self::assertEqualsWithDelta(3 * 6 * 25.4 ** 3, Volume::of($read->mesh), 1e-6);
        foreach ($read->parts as $part) {
            self::assertEqualsWithDelta(6 * 25.4 ** 3, Volume::of($part), 1e-6);
        }
    }

    public static function threeMf(string $path, string $model): string
    {
        $zip = new ZipArchive;
        $zip->open($path, ZipArchive::CREATE | ZipArchive::OVERWRITE);
        $zip->addFromString('_rels/.rels', '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="r" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>');
        $zip->addFromString('3D/3dmodel.model', $model);
        $zip->close();

        return $path;
    }

    public function test_a_box_of_100_millimetres_is_a_tenth_of_a_metre_in_glb_and_stands_upright(): void
    {
        MeshFile::write(Solids::box(100, 200, 300), $this->path('box.glb'), 'box');
        $bytes = (string) file_get_contents($this->path('box.glb'));
        /** @var array{1: int} $length */
        $length = unpack('V', $bytes, 12);
        $json = json_decode(substr($bytes, 20, $length[1]), true, flags: JSON_THROW_ON_ERROR);
        $accessor = $json['accessors'][0];
        self::assertEqualsWithDelta([0.1, 0.3, 0.2], array_map(static fn (float $a, float $b): float => $a - $b, $accessor['max'], $accessor['min']), 1e-6);
        $centroid = Volume::measure(Solids::box(100, 200, 300))->centroid;
        self::assertEqualsWithDelta([$centroid[0] / 1000, $centroid[2] / 1000, -$centroid[1] / 1000], $json['nodes'][0]['translation'], 1e-6);
        self::assertSame('box', $json['nodes'][0]['name']);
    }

    public function test_glb_node_transforms_strips_and_strides(): void
    {
        // A tetrahedron as a strip, 16 bytes a vertex, in a node that is scaled, turned about x and moved, inside a mirrored one.
        $binary = '';
        foreach ([[0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 0, 1]] as $p) {
            $binary .= pack('g4', $p[0], $p[1], $p[2], 9.0);
        }
        $binary .= pack('C8', 0, 2, 1, 3, 0, 2, 0, 0);
        $json = (string) json_encode([
            'asset' => ['version' => '2.0'], 'nodes' => [
                ['children' => [1], 'matrix' => [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]],
                ['mesh' => 0, 'scale' => [2, 2, 2], 'rotation' => [M_SQRT1_2, 0, 0, M_SQRT1_2], 'translation' => [0, 0, 3]],
            ],
            'meshes' => [['name' => 'tooth', 'primitives' => [['mode' => 5, 'attributes' => ['POSITION' => 0], 'indices' => 1]]]],
            'accessors' => [['bufferView' => 0, 'componentType' => 5126, 'type' => 'VEC3', 'count' => 4], ['bufferView' => 1, 'componentType' => 5121, 'type' => 'SCALAR', 'count' => 6]],
            'bufferViews' => [['buffer' => 0, 'byteLength' => 64, 'byteStride' => 16], ['buffer' => 0, 'byteOffset' => 64, 'byteLength' => 8]],
            'buffers' => [['byteLength' => strlen($binary)]],
        ]);
        $json .= str_repeat(' ', (4 - strlen($json) % 4) % 4);
        $file = 'glTF'.pack('V2', 2, 28 + strlen($json) + strlen($binary)).pack('V', strlen($json)).'JSON'.$json.pack('V', strlen($binary))."BIN\0".$binary;
        $mesh = MeshFile::read($this->file('tooth.glb', $file))->mesh;
        self::assertTrue(EdgeCheck::of($mesh)->isWatertight());
        self::assertEqualsWithDelta(8e9 / 6, Volume::of($mesh), 1.0);
    }

    public function test_drawings_are_true_to_scale(): void
    {
        $tube = Solids::together(Solids::box(40, 30, 20), Solids::insideOut(Solids::box(20, 10, 10, [10.0, 10.0, 5.0])));
        $section = Section::of($tube, Plane::through([0.0, 0.0, 10.0], [0.0, 0.0, 1.0]));
        $svg = simplexml_load_string(SectionDrawing::svg($section));
        self::assertNotFalse($svg);
        self::assertSame(['44mm', '34mm', '0 0 44 34'], [(string) $svg['width'], (string) $svg['height'], (string) $svg['viewBox']]);
        self::assertSame(2, substr_count((string) $svg->path['d'], 'Z'));
        $dxf = explode("\r\n", SectionDrawing::dxf($section));
        self::assertSame(2, count(array_keys($dxf, 'POLYLINE', true)));
        self::assertSame(16, count(array_keys($dxf, 'VERTEX', true)));
        self::assertSame(['0', 'EOF', ''], array_slice($dxf, -3));
        // Codes and values alternate, and every code is a number.
        for ($i = 0; $i + 1 < count($dxf); $i += 2) {
            self::assertMatchesRegularExpression('/^\d+$/', $dxf[$i]);
        }
    }
}
