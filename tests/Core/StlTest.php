<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\UnreadableMesh;
use Isotome\Format\StlReader;
use Isotome\Format\StlWriter;
use Isotome\Format\Units;
use Isotome\Geometry\Box;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\Solids;

final class StlTest extends TestCase
{
    use Folder;

    private function binary(Mesh $mesh, string $header = 'made by a test'): string
    {
        $bytes = str_pad($header, 80).pack('V', $mesh->triangleCount());
        foreach ($mesh->corners as $i => $v) {
            $bytes .= ($i % 3 === 0 ? pack('g3', 0, 0, 0) : '').pack('g3', ...array_slice($mesh->xyz, 3 * $v, 3)).($i % 3 === 2 ? "\0\0" : '');
        }

        return $bytes;
    }

    private function ascii(Mesh $mesh, string $newline = "\n"): string
    {
        $lines = ['solid a test'];
        foreach (array_chunk($mesh->corners, 3) as $triangle) {
            array_push($lines, 'facet normal 0 0 0', ' outer loop');
            foreach ($triangle as $v) {
                $lines[] = vsprintf('  vertex %.17e %.17G %s', array_slice($mesh->xyz, 3 * $v, 3));
            }
            array_push($lines, ' endloop', 'endfacet');
        }
        $lines[] = 'endsolid a test';

        return implode($newline, $lines).$newline;
    }

    public function test_binary_is_read_and_welded(): void
    {
        $mesh = Solids::box(1, 2, 3);
        foreach (['made by a test', 'solid: many programs begin a binary header so'] as $header) {
            $read = StlReader::read($this->file('box.stl', $this->binary($mesh, $header)));
            self::assertSame('binary STL', $read->format);
            self::assertSame(8, $read->mesh->vertexCount());
            self::assertTrue(EdgeCheck::of($read->mesh)->isWatertight());
            self::assertSame(6.0, Volume::of($read->mesh));
        }
    }

    /** Whitespace of any kind separates words (3D Systems, StereoLithography Interface Specification, 1988). */
    public function test_ascii_is_read_however_it_is_laid_out(): void
    {
        $mesh = Solids::torus(20, 7, 40, 24);
        $text = $this->ascii($mesh);
        $lines = explode("\n", trim($text));
        $plain = StlReader::read($this->file('lines.stl', $text))->mesh;
        foreach ([
            'one line' => implode(' ', $lines), 'tabs' => implode("\t", $lines), 'old line ends' => implode("\r", $lines), 'empty lines' => implode("\n\n \n", $lines),
            'a facet a line' => (string) preg_replace('/\n(?!facet|endsolid)/', ' ', $text), 'a word a space more' => str_replace(' ', '   ', implode(' ', $lines)),
            'a name of many words' => (string) preg_replace('/^solid[^\n]*/', 'solid the left bearing of the water wheel in vertex order', implode("\n", $lines)),
            'a name before all in one line' => (string) preg_replace('/^solid\S* ?\w*/', 'solid the left bearing of the wheel, vertex first', implode(' ', $lines)),
            'two solids in one line' => implode(' ', $lines).' '.implode(' ', array_map(static fn (string $line): string => str_starts_with($line, 'vertex') ? $line.'5' : $line, array_slice($lines, 0, 8))).' endsolid',
        ] as $how => $laidOut) {
            $read = StlReader::read($this->file('laid.stl', $laidOut))->mesh;
            if ($how === 'two solids in one line') {
                self::assertSame($plain->triangleCount() + 1, $read->triangleCount(), $how);

                continue;
            }
            self::assertSame([$plain->xyz, $plain->corners], [$read->xyz, $read->corners], $how);
        }
        // Cut short in the middle, wherever it is.
        $this->expectException(UnreadableMesh::class);
        StlReader::read($this->file('short.stl', substr(implode(' ', $lines), 0, 70_000)));
    }

    public function test_ascii_is_read_with_any_line_ends_and_all_digits(): void
    {
        $mesh = Solids::moved(Solids::torus(20, 7, 12, 8), 0.3, 0.4, 0.5);
        foreach (["\n", "\r\n"] as $newline) {
            $read = StlReader::read($this->file('torus.stl', $this->ascii($mesh, $newline)));
            self::assertSame('ASCII STL', $read->format);
            self::assertSame($mesh->vertexCount(), $read->mesh->vertexCount());
            self::assertEqualsWithDelta(Volume::of($mesh), Volume::of($read->mesh), 1e-9);
            self::assertTrue(EdgeCheck::of($read->mesh)->isWatertight());
        }
    }

