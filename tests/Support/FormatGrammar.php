<?php

declare(strict_types=1);

namespace Tests\Support;

use Random\Engine\Mt19937;
use Random\Randomizer;
use ZipArchive;

/**
 * Files of every format made from its grammar, with what an attacker would write into each place: counts that lie, references in
 * circles, one mesh shown many times, names and numbers without end. Most of them hold together enough to be read far.
 */
final class FormatGrammar
{
    private Randomizer $r;

    /** Share of numbers that are none: most files have none, so that they are read to their end. */
    private float $bad;

    /** @param  int  $largest  bytes, roughly */
    public function __construct(int $seed, private readonly int $largest = 200_000)
    {
        $this->r = new Randomizer(new Mt19937($seed));
        $this->bad = $this->one([0.0, 0.0, 0.0, 0.0001, 0.003]);
    }

    public function file(string $format): string
    {
        $bytes = match ($format) {
            'stl' => $this->stl(), 'obj' => $this->obj(), 'ply' => $this->ply(), 'off' => $this->off(), '3mf' => $this->threeMf(), default => $this->glb(),
        };

        // Now and then bytes are damaged as well, in an archive beneath the compression, see threeMf.
        return $format !== '3mf' && $this->chance($this->bad === 0.0 ? 0.05 : 0.4) ? $this->damaged($bytes) : $bytes;
    }

    private function chance(float $share): bool
    {
        return $this->r->getInt(0, 999_999) < 1_000_000 * $share;
    }

    /**
     * @template T
     *
     * @param  non-empty-list<T>  $list
     * @return T
     */
    private function one(array $list): mixed
    {
        return $list[$this->r->getInt(0, count($list) - 1)];
    }

    /** Small mostly, as much as fits now and then. */
    private function many(int $bytesEach): int
    {
        $most = max(3, intdiv($this->largest, $bytesEach));

        return match ($this->r->getInt(0, 9)) {
            0 => $this->r->getInt(0, 2), 1, 2 => $this->r->getInt(min(3, $most), $most), 3 => $most, default => $this->r->getInt(3, min($most, 60)),
        };
    }

    private function number(): string
    {
        if ($this->chance($this->bad)) {
            return $this->one(['nan', 'inf', '-inf', '1e999', '1e-999', '1e39', '0x10', '', '1,5', '1.2.3', '-0', '+7', '٣', str_repeat('9', 400), '1e'.str_repeat('9', 300), "1\0", '1e308', '-1e308', '.', '-']);
        }

        return $this->one(['0', '1', (string) $this->r->getInt(-20, 20), sprintf('%.4f', $this->r->getInt(-9999, 9999) / 1000), sprintf('%.9e', $this->r->getInt(-99999, 99999) / 7)]);
    }

    private function count(int $true): string
    {
        return $this->chance(min(0.06, 200 * $this->bad)) ? $this->one(['0', '-1', '999999999', '2147483647', '4294967295', '99999999999999999999', '1e9', 'x', '', (string) ($true + 1), (string) max(0, $true - 1)]) : (string) $true;
    }

    private function index(int $vertices, int $base = 0): int
    {
        return $this->chance($this->bad / 4) ? $this->one([-1, $vertices + $base, 2147483647, -2147483648, PHP_INT_MAX]) : $base + $this->r->getInt(0, max(0, $vertices - 1));
    }

    private function name(): string
    {
        return match ($this->r->getInt(0, 11)) {
            0 => '', 1 => str_repeat('水車', 2000), 2 => "\xff\xfe\x80", 3 => '../../../etc/passwd', 4 => "a\0b", 5 => str_repeat('n', min($this->largest, 100_000)), 6 => '"<&>\'', default => 'part'.$this->r->getInt(1, 5),
        };
    }

