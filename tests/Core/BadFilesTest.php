<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\Refusal;
use Isotome\Format\MeshFile;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Tests\Support\Folder;
use Tests\Support\Solids;
use ZipArchive;

/** Bad files: each is refused with one clear sentence or read, within bounds of time and memory, and never with a warning. */
final class BadFilesTest extends TestCase
{
    use Folder;

    private const SECONDS = 20.0;

    private const MEMORY = 700_000_000;

    private function mustRefuse(string $path, string $what): void
    {
        $start = hrtime(true);
        memory_reset_peak_usage();
        $before = memory_get_usage();
        try {
            MeshFile::read($path);
            self::fail("$what was read");
        } catch (Refusal $refusal) {
            $says = $refusal->getMessage();
        }
        self::assertMatchesRegularExpression('/^[A-Z][^\n\x00-\x1f]{20,300}\.$/u', $says, $what);
        self::assertStringContainsString(basename($path), $says, "$what: the file is named");
        self::assertMatchesRegularExpression('/[;:,] /', $says, "$what: and what to do");
        self::assertLessThan(self::SECONDS, (hrtime(true) - $start) / 1e9, $what);
        self::assertLessThan(self::MEMORY, memory_get_peak_usage() - $before, $what);
    }

    /** @return iterable<string, array{string, string}> ending, bytes */
    public static function broken(): iterable
    {
        $v = "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\n";
        $obj = [
            'empty' => '', 'nothing in it' => "# nothing\n", 'vertices only' => $v, 'a vertex of two numbers' => "v 1 2\n", 'a word for a number' => "v a b c\n", 'not a number' => "v NaN 0 0\n{$v}f 1 2 3\n",
            'infinite' => "v INF 0 0\n{$v}f 1 2 3\n", 'huge exponent' => "v 1e999 0 0\n{$v}f 1 2 3\n", 'beyond 32 bits' => "v 1e39 0 0\nv 0 1e39 0\nv 0 0 1e39\nf 1 2 3\n", 'index zero' => "{$v}f 0 1 2\n", 'index too high' => "{$v}f 1 2 9\n",
            'index too low' => "{$v}f -1 -2 -9\n", 'index a word' => "{$v}f 1 2 x\n", 'index a fraction' => "{$v}f 1.5 2 3\n", 'index of twenty digits' => "{$v}f 1 2 99999999999999999999\n", 'face before its vertices' => "f 1 2 3\n$v",
            'face of two' => "{$v}f 1 2\n", 'face of none' => "{$v}f \n", 'binary' => "v 0 0 0\n\0\0\0\1", 'all corners one' => "{$v}f 1 1 1\n", 'all places one' => "v 1 1 1\nv 1 1 1\nv 1 1 1\nf 1 2 3\n",
            'hexadecimal' => "v 0x10 0 0\n{$v}f 1 2 3\n", 'a comma for a point' => "v 1,5 0 0\n{$v}f 1 2 3\n", 'another format' => "solid a\nendsolid a\n",
        ];
        foreach ($obj as $what => $bytes) {
            yield "obj: $what" => ['obj', $bytes];
        }
        $off = [
            'empty' => '', 'no word' => "hello\n", 'no counts' => "OFF\n", 'one count' => "OFF\n3\n", 'negative counts' => "OFF\n-3 -1 0\n", 'counts of ten digits' => "OFF\n9999999999 1 0\n", 'many promised' => "OFF\n900000000 900000000 0\n0 0 0\n",
            'too few vertices' => "OFF\n3 1 0\n0 0 0\n1 0 0\n", 'too few faces' => "OFF\n3 2 0\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n", 'short face' => "OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n3 0 1\n", 'index too high' => "OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n3 0 1 3\n",
            'negative index' => "OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n3 0 1 -1\n", 'a word for a number' => "OFF\n3 1 0\n0 0 x\n1 0 0\n0 1 0\n3 0 1 2\n", 'not a number' => "OFF\n3 1 0\n0 0 NAN\n1 0 0\n0 1 0\n3 0 1 2\n", 'vertex of two' => "OFF\n3 1 0\n0 0\n1 0 0\n0 1 0\n3 0 1 2\n",
            'no face' => "OFF\n3 0 0\n0 0 0\n1 0 0\n0 1 0\n", 'face of a million corners' => "OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n999999 0 1 2\n", 'only lines' => "OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n2 0 1\n", 'binary' => "OFF BINARY\n\0\0\0\3", 'all corners one' => "OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n3 0 0 0\n",
        ];
        foreach ($off as $what => $bytes) {
            yield "off: $what" => ['off', $bytes];
        }
        $head = static fn (string $format, int $n, int $f): string => "ply\nformat $format 1.0\nelement vertex $n\nproperty float x\nproperty float y\nproperty float z\nelement face $f\nproperty list uchar int vertex_indices\nend_header\n";
        $three = pack('g9', 0, 0, 0, 1, 0, 0, 0, 1, 0);
        $le = 'binary_little_endian';
        $ply = [
            'empty' => '', 'another word' => "plx\n", 'header without end' => "ply\nformat ascii 1.0\n", 'no format' => "ply\nelement vertex 1\nproperty float x\nend_header\n", 'unknown format' => "ply\nformat ebcdic 1.0\nend_header\n", 'nothing in it' => "ply\nformat ascii 1.0\nend_header\n",
            'a count that is a word' => "ply\nformat ascii 1.0\nelement vertex many\nend_header\n", 'negative count' => "ply\nformat ascii 1.0\nelement vertex -1\nend_header\n", 'unknown type' => "ply\nformat ascii 1.0\nelement vertex 1\nproperty quad x\nend_header\n", 'unknown line' => "ply\nformat ascii 1.0\nelephant\nend_header\n",
            'no z' => "ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nproperty float y\nend_header\n0 0\n", 'x is a list' => "ply\nformat ascii 1.0\nelement vertex 1\nproperty list uchar float x\nproperty float y\nproperty float z\nend_header\n1 0 0 0\n",
            'faces first' => "ply\nformat ascii 1.0\nelement face 1\nproperty list uchar int vertex_indices\nelement vertex 1\nproperty float x\nproperty float y\nproperty float z\nend_header\n3 0 0 0\n0 0 0\n", 'faces without corners' => "ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty int a\nend_header\n0 0 0\n1\n",
            'text cut short' => $head('ascii', 3, 1)."0 0 0\n1 0 0\n", 'text of short lines' => $head('ascii', 3, 1)."0 0\n1 0\n0 1\n3 0 1 2\n", 'text with words' => $head('ascii', 3, 1)."0 0 zero\n1 0 0\n0 1 0\n3 0 1 2\n", 'short list' => $head('ascii', 3, 1)."0 0 0\n1 0 0\n0 1 0\n3 0 1\n", 'negative list' => $head('ascii', 3, 1)."0 0 0\n1 0 0\n0 1 0\n-3 0 1 2\n",
            'index too high' => $head('ascii', 3, 1)."0 0 0\n1 0 0\n0 1 0\n3 0 1 3\n", 'negative index' => $head('ascii', 3, 1)."0 0 0\n1 0 0\n0 1 0\n3 0 1 -2\n", 'bytes cut short' => $head($le, 3, 1).$three, 'no bytes' => $head($le, 3, 1), 'many promised' => $head($le, 900_000_000, 900_000_000).$three, 'many promised in text' => $head('ascii', 900_000_000, 1)."0 0 0\n",
            'index too high in bytes' => $head($le, 3, 1).$three.pack('CV3', 3, 0, 1, 7), 'negative index in bytes' => $head($le, 3, 1).$three.pack('CV3', 3, 0, 1, 0xFFFFFFFF), 'not a number in bytes' => $head($le, 3, 1).pack('g9', NAN, 0, 0, 1, 0, 0, 0, 1, 0).pack('CV3', 3, 0, 1, 2), 'infinite in bytes' => $head($le, 3, 1).pack('g9', INF, 0, 0, 1, 0, 0, 0, 1, 0).pack('CV3', 3, 0, 1, 2),
            'a list of two milliards' => "ply\nformat $le 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uint int vertex_indices\nend_header\n$three".pack('V', 0x7FFFFFFF), 'a list of minus one' => "ply\nformat $le 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list int int vertex_indices\nend_header\n$three".pack('V', 0xFFFFFFFF),
            'no face' => $head('ascii', 3, 0)."0 0 0\n1 0 0\n0 1 0\n", 'all corners one' => $head('ascii', 3, 1)."0 0 0\n1 0 0\n0 1 0\n3 1 1 1\n", 'a thousand and more header lines' => "ply\nformat ascii 1.0\n".str_repeat("comment x\n", 2000),
        ];
        foreach ($ply as $what => $bytes) {
            yield "ply: $what" => ['ply', $bytes];
        }
    }