    public function test_zero_and_minus_zero_are_one_place(): void
    {
        $mesh = Solids::box(1, 1, 1);
        $bytes = $this->binary($mesh);
        // Every second zero coordinate becomes −0.
        $n = 0;
        for ($i = 84; $i < strlen($bytes); $i += 50) {
            for ($k = 12; $k < 48; $k += 4) {
                if (substr($bytes, $i + $k, 4) === "\0\0\0\0" && $n++ % 2) {
                    $bytes[$i + $k + 3] = "\x80";
                }
            }
        }
        $read = StlReader::read($this->file('box.stl', $bytes));
        self::assertSame(8, $read->mesh->vertexCount());
        self::assertTrue(EdgeCheck::of($read->mesh)->isWatertight());
    }

    public function test_zero_and_minus_zero_are_one_place_in_text_too(): void
    {
        $box = Solids::box(10, 10, 10);
        $text = "solid sluice\n";
        foreach (array_chunk($box->corners, 3) as $t => $corners) {
            $text .= "facet normal 0 0 1\nouter loop\n";
            foreach ($corners as $v) {
                $text .= 'vertex';
                for ($k = 0; $k < 3; $k++) {
                    $c = $box->xyz[3 * $v + $k];
                    // Every other face writes its zeros with a sign, as exporters do.
                    $text .= $c === 0.0 && $t % 2 === 1 ? ' -0.0' : " $c";
                }
                $text .= "\n";
            }
            $text .= "endloop\nendfacet\n";
        }
        file_put_contents($this->path('signed.stl'), $text."endsolid sluice\n");
        $mesh = StlReader::read($this->path('signed.stl'))->mesh;
        self::assertSame([8, true], [$mesh->vertexCount(), EdgeCheck::of($mesh)->isWatertight()]);
        self::assertStringNotContainsString('-0', (string) json_encode($mesh->xyz));
    }

    public function test_units_become_millimetres(): void
    {
        $file = $this->file('box.stl', $this->binary(Solids::box(1, 2, 4)));
        foreach ([[Units::Millimetres, 1.0], [Units::Centimetres, 10.0], [Units::Metres, 1000.0], [Units::Inches, 25.4]] as [$units, $factor]) {
            self::assertSame([$factor, 2 * $factor, 4 * $factor], Box::of(StlReader::read($file, $units)->mesh->xyz)->size());
        }
    }

    public function test_triangles_with_two_equal_corners_are_left_out_and_counted(): void
    {
        $box = Solids::box(1, 1, 1);
        $mesh = Mesh::of($box->xyz, [...$box->corners, 3, 3, 5, 0, 1, 0]);
        $read = StlReader::read($this->file('box.stl', $this->binary($mesh)));
        self::assertSame(2, $read->collapsed);
        self::assertSame(12, $read->mesh->triangleCount());
    }

    public function test_what_is_written_reads_back_as_the_same_mesh(): void
    {
        $mesh = Solids::moved(Solids::sphere(20, 3), 1, 2, 3, 1.0, [100.0, -50.0, 7.0]);
        $path = $this->path('out.stl');
        $written = StlWriter::write($mesh, $path);
        $read = StlReader::read($path)->mesh;
        self::assertSame(84 + 50 * 1280, filesize($path));
        self::assertSame($written->triangleCount(), $read->triangleCount());
        self::assertSame($written->vertexCount(), $read->vertexCount());
        self::assertEqualsWithDelta(Volume::of($written), Volume::of($read), 1e-9 * Volume::of($read));
        foreach ($read->corners as $i => $v) {
            self::assertSame(array_slice($written->xyz, 3 * $written->corners[$i], 3), array_slice($read->xyz, 3 * $v, 3));
        }
    }