    /** @return list<int> corners of one face: a few mostly, thousands in no order now and then */
    private function polygon(int $vertices, int $base = 0): array
    {
        $corners = [];
        $n = $this->chance(0.01) ? $this->r->getInt(5, min(4000, 3 + intdiv($this->largest, 40))) : $this->one($this->bad > 0 ? [3, 3, 3, 4, 4, 5, 6, 9, 2, 1, 0] : [3, 3, 3, 4, 4, 5, 6, 9]);
        $start = $this->r->getInt(0, max(0, $vertices - 1));
        $isInOrder = $this->chance(0.5);
        for ($k = 0; $k < $n; $k++) {
            $corners[] = $isInOrder && $vertices > 0 ? $base + ($start + $k) % $vertices : $this->index($vertices, $base);
        }

        return $corners;
    }

    private function stl(): string
    {
        $n = $this->many(50);
        if ($this->chance(0.5)) {
            $bytes = str_pad($this->one(['', 'solid x', 'binary']), 80, $this->one([' ', "\0"])).pack('V', (int) $this->count($n));
            $points = [];
            for ($i = 0; $i < 40; $i++) {
                $points[] = pack('g3', (float) $this->number(), (float) $this->number(), (float) $this->number());
            }
            for ($t = 0; $t < $n; $t++) {
                $bytes .= pack('g3', 0, 0, 0).$this->one($points).$this->one($points).$this->one($points)."\0\0";
            }

            return $this->chance(0.1) ? substr($bytes, 0, -$this->r->getInt(1, 60)) : $bytes;
        }
        $lines = ['solid '.$this->name()];
        for ($t = 0, $n = $this->many(160); $t < $n; $t++) {
            $lines[] = 'facet normal 0 0 '.$this->number();
            $lines[] = 'outer loop';
            for ($k = $this->chance($this->bad) ? 4 : 3; $k > 0; $k--) {
                $lines[] = "vertex {$this->number()} {$this->number()} {$this->number()}".($this->chance($this->bad) ? ' 1' : '');
            }
            array_push($lines, 'endloop', $this->chance($this->bad) ? 'endsolid' : 'endfacet');
        }
        $lines[] = 'endsolid';

        return implode($this->one(["\n", "\r\n", "\n\n", ' ']), $lines);
    }

    private function obj(): string
    {
        $lines = [];
        $n = $this->many(24);
        for ($v = 0; $v < $n; $v++) {
            $lines[] = "v {$this->number()} {$this->number()} {$this->number()}";
        }
        $left = $this->largest;
        for ($f = $this->many(20); $f > 0 && $left > 0; $f--) {
            if ($this->chance(0.02)) {
                $lines[] = $this->one(['g ', 'o ', 'usemtl ', 'mtllib ', 's ', 'vt 0 ', 'vn 0 ', 'curv ', '# ']).$this->name();
            }
            $face = 'f';
            foreach ($this->polygon($n, 1) as $v) {
                $face .= ' '.($this->chance(0.1) && $v > 0 && $v <= $n ? $v - $n - 1 : $v).$this->one(['', '', '/1', '//1', '/1/1']);
            }
            $left -= strlen($face);
            $lines[] = $face.($this->chance($this->bad) ? ' \\' : '');
        }

        return implode("\n", $lines).$this->one(["\n", '']);
    }

    private function off(): string
    {
        $n = $this->many(24);
        $f = $this->many(12);
        $lines = [$this->one(['OFF', 'OFF', 'COFF', 'STOFF', 'OFF BINARY', '']), $this->count($n).' '.$this->count($f).' 0'];
        for ($v = 0; $v < $n; $v++) {
            $lines[] = "{$this->number()} {$this->number()} {$this->number()}".($this->chance(0.1) ? ' 255 0 0 # red' : '');
        }
        for ($left = $this->largest; $f > 0 && $left > 0; $f--) {
            $polygon = $this->polygon($n);
            $lines[] = $line = $this->count(count($polygon)).' '.implode(' ', $polygon);
            $left -= strlen($line);
        }

        return implode($this->one(["\n", "\n", "\r\n", "\n\n"]), $lines);
    }

