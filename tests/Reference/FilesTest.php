<?php

declare(strict_types=1);

namespace Tests\Reference;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Seal;
use Isotome\Format\MeshFile;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;
use Isotome\Mesh\Volume;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\TestCase;
use Tests\Support\Bodies;
use Tests\Support\Folder;
use Tests\Support\PaintedGlb;

/**
 * Written files before independent readers. Sources: npm gltf-validator (Khronos Group), npm @3mfconsortium/lib3mf (3MF Consortium), and the
 * Open Asset Import Library (Debian package assimp-utils) for every format, read and written.
 */
final class FilesTest extends TestCase
{
    use Folder;

    /** @return array<string, array{mesh: \Isotome\Mesh\Mesh, colour: string}> */
    private static function pieces(): array
    {
        $pieces = [];
        foreach (['torus, one handle', 'hollow ball with a ball in the cavity', 'millstone', 'heron'] as $name) {
            $mesh = Bodies::named($name);
            $centroid = Volume::measure($mesh)->centroid;
            foreach (FlatCut::of($mesh, new FlatBlade(Plane::through($centroid, [0.3, 0.2, 1.0]), seal: Seal::Even), 1)->bodies ?? [] as $n => $body) {
                $pieces[str_replace([' ', ','], '-', $name)."-$n"] = ['mesh' => $body, 'colour' => '#8f9a86'];
            }
        }

        return $pieces;
    }

    /** @return list<array<string, mixed>> */
    private static function ask(string $script, string ...$files): array
    {
        $answer = json_decode((string) shell_exec('cd '.escapeshellarg(dirname(__DIR__, 2)).' && node tests/Support/'.$script.' '.implode(' ', array_map(escapeshellarg(...), $files))), true);
        self::assertIsArray($answer);

        return array_values($answer);
    }

    public function test_the_khronos_validator_finds_nothing_and_pivots_are_centroids(): void
    {
        $pieces = self::pieces();
        $held = MeshFile::writeAll($pieces, $this->path('all.glb'));
        [$answer] = self::ask('validate-glb.mjs', $this->path('all.glb'));
        // It only remarks that insides have coordinates and no picture: for whoever gives them one.
        $remarks = array_filter($answer['messages'], static fn (array $message): bool => $message['code'] !== 'UNUSED_OBJECT' || preg_match('~/attributes/TEXCOORD_0$~', $message['pointer']) !== 1);
        self::assertSame([0, 0, []], [$answer['errors'], $answer['warnings'], $remarks]);
        self::assertSame(array_sum(array_map(static fn (array $piece): int => $piece['mesh']->triangleCount(), $pieces)), $answer['triangles']);
        self::assertSame(array_keys($held), array_column($answer['nodes'], 'name'));
        self::assertContains('inside', $answer['materials']);
        foreach (array_values($held) as $n => $mesh) {
            [$x, $y, $z] = Volume::measure($mesh)->centroid;
            foreach ([$x, $z, -$y] as $k => $c) {
                self::assertEqualsWithDelta($c / 1000, $answer['nodes'][$n]['translation'][$k], 1e-6);
            }
        }
    }