    #[DataProvider('broken')]
    public function test_broken_text_and_binary_files_are_refused(string $ending, string $bytes): void
    {
        $this->mustRefuse($this->file("bad.$ending", $bytes), "the $ending file");
    }

    /** @return iterable<string, array{string}> the model part */
    public static function models(): iterable
    {
        $mesh = '<mesh><vertices><vertex x="0" y="0" z="0"/><vertex x="1" y="0" z="0"/><vertex x="0" y="1" z="0"/></vertices><triangles><triangle v1="0" v2="1" v3="2"/></triangles></mesh>';
        $model = static fn (string $resources, string $build = '<item objectid="1"/>', string $more = ''): string => "<?xml version=\"1.0\"?><model unit=\"millimeter\" $more xmlns=\"http://schemas.microsoft.com/3dmanufacturing/core/2015/02\"><resources>$resources</resources><build>$build</build></model>";
        yield 'empty' => [''];
        yield 'no XML' => ['hello'];
        yield 'cut short' => [substr($model("<object id=\"1\">$mesh</object>"), 0, 200)];
        yield 'tags that cross' => [str_replace('</mesh>', '</mash>', $model("<object id=\"1\">$mesh</object>"))];
        yield 'builds nothing' => [$model("<object id=\"1\">$mesh</object>", '')];
        yield 'builds what is not there' => [$model("<object id=\"1\">$mesh</object>", '<item objectid="7"/>')];
        yield 'an object twice' => [$model("<object id=\"1\">$mesh</object><object id=\"1\">$mesh</object>")];
        yield 'an object without a mesh' => [$model('<object id="1"/>')];
        yield 'a component of itself' => [$model('<object id="1"><components><component objectid="1"/></components></object>')];
        yield 'components in a circle' => [$model('<object id="1"><components><component objectid="2"/></components></object><object id="2"><components><component objectid="1"/></components></object>')];
        yield 'a component that is not there' => [$model('<object id="1"><components><component objectid="9"/></components></object>')];
        yield 'a transform of eleven numbers' => [$model("<object id=\"1\">$mesh</object>", '<item objectid="1" transform="1 0 0 0 1 0 0 0 1 0 0"/>')];
        yield 'a transform of words' => [$model("<object id=\"1\">$mesh</object>", '<item objectid="1" transform="a b c d e f g h i j k l"/>')];
        yield 'a transform that is not finite' => [$model("<object id=\"1\">$mesh</object>", '<item objectid="1" transform="1e999 0 0 0 1 0 0 0 1 0 0 0"/>')];
        yield 'an index too high' => [$model('<object id="1">'.str_replace('v3="2"', 'v3="3"', $mesh).'</object>')];
        yield 'a negative index' => [$model('<object id="1">'.str_replace('v3="2"', 'v3="-1"', $mesh).'</object>')];
        yield 'a missing index' => [$model('<object id="1">'.str_replace('v3="2"', '', $mesh).'</object>')];
        yield 'a coordinate that is a word' => [$model('<object id="1">'.str_replace('x="1"', 'x="one"', $mesh).'</object>')];
        yield 'a coordinate missing' => [$model('<object id="1">'.str_replace('x="1" ', '', $mesh).'</object>')];
        yield 'an unknown unit' => [str_replace('millimeter', 'cubit', $model("<object id=\"1\">$mesh</object>"))];
        yield 'a required extension' => [$model("<object id=\"1\">$mesh</object>", '<item objectid="1"/>', 'requiredextensions="b"')];
        yield 'an external entity' => ['<?xml version="1.0"?><!DOCTYPE model [<!ENTITY x SYSTEM "file:///etc/passwd">]>'.substr($model("<object id=\"1\" name=\"&x;\">$mesh</object>"), 21)];
        yield 'entities within entities' => ['<?xml version="1.0"?><!DOCTYPE m [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;">]>'.substr($model("<object id=\"1\" name=\"&c;\">$mesh</object>"), 21)];
        yield 'an entity in UTF-16' => ["\xFF\xFE".mb_convert_encoding('<?xml version="1.0" encoding="UTF-16"?><!DOCTYPE m [<!ENTITY x SYSTEM "file:///etc/passwd">]>'.substr($model("<object id=\"1\">$mesh</object>"), 21), 'UTF-16LE')];
        yield 'a vertex outside an object' => [$model('<vertex x="0" y="0" z="0"/>')];
        yield 'no triangles' => [$model('<object id="1"><mesh><vertices/><triangles/></mesh></object>')];
        $deep = '';
        for ($n = 1; $n < 60; $n++) {
            $deep .= "<object id=\"$n\"><components><component objectid=\"".($n + 1).'"/></components></object>';
        }
        yield 'components nested sixty deep' => [$model("$deep<object id=\"60\">$mesh</object>")];
        $wide = '';
        for ($n = 1; $n < 12; $n++) {
            $wide .= "<object id=\"$n\"><components>".str_repeat('<component objectid="'.($n + 1).'"/>', 10).'</components></object>';
        }
        yield 'ten to the eleventh components' => [$model("$wide<object id=\"12\">$mesh</object>")];
    }