    private function ply(): string
    {
        $format = $this->one(['ascii', 'binary_little_endian', 'binary_big_endian']);
        $n = $this->many(12);
        $f = $this->many(13);
        $count = $this->one(['uchar', 'uchar', 'int', 'uint', 'ushort']);
        $head = "ply\nformat $format 1.0\n";
        $body = '';
        if ($this->chance(0.2)) {
            $head .= 'element '.$this->name().' '.$this->one(['0', '3', '999999999'])."\n";
            $body .= $this->chance(0.5) ? "1\n2\n3\n" : '';
            $head .= $this->chance(0.5) ? "property uchar a\n" : '';
        }
        $extra = $this->chance(0.3) ? $this->one(['property uchar red', 'property list uchar float w', 'property double quality']) : '';
        $head .= "element vertex {$this->count($n)}\nproperty float x\nproperty float y\nproperty float z\n".($extra === '' ? '' : "$extra\n");
        $head .= "element face {$this->count($f)}\nproperty list $count int ".$this->one(['vertex_indices', 'vertex_index', 'vertex_indices', 'corners'])."\nend_header\n";
        $little = $format === 'binary_little_endian';
        for ($v = 0; $v < $n; $v++) {
            if ($format === 'ascii') {
                $body .= "{$this->number()} {$this->number()} {$this->number()}".($extra === '' ? '' : ' 1 2')."\n";
            } else {
                $body .= pack($little ? 'g3' : 'G3', (float) $this->number(), (float) $this->number(), (float) $this->number());
                $body .= match (true) {
                    $extra === '' => '', str_contains($extra, 'list') => "\1".pack('g', 1), str_contains($extra, 'double') => pack('e', 1), default => "\7"
                };
            }
        }
        $letter = ['uchar' => 'C', 'ushort' => $little ? 'v' : 'n', 'int' => $little ? 'V' : 'N', 'uint' => $little ? 'V' : 'N'][$count];
        for ($left = $this->largest; $f > 0 && $left > 0; $f--) {
            $polygon = $this->polygon($n);
            $body .= $row = $format === 'ascii'
                ? $this->count(count($polygon)).' '.implode(' ', $polygon)."\n"
                : pack($letter, count($polygon)).pack(($little ? 'V' : 'N').'*', ...$polygon);
            $left -= strlen($row);
        }

        return $head.$body;
    }

