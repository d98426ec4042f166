<?php

declare(strict_types=1);

namespace Tests\Reference;

use Demo\ClayJar;
use Isotome\Format\StlWriter;
use Isotome\Motion\Quaternion;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\RunsIsotome;

/** A movement as a file: the Khronos validator has nothing to say against it, and three.js, a general-purpose library, plays it as poses.json tells it. */
final class MovementFileTest extends TestCase
{
    use Folder;
    use RunsIsotome;

    /** @return array<mixed> */
    private function node(string $script, string ...$arguments): array
    {
        $answer = json_decode((string) shell_exec('cd '.escapeshellarg(dirname(__DIR__, 2)).' && node tests/Support/'.$script.' '.implode(' ', array_map(escapeshellarg(...), $arguments))), true, flags: JSON_THROW_ON_ERROR);

        return is_array($answer) ? $answer : [];
    }

    public function test_a_jar_that_bursts_is_played_as_it_is_told(): void
    {
        StlWriter::write(ClayJar::mesh(), $this->path('clay-jar.stl'));
        $recipe = $this->file('recipe.json', (string) json_encode(['isotome_recipe' => 1, 'units' => 'mm', 'steps' => [['do' => 'cut', 'blade' => ['kind' => 'cells', 'by' => 'even', 'count' => 14, 'seed' => 4]]]]));
        $movement = $this->file('movement.json', (string) json_encode(['isotome_movement' => 1, 'fps' => 30, 'frames' => 91, 'layers' => [
            ['do' => 'wave', 'front' => 'ball', 'length' => 30, 'width' => 25, 'shift' => [0, 0, 40], 'about' => [1, 2, 3], 'degrees' => 260, 'scale' => 0.7],
            ['do' => 'spread', 'distance_mm' => 90, 'start' => 5, 'length' => 40, 'ease' => 'bounce'],
            ['do' => 'scatter', 'start' => 10, 'length' => 60, 'degrees' => 50, 'seed' => 7],
            ['do' => 'keys', 'ease' => 'smooth', 'keys' => [['frame' => 0], ['frame' => 90, 'degrees' => 360, 'shift' => [20, 0, 0]]]],
        ]]));
        [$code, $said, $error] = $this->isotome('move', $recipe, $this->path('clay-jar.stl'), '--movement', $movement, '--out', $this->path('burst.glb'), '--poses', $this->path('poses.json'), '--json');
        self::assertSame(0, $code, $error);
        $told = json_decode($said, true, flags: JSON_THROW_ON_ERROR);
        self::assertSame([30, 91], [$told['fps'], $told['frames']]);
        $poses = json_decode((string) file_get_contents($this->path('poses.json')), true, flags: JSON_THROW_ON_ERROR);
        self::assertSame([1, 30, 91], [$poses['isotome_poses'], $poses['fps'], $poses['frames']]);
        self::assertSame(array_column($told['pieces'], 'name'), array_keys($poses['pieces']));
        self::assertGreaterThan(8, count($poses['pieces']));

        [$valid] = $this->node('validate-glb.mjs', $this->path('burst.glb'));
        self::assertSame([0, 0], [$valid['errors'], $valid['warnings']], json_encode($valid['messages']) ?: '');
        self::assertCount(count($poses['pieces']), $valid['nodes']);

        $frames = [0, 1, 7, 16, 33, 48, 61, 77, 90];
        $played = $this->node('play-glb.mjs', $this->path('burst.glb'), ...array_map(static fn (int $frame): string => (string) ($frame / 30), $frames));
        self::assertEqualsWithDelta(3.0, $played['duration'], 1e-6);
        foreach ($poses['pieces'] as $name => $rows) {
            self::assertCount(91, $rows);
            foreach ($frames as $n => $frame) {
                [$x, $y, $z, $qx, $qy, $qz, $qw, $scale] = $rows[$frame];
                $node = $played['nodes'][$name][$n];
                // Metres and Y up, in the file.
                self::assertEqualsWithDelta([$x, $y, $z], [1000 * $node[0], -1000 * $node[2], 1000 * $node[1]], 2e-2, "$name at frame $frame");
                $turn = [$node[3], -$node[5], $node[4], $node[6]];
                foreach ([[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]] as $way) {
                    self::assertEqualsWithDelta(Quaternion::turned([$qx, $qy, $qz, $qw], $way), Quaternion::turned($turn, $way), 1e-4, "$name at frame $frame");
                }
                self::assertEqualsWithDelta([$scale, $scale, $scale], array_slice($node, 7, 3), 1e-4);
            }
        }
        // The same bytes every time.
        $first = hash_file('sha256', $this->path('burst.glb'));
        $this->isotome('move', $recipe, $this->path('clay-jar.stl'), '--movement', $movement, '--out', $this->path('again.glb'));
        self::assertSame($first, hash_file('sha256', $this->path('again.glb')));
    }

    public function test_what_cannot_be_is_refused_and_leaves_no_file(): void
    {
        StlWriter::write(\Tests\Support\Solids::box(10, 10, 10), $this->path('box.stl'));
        $recipe = $this->file('recipe.json', (string) json_encode(['isotome_recipe' => 1, 'units' => 'mm', 'steps' => [['do' => 'turn', 'about' => [0, 0, 1], 'degrees' => 10]]]));
        $good = $this->file('good.json', (string) json_encode(['isotome_movement' => 1, 'layers' => [['do' => 'spread']]]));
        foreach ([
            ['isotome: --movement is missing; name the file with the movement.', []],
            ['isotome: The movement is no JSON; check it for a missing comma or bracket.', ['--movement', $this->file('bad.json', '{"isotome_movement": 1,')]],
            ['isotome: layers[0].do is "fall"; choose "spread", "wave", "scatter", "keys", "drop".', ['--movement', $this->file('fall.json', '{"isotome_movement":1,"layers":[{"do":"fall"}]}')]],
            ['isotome: --frames is "many"; give a whole number.', ['--movement', $good, '--frames', 'many']],
        ] as [$sentence, $options]) {
            [$code, $said, $error] = $this->isotome('move', $recipe, $this->path('box.stl'), '--out', $this->path('out.glb'), ...$options);
            self::assertSame([2, '', $sentence], [$code, $said, trim($error)]);
            self::assertFileDoesNotExist($this->path('out.glb'));
        }
        [$code, , $error] = $this->isotome('move', $recipe, $this->path('box.stl'), '--movement', $good, '--out', $this->path('out.obj'));
        self::assertSame([2, true], [$code, str_contains($error, 'name a file that ends in .glb.')]);
        [$code, $said] = $this->isotome('move', $recipe, $this->path('box.stl'), '--movement', $good, '--out', $this->path('out.glb'), '--frames', '10', '--fps', '24');
        self::assertSame([0, "out.glb  1 piece, 10 frames at 24 a second\n"], [$code, $said]);
    }
}