    #[DataProvider('models')]
    public function test_broken_3mf_models_are_refused(string $model): void
    {
        $this->mustRefuse(FormatsTest::threeMf($this->path('bad.3mf'), $model), 'the model');
    }

    public function test_archives_that_unpack_to_far_too_much_are_refused(): void
    {
        $zip = new ZipArchive;
        $zip->open($this->path('bomb.3mf'), ZipArchive::CREATE);
        $spaces = $this->file('spaces', '<?xml version="1.0"?><model>');
        $file = fopen($spaces, 'ab');
        self::assertIsResource($file);
        for ($n = 0; $n < 600; $n++) {
            fwrite($file, str_repeat(' ', 1 << 20));
        }
        fclose($file);
        $zip->addFile($spaces, '3D/3dmodel.model');
        $zip->close();
        self::assertLessThan(1_000_000, filesize($this->path('bomb.3mf')));
        $this->mustRefuse($this->path('bomb.3mf'), 'the archive');
    }

    public function test_archives_that_are_none_or_point_elsewhere_are_refused(): void
    {
        $this->mustRefuse($this->file('text.3mf', 'hello, this is no archive'), 'text');
        $this->mustRefuse($this->file('empty.3mf', ''), 'nothing');
        foreach (['/../../etc/passwd', '/3D/other.model', 'http://localhost/3dmodel.model'] as $target) {
            $zip = new ZipArchive;
            $zip->open($this->path('else.3mf'), ZipArchive::CREATE | ZipArchive::OVERWRITE);
            $zip->addFromString('_rels/.rels', "<Relationships><Relationship Target=\"$target\" Type=\"http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel\"/></Relationships>");
            $zip->addFromString('3D/readme.txt', 'nothing');
            $zip->close();
            $this->mustRefuse($this->path('else.3mf'), $target);
        }
        $whole = (string) file_get_contents(FormatsTest::threeMf($this->path('cut.3mf'), '<model/>'));
        $this->mustRefuse($this->file('cut.3mf', substr($whole, 0, intdiv(strlen($whole), 2))), 'an archive cut short');
    }