    private function threeMf(): string
    {
        $objects = $this->one([1, 1, 2, 5, min(3000, intdiv($this->largest, 400))]);
        $n = intdiv($this->many(45), $objects) + 3;
        $xml = '';
        for ($o = 1; $o <= $objects; $o++) {
            $xml .= '<object id="'.($this->chance(0.01) ? 1 : $o).'" name="'.$this->one(['a', 'b', str_repeat('水', 500), str_repeat('n', $this->chance(0.05) ? 300_000 : 9)]).'"'.($this->chance(0.02) ? $this->attributes() : '').'>';
            if ($o > 1 && $this->chance(0.6)) {
                $xml .= '<components>';
                for ($k = $this->one([1, 2, 10, 10, 200]); $k > 0; $k--) {
                    $inner = $this->chance(0.03) ? $this->r->getInt(0, $objects + 1) : $this->one([$o - 1, $this->r->getInt(1, $o - 1)]);
                    $xml .= "<component objectid=\"$inner\"".($this->chance(0.3) ? ' transform="1 0 0 0 1 0 0 0 1 '."{$this->number()} {$this->number()} {$this->number()}\"" : '').'/>';
                }
                $xml .= '</components></object>';

                continue;
            }
            $xml .= '<mesh><vertices>';
            for ($v = 0; $v < $n; $v++) {
                $xml .= "<vertex x=\"{$this->number()}\" y=\"{$this->number()}\" z=\"{$this->number()}\"/>";
            }
            $xml .= '</vertices><triangles>';
            for ($t = 0; $t < $n; $t++) {
                $xml .= '<triangle v1="'.$this->index($n).'" v2="'.$this->index($n).'" v3="'.$this->index($n).'"'.($this->chance(0.01) ? ' pid="9" p1="0"' : '').'/>';
            }
            $xml .= '</triangles></mesh></object>';
        }
        $items = '';
        for ($k = $this->one([1, 1, 3, 500]); $k > 0; $k--) {
            $items .= '<item objectid="'.$this->one([$objects, $objects, $this->r->getInt(0, $objects + 1)]).'"/>';
        }
        $isTame = $this->chance(0.6);
        $head = $isTame ? '<?xml version="1.0" encoding="UTF-8"?>' : $this->one(['<?xml version="1.0" encoding="UTF-8"?>', '<?xml version="1.0"?><!DOCTYPE m [<!ENTITY a "aaaa">]>', '<?xml version="1.0" encoding="UTF-16"?>', '', '<?xml version="1.0"?>']);
        $extra = match ($isTame ? 14 : $this->r->getInt(0, 14)) {
            0 => '<metadata name="t">'.str_repeat('long ', 100_000).'</metadata>', 1 => str_repeat('<x>', 5000), 2 => str_repeat('<x>', 150).str_repeat('</x>', 150),
            3 => '<!-- '.str_repeat('-', 200_000).' -->', 4 => '<a'.$this->attributes().'/>', 5 => str_repeat('<a b="1"/>', intdiv($this->largest, 5)), 6 => '<![CDATA['.str_repeat('c', 500_000).']]>', 7 => str_repeat('&amp;', 40_000), 8 => '&a;', default => '',
        };
        $xml = "$head<model unit=\"".$this->one(['millimeter', 'millimeter', 'inch', 'mile']).'" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"'
            .(! $isTame && $this->chance(0.03) ? $this->attributes() : '').">$extra<resources>$xml</resources><build>$items</build></model>";
        if (! $isTame && $this->chance(0.3)) {
            $xml = $this->damaged($xml);
        }
        $path = tempnam(sys_get_temp_dir(), 'isotome-grammar');
        $zip = new ZipArchive;
        $zip->open((string) $path, ZipArchive::CREATE | ZipArchive::OVERWRITE);
        $zip->addFromString('3D/3dmodel.model', $xml);
        if ($this->chance(0.3)) {
            $target = $this->one(['/3D/3dmodel.model', '/../../etc/passwd', '/nowhere.model', '']);
            $zip->addFromString('_rels/.rels', '<?xml version="1.0"?><Relationships><Relationship Target="'.$target.'" Id="r" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>');
        }
        $zip->close();
        $bytes = (string) file_get_contents((string) $path);
        @unlink((string) $path);

        return $this->chance(0.08) ? $this->damaged($bytes) : $bytes;
    }

    private function attributes(): string
    {
        $text = '';
        for ($k = $this->one([10, 1000, 20_000]); $k > 0; $k--) {
            $text .= " a$k=\"\"";
        }

        return $text;
    }