    /** What a painted box carries, in its pieces as an independent validator and an independent reader find them. */
    public function test_painted_pieces_are_valid_and_keep_materials_pictures_and_coordinates(): void
    {
        file_put_contents($this->path('painted.glb'), PaintedGlb::box());
        [$answer] = self::ask('validate-glb.mjs', $this->path('painted.glb'));
        self::assertSame([0, 0], [$answer['errors'], $answer['warnings']], 'the box made by hand: '.json_encode($answer['messages']));
        $mesh = MeshFile::read($this->path('painted.glb'))->mesh;
        $runner = Runner::on('box', $mesh);
        $runner->run(Recipe::fromJson('{"isotome_recipe":1,"steps":[{"do":"cut","blade":{"kind":"cells","by":"uniform","count":5,"seed":3}}]}')->steps[0]);
        $pieces = [];
        foreach ($runner->pieces() as $piece) {
            $pieces[$piece->name] = ['mesh' => $piece->mesh, 'colour' => $piece->colour];
        }
        MeshFile::writeAll($pieces, $this->path('pieces.glb'));
        [$answer] = self::ask('validate-glb.mjs', $this->path('pieces.glb'));
        // It only remarks that the glaze has coordinates and no picture.
        self::assertSame([0, 0], [$answer['errors'], $answer['warnings']], json_encode($answer['messages'], JSON_THROW_ON_ERROR));
        self::assertSame(['painted clay', 'glaze'], array_slice($answer['materials'], 0, 2));
        $says = (string) shell_exec('assimp info '.escapeshellarg($this->path('pieces.glb')).' 2>&1');
        self::assertMatchesRegularExpression('/^Textures \(embed\.\):\s+1$/m', $says);
        // Read and written again by the other program: the same coordinates and colours over the same places.
        foreach ($pieces as $name => $piece) {
            MeshFile::write($piece['mesh'], $this->path('piece.glb'), (string) $name);
            shell_exec('assimp export '.escapeshellarg($this->path('piece.glb')).' '.escapeshellarg($this->path('again.glb')).' -fglb2 2>&1');
            $ours = self::points(MeshFile::read($this->path('piece.glb'))->mesh);
            self::assertGreaterThan(5, count($ours));
            self::assertEqualsCanonicalizing(array_keys($ours), array_keys(self::points(MeshFile::read($this->path('again.glb'))->mesh)), (string) $name);
        }
    }

    /** @return array<string, true> place, texture coordinates and colour at every corner of the skin, in hundredths */
    private static function points(Mesh $mesh): array
    {
        $points = [];
        // The other program forgets where a piece stands.
        $min = Box::of($mesh->xyz)->min;
        foreach ($mesh->tags as $t => $tag) {
            $uv = ($mesh->skin->layers['uv0'] ?? null)?->at($t);
            $colour = ($mesh->skin->layers[Skin::COLOUR] ?? null)?->at($t);
            if ($tag > 0 || $uv === null || $colour === null || $mesh->skin?->looks->name($mesh->skin->materialOf($t)) === 'inside') {
                continue;
            }
            for ($k = 0; $k < 3; $k++) {
                $v = 3 * $mesh->corners[3 * $t + $k];
                $numbers = [$mesh->xyz[$v] - $min[0], $mesh->xyz[$v + 1] - $min[1], $mesh->xyz[$v + 2] - $min[2], ...array_slice($uv, 2 * $k, 2), ...array_slice($colour, 4 * $k, 4)];
                // A little beside halves, so that rounding on either side agrees.
                $points[implode(' ', array_map(static fn (float $number): string => sprintf('%d', round(100 * $number + 0.137)), $numbers))] = true;
            }
        }

        return $points;
    }

    public function test_lib3mf_reads_colours_textures_and_materials_of_painted_pieces(): void
    {
        file_put_contents($this->path('painted.glb'), PaintedGlb::box());
        $runner = Runner::on('box', MeshFile::read($this->path('painted.glb'))->mesh);
        $runner->run(Recipe::fromJson('{"isotome_recipe":1,"steps":[{"do":"cut","blade":{"kind":"flat","through":[1,2,3],"facing":[0.3,-0.4,1]}}]}')->steps[0]);
        $pieces = [];
        foreach ($runner->pieces() as $piece) {
            $pieces[$piece->name] = ['mesh' => $piece->mesh, 'colour' => '#336699'];
        }
        MeshFile::writeAll($pieces, $this->path('painted.3mf'));
        [$answer] = self::ask('read-3mf.mjs', $this->path('painted.3mf'));
        // Only the upper piece has glaze without a picture, and so colours.
        self::assertSame([0, 1, 2, 1, 2], [$answer['warnings'], $answer['colour_groups'], $answer['texture_groups'], $answer['textures'], $answer['base_materials']]);
        self::assertSame([true, true], array_column($answer['objects'], 'closed'));
    }