    /** @return iterable<string, array{\Closure(array<mixed>): array<mixed>, string}> a change of the description, and of the data */
    public static function glbs(): iterable
    {
        $with = static fn (string $list, string $key, mixed $value): \Closure => static function (array $json) use ($list, $key, $value): array {
            $json[$list][0][$key] = $value;

            return $json;
        };
        $same = static fn (array $json): array => $json;
        yield 'nothing in the buffer' => [$same, ''];
        foreach (['a count beyond the data' => ['count', 1000], 'a negative count' => ['count', -1], 'a count that is a word' => ['count', 'many'], 'an unknown component' => ['componentType', 9], 'places of bytes' => ['componentType', 5121], 'a matrix for places' => ['type', 'MAT4'],
            'no view' => ['bufferView', null], 'a view that is not there' => ['bufferView', 9], 'a negative offset' => ['byteOffset', -4], 'an offset beyond' => ['byteOffset', 1 << 40], 'sparse' => ['sparse', ['count' => 1]]] as $what => [$key, $value]) {
            yield $what => [$with('accessors', $key, $value), 'box'];
        }
        foreach (['a view beyond the data' => ['byteOffset', 1 << 30], 'a stride of one' => ['byteStride', 1], 'a view of another buffer' => ['buffer', 3], 'a view too short' => ['byteLength', 4]] as $what => [$key, $value]) {
            yield $what => [$with('bufferViews', $key, $value), 'box'];
        }
        yield 'data in another file' => [$with('buffers', 'uri', '../../etc/passwd'), 'box'];
        yield 'data on another host' => [$with('buffers', 'uri', 'http://localhost/secret.bin'), 'box'];
        yield 'a node of itself' => [$with('nodes', 'children', [0]), 'box'];
        yield 'a node that is not there' => [$with('nodes', 'children', [5]), 'box'];
        yield 'a mesh that is not there' => [$with('nodes', 'mesh', 5), 'box'];
        yield 'a matrix of fifteen' => [$with('nodes', 'matrix', array_fill(0, 15, 1)), 'box'];
        yield 'a scale of words' => [$with('nodes', 'scale', ['a', 'b', 'c']), 'box'];
        yield 'a scale beyond all numbers' => [$with('nodes', 'scale', [1e300, 1e300, 1e300]), 'box'];
        yield 'no primitives' => [$with('meshes', 'primitives', []), 'box'];
        yield 'primitives of words' => [$with('meshes', 'primitives', ['a']), 'box'];
        yield 'lines only' => [static function (array $json): array {
            foreach ($json['meshes'][0]['primitives'] as $n => $_) {
                $json['meshes'][0]['primitives'][$n]['mode'] = 1;
            }

            return $json;
        }, 'box'];
        yield 'compressed' => [static fn (array $json): array => [...$json, 'extensionsRequired' => ['KHR_draco_mesh_compression']], 'box'];
        yield 'no scene' => [static fn (array $json): array => ['asset' => $json['asset']], 'box'];
    }