    /** @return iterable<string, array{string, string}> bytes, and what the sentence must contain */
    public static function damaged(): iterable
    {
        $triangle = static fn (float ...$nine): string => pack('g3', 0, 0, 0).pack('g9', ...$nine)."\0\0";
        $good = $triangle(0, 0, 0, 1, 0, 0, 0, 1, 0);
        $head = static fn (int $count): string => str_pad('a test', 80).pack('V', $count);
        $nan = substr_replace($good, "\0\0\xc0\x7f", 16, 4);
        $infinite = substr_replace($good, "\0\0\x80\x7f", 24, 4);
        yield 'empty' => ['', 'is empty'];
        yield 'too short for a header' => ["abc\0", 'too short'];
        yield 'no triangles' => [$head(0), 'no triangles'];
        yield 'cut short' => [$head(5).$good.$good, 'promises 5 triangles and it holds 2'];
        yield 'cut inside a triangle' => [$head(2).$good.substr($good, 0, 20), 'holds 1'];
        yield 'lying count, too many' => [$head(4294967295).$good, 'cut short'];
        yield 'lying count, too few' => [$head(1).$good.$good, 'room for 2'];
        yield 'trailing bytes' => [$head(1).$good.'tail', 'lies about its length'];
        yield 'not a number' => [$head(2).$good.$nan, 'not a finite number in triangle 2'];
        yield 'infinite' => [$head(1).$infinite, 'not a finite number in triangle 1'];
        yield 'only collapsed triangles' => [$head(1).$triangle(1, 1, 1, 1, 1, 1, 0, 0, 0), 'no triangle with three different corners'];
        yield 'ascii without an end' => ["solid x\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\n", 'without "endsolid"'];
        yield 'ascii with two vertices' => ["solid x\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nendloop\nendfacet\nendsolid\n", 'line 7: a facet has 2 vertices'];
        yield 'ascii with four vertices' => ["solid x\nfacet\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 1 1 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid\n", 'has 4 vertices'];
        yield 'ascii nan' => ["solid x\nfacet normal 0 0 1\nouter loop\nvertex 0 nan 0\n", 'line 4'];
        yield 'ascii infinity by size' => ["solid x\nfacet normal 0 0 1\nouter loop\nvertex 0 1e999 0\n", 'line 4'];
        yield 'ascii word' => ["solid x\nfacet normal 0 0 1\nouter loop\nvertex zero 0 0\n", 'line 4'];
        yield 'ascii vertex of two numbers' => ["solid x\nfacet normal 0 0 1\nouter loop\nvertex 0 0\n", 'line 4: a vertex of three numbers'];
        yield 'ascii vertex outside a facet' => ["solid x\nvertex 0 0 0\n", 'line 2'];
        yield 'ascii facet inside a facet' => ["solid x\nfacet\nfacet\n", 'line 3'];
        yield 'ascii unknown word' => ["solid x\nhello there\n", '"hello" is no word'];
        yield 'ascii without triangles' => ["solid x\nendsolid x\n", 'no triangle'];
        yield 'a picture' => ["\x89PNG\r\n\x1a\n".str_repeat("\7", 200), 'promises'];
    }

    #[DataProvider('damaged')]
    public function test_damaged_files_are_refused_with_one_sentence(string $bytes, string $says): void
    {
        $file = $this->file('bad.stl', $bytes);
        try {
            StlReader::read($file);
            self::fail('it was read');
        } catch (UnreadableMesh $refusal) {
            self::assertStringContainsString($says, $refusal->getMessage());
            self::assertStringContainsString('bad.stl', $refusal->getMessage());
            self::assertMatchesRegularExpression('/^[A-Z][^\n]+; [^\n]+\.$/', $refusal->getMessage());
        }
    }

    public function test_a_missing_file_is_refused(): void
    {
        $this->expectException(UnreadableMesh::class);
        $this->expectExceptionMessage('cannot be opened');
        StlReader::read($this->path('nowhere.stl'));
    }

    public function test_random_damage_is_refused_or_read_but_never_breaks(): void
    {
        mt_srand(3);
        $good = [$this->binary(Solids::sphere(5, 1)), $this->ascii(Solids::box(1, 2, 3))];
        $read = 0;
        for ($n = 0; $n < 300; $n++) {
            $bytes = $good[$n % 2];
            for ($k = mt_rand(1, 2); $k > 0; $k--) {
                $at = mt_rand(0, strlen($bytes) - 1);
                $bytes = match (mt_rand(0, 5)) {
                    0, 1, 2, 3 => substr_replace($bytes, chr(mt_rand(0, 255)), $at, 1),
                    4 => substr($bytes, 0, $at + 1),
                    default => substr_replace($bytes, '', $at, mt_rand(1, 20)),
                };
                $bytes = $bytes === '' ? 'x' : $bytes;
            }
            try {
                $mesh = StlReader::read($this->file('damaged.stl', $bytes))->mesh;
                self::assertFalse(is_nan(Volume::measure($mesh)->area));
                $read++;
            } catch (UnreadableMesh $refusal) {
                self::assertStringEndsWith('.', $refusal->getMessage());
            }
        }
        self::assertGreaterThan(20, $read);
        self::assertLessThan(280, $read);
    }
}