    public function test_lib3mf_reads_every_piece_closed_and_named(): void
    {
        $pieces = self::pieces();
        $held = MeshFile::writeAll($pieces, $this->path('all.3mf'));
        [$answer] = self::ask('read-3mf.mjs', $this->path('all.3mf'));
        self::assertSame(0, $answer['warnings']);
        self::assertCount(count($pieces), $answer['objects']);
        foreach (array_values($held) as $n => $mesh) {
            self::assertSame(
                [array_keys($held)[$n], $mesh->triangleCount(), $mesh->vertexCount(), true],
                [$answer['objects'][$n]['name'], $answer['objects'][$n]['triangles'], $answer['objects'][$n]['vertices'], $answer['objects'][$n]['closed']],
            );
        }
    }

    public function test_another_reader_finds_the_same_triangles_in_every_format(): void
    {
        $mesh = self::pieces()['heron-0']['mesh'];
        foreach (MeshFile::FORMATS as $format) {
            MeshFile::write($mesh, $this->path("heron.$format"), 'heron');
            $says = (string) shell_exec('assimp info '.escapeshellarg($this->path("heron.$format")).' 2>&1');
            self::assertMatchesRegularExpression('/^Faces:\s+'.$mesh->triangleCount().'$/m', $says, $format);
        }
    }

    /** Files that the other program wrote from ours are read to the same body. */
    public function test_files_of_another_writer_are_read(): void
    {
        $mesh = self::pieces()['millstone-0']['mesh'];
        MeshFile::write($mesh, $this->path('stone.stl'));
        $volume = Volume::of($mesh);
        foreach ([['stl', 'stl', 1.0], ['stlb', 'stl', 1.0], ['obj', 'obj', 1.0], ['ply', 'ply', 1.0], ['plyb', 'ply', 1.0], ['glb2', 'glb', 1e9]] as [$writer, $ending, $scale]) {
            $file = $this->path("other-$writer.$ending");
            shell_exec('assimp export '.escapeshellarg($this->path('stone.stl')).' '.escapeshellarg($file)." -f$writer 2>&1");
            self::assertFileExists($file, $writer);
            $read = MeshFile::read($file)->mesh;
            self::assertTrue(EdgeCheck::of($read)->isWatertight(), $writer);
            // The other program takes the numbers for metres where a format has a unit.
            self::assertEqualsWithDelta($scale * $volume, Volume::of($read), 1e-4 * $scale * $volume, $writer);
        }
    }

    /** Skin and inside of each piece as materials of their own, the inside lighter: as an independent reader finds them. Source: Debian package assimp-utils. */
    public function test_obj_has_a_skin_and_a_lighter_inside_for_each_piece(): void
    {
        $pieces = array_combine(['rim', 'hub', 'spoke'], array_slice(self::pieces(), 0, 3));
        $names = array_keys($pieces);
        // The reader takes materials that look alike for one.
        $pieces['hub']['colour'] = '#2b4c6f';
        $pieces['spoke']['colour'] = '#8a5a00';
        MeshFile::writeAll($pieces, $this->path('all pieces.obj'));
        $says = (string) shell_exec('assimp info '.escapeshellarg($this->path('all pieces.obj')).' 2>&1');
        foreach ($names as $name) {
            self::assertStringContainsString("'{$name}_skin'", $says);
            self::assertStringContainsString("'{$name}_inside'", $says);
        }
        // A mesh a material.
        self::assertMatchesRegularExpression('/^Meshes:\s+6$/m', $says);
        preg_match_all('/^newmtl (\S+)\nKd (\S+) (\S+) (\S+)$/m', (string) file_get_contents($this->path('all_pieces.mtl')), $found, PREG_SET_ORDER);
        $light = [];
        foreach ($found as [, $material, $r, $g, $b]) {
            $light[$material] = 0.2126 * (float) $r + 0.7152 * (float) $g + 0.0722 * (float) $b;
        }
        foreach ($names as $name) {
            self::assertGreaterThan($light["{$name}_skin"] + 0.1, $light["{$name}_inside"]);
        }
        // A single skin needs no materials.
        MeshFile::write(Bodies::named('millstone'), $this->path('stone.obj'));
        self::assertFileDoesNotExist($this->path('stone.mtl'));
        self::assertStringNotContainsString('mtl', (string) file_get_contents($this->path('stone.obj')));
    }
}