    /** @param  \Closure(array<mixed>): array<mixed>  $change */
    #[DataProvider('glbs')]
    public function test_broken_glb_descriptions_are_refused(\Closure $change, string $data): void
    {
        MeshFile::write(Solids::box(1, 2, 3), $this->path('good.glb'), 'box');
        $bytes = (string) file_get_contents($this->path('good.glb'));
        $length = self::word($bytes, 12);
        $json = (string) json_encode($change((array) json_decode(substr($bytes, 20, $length), true)), JSON_PARTIAL_OUTPUT_ON_ERROR);
        $json .= str_repeat(' ', (4 - strlen($json) % 4) % 4);
        $binary = $data === '' ? '' : substr($bytes, 28 + $length);
        $this->mustRefuse($this->file('bad.glb', 'glTF'.pack('V2', 2, 28 + strlen($json) + strlen($binary)).pack('V', strlen($json)).'JSON'.$json.pack('V', strlen($binary))."BIN\0".$binary), 'the description');
    }

    private static function word(string $bytes, int $at): int
    {
        return ord($bytes[$at]) | ord($bytes[$at + 1]) << 8 | ord($bytes[$at + 2]) << 16 | ord($bytes[$at + 3]) << 24;
    }

    public function test_broken_glb_frames_are_refused(): void
    {
        MeshFile::write(Solids::box(1, 2, 3), $this->path('good.glb'), 'box');
        $good = (string) file_get_contents($this->path('good.glb'));
        foreach ([
            'empty' => '', 'a word' => 'hello', 'only the head' => substr($good, 0, 12), 'another word' => 'glTX'.substr($good, 4), 'version 1' => substr_replace($good, pack('V', 1), 4, 4), 'length beyond' => substr_replace($good, pack('V', strlen($good) + 4), 8, 4),
            'chunk beyond' => substr_replace($good, pack('V', 0x7FFFFFFF), 12, 4), 'no JSON' => substr_replace($good, 'XXXX', 20, 4), 'cut short' => substr($good, 0, strlen($good) - 40), 'JSON nested deep' => 'glTF'.pack('V2', 2, 20 + 4000).pack('V', 4000).'JSON'.str_repeat('[', 2000).str_repeat(']', 2000),
        ] as $what => $bytes) {
            $this->mustRefuse($this->file('bad.glb', $bytes), $what);
        }
    }