    private function glb(): string
    {
        $n = $this->many(40);
        $binary = '';
        for ($v = 0; $v < $n; $v++) {
            $binary .= pack('g3', (float) $this->number(), (float) $this->number(), (float) $this->number());
        }
        $indices = 3 * $n + $this->r->getInt(0, 2);
        for ($k = 0; $k < $indices; $k++) {
            $binary .= pack('V', $this->index($n));
        }
        $views = [['buffer' => 0, 'byteOffset' => 0, 'byteLength' => 12 * $n], ['buffer' => 0, 'byteOffset' => 12 * $n, 'byteLength' => 4 * $indices]];
        $accessors = [['bufferView' => 0, 'componentType' => 5126, 'count' => $n, 'type' => 'VEC3'], ['bufferView' => 1, 'componentType' => 5125, 'count' => $indices, 'type' => 'SCALAR']];
        $many = min(2000, intdiv($this->largest, 100));
        $primitive = static fn (int $mode = 4): array => ['attributes' => ['POSITION' => 0], 'indices' => 1, 'mode' => $mode];
        $meshes = [['primitives' => [$primitive($this->one([4, 4, 4, 5, 6, 1]))]]];
        $nodes = [['mesh' => 0, 'name' => mb_scrub($this->name())]];
        switch ($this->r->getInt(0, 9)) {
            case 0:
                // One mesh shown often.
                $nodes = array_fill(0, $this->one([2, 50, $many]), ['mesh' => 0]);
                break;
            case 1:
                // One mesh of many parts that are the same data.
                $meshes = [['primitives' => array_fill(0, $many, $primitive())]];
                break;
            case 2:
                // Doubled with every level.
                for ($k = $this->one([3, 12, 30]); $k > 0; $k--) {
                    $nodes[] = ['children' => [count($nodes) - 1, count($nodes) - 1], 'scale' => [2, 2, 2]];
                }
                $nodes = array_reverse($nodes);
                foreach ($nodes as $i => $node) {
                    if (isset($node['children'])) {
                        $nodes[$i]['children'] = [$i + 1, $i + 1];
                    }
                }
                break;
            case 3:
                $nodes = [['children' => [1]], ['children' => [0], 'mesh' => 0]];
                break;
            case 4:
                // Many small meshes of one long list of vertices.
                $accessors[1]['count'] = 3;
                $meshes = array_fill(0, $many, ['primitives' => [$primitive()]]);
                $nodes = array_map(static fn (int $m): array => ['mesh' => $m], range(0, $many - 1));
                break;
            case 5:
                $accessors[$this->r->getInt(0, 1)] = ['bufferView' => $this->r->getInt(0, 2), 'componentType' => $this->one([5120, 5121, 5123, 5125, 5126, 9]), 'count' => $this->one([0, -1, PHP_INT_MAX, 1 << 40, $n]), 'type' => $this->one(['VEC3', 'SCALAR', 'MAT4']), 'byteOffset' => $this->one([0, -4, PHP_INT_MAX, 2])];
                break;
            case 6:
                $views[$this->r->getInt(0, 1)]['byteStride'] = $this->one([1, 12, 16, 1 << 40, -12]);
                break;
        }
        if ($this->chance(0.2)) {
            $nodes[0]['matrix'] = array_map(fn (): float => (float) $this->number(), range(1, 16));
        }
        $json = ['asset' => ['version' => '2.0'], 'scene' => 0, 'scenes' => [['nodes' => $this->chance(0.8) ? range(0, min(count($nodes), 400) - 1) : [0]]], 'nodes' => $nodes, 'meshes' => $meshes, 'accessors' => $accessors, 'bufferViews' => $views, 'buffers' => [['byteLength' => strlen($binary)]]];
        if ($this->chance(0.1)) {
            $json['extras'] = $this->one([str_repeat('x', 100_000), array_fill(0, 50_000, []), range(1, 30_000)]);
        }
        $text = (string) json_encode($json, JSON_PARTIAL_OUTPUT_ON_ERROR);
        if ($this->chance(0.05)) {
            $text = str_repeat('[', 50_000).$text;
        }
        $text .= str_repeat(' ', -strlen($text) & 3);
        $binary .= str_repeat("\0", -strlen($binary) & 3);
        $length = 12 + 8 + strlen($text) + 8 + strlen($binary);

        return 'glTF'.pack('V2', $this->chance(0.02) ? 1 : 2, $this->chance(0.03) ? $this->r->getInt(0, 1 << 31) : $length)
            .pack('V2', $this->chance(0.02) ? 0xFFFFFFF0 : strlen($text), 0x4E4F534A).$text.pack('V2', strlen($binary), 0x004E4942).$binary;
    }

    private function damaged(string $bytes): string
    {
        for ($k = $this->one([1, 3, 20]); $k > 0 && $bytes !== ''; $k--) {
            $at = $this->r->getInt(0, strlen($bytes) - 1);
            switch ($this->r->getInt(0, 4)) {
                case 0:
                    $bytes[$at] = chr($this->r->getInt(0, 255));
                    break;
                case 1:
                    $bytes = substr($bytes, 0, $at);
                    break;
                case 2:
                    $bytes = substr_replace($bytes, substr($bytes, $this->r->getInt(0, strlen($bytes) - 1), $this->r->getInt(1, 400)), $at, 0);
                    break;
                case 3:
                    $bytes = substr_replace($bytes, '', $at, $this->r->getInt(1, 40));
                    break;
                default:
                    $bytes = substr_replace($bytes, $this->one(['0', '9', '-', "\xff", '99999999', ' ', "\n", '"', '>', '<', "\0\0\0\0"]), $at, $this->r->getInt(0, 3));
            }
        }

        return $bytes;
    }
}