    /** @return iterable<string, array{string, int}> */
    public static function endings(): iterable
    {
        foreach (MeshFile::FORMATS as $n => $format) {
            yield $format => [$format, 600 + $n];
        }
    }

    /** Bytes changed, cut, doubled or swapped at random: refused with a sentence, or read; nothing else. */
    #[DataProvider('endings')]
    public function test_random_damage_is_refused_or_read(string $format, int $seed): void
    {
        MeshFile::write(Solids::torus(20, 7, 12, 8), $this->path("good.$format"), 'torus');
        $good = (string) file_get_contents($this->path("good.$format"));
        $random = new Randomizer(new Mt19937($seed));
        $refused = 0;
        for ($n = 0; $n < 60; $n++) {
            $bytes = $good;
            for ($k = $random->getInt(1, 6); $k > 0; $k--) {
                $at = $random->getInt(0, strlen($bytes) - 1);
                $bytes = match ($random->getInt(0, 4)) {
                    0 => substr_replace($bytes, chr($random->getInt(0, 255)), $at, 1),
                    1 => substr_replace($bytes, $random->getBytes(4), $at, 4),
                    2 => substr($bytes, 0, $at).substr($bytes, min(strlen($bytes), $at + $random->getInt(1, 50))),
                    3 => substr_replace($bytes, substr($bytes, $at, 20), $random->getInt(0, strlen($bytes) - 1), 0),
                    default => substr_replace($bytes, "\xFF\xFF\xFF\x7F", $at, 4),
                };
                $bytes = $bytes === '' ? 'x' : $bytes;
            }
            $path = $this->file("damaged-$n.$format", $bytes);
            $start = hrtime(true);
            try {
                self::assertFalse(MeshFile::read($path)->mesh->isEmpty());
            } catch (Refusal $refusal) {
                $refused++;
                self::assertMatchesRegularExpression('/^[A-Z][^\n]{20,400}\.$/u', $refusal->getMessage(), "damage $n");
            }
            self::assertLessThan(self::SECONDS, (hrtime(true) - $start) / 1e9, "damage $n");
            unlink($path);
        }
        self::assertGreaterThan(0, $refused);
    }
}
