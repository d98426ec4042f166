<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Format\StlReader;
use Isotome\Mesh\EdgeCheck;
use Isotome\Operation\Manifest;
use Isotome\Operation\Piece;
use Isotome\Operation\Recipe;
use Isotome\Operation\Runner;
use PHPUnit\Framework\TestCase;
use RuntimeException;
use Tests\Support\Folder;
use Tests\Support\Solids;

final class ManifestTest extends TestCase
{
    use Folder;

    private function folder(): string
    {
        return dirname($this->path('x'));
    }

    public function test_names_that_clash_as_files_get_files_of_their_own(): void
    {
        $pieces = array_map(static fn (string $name): Piece => new Piece($name, Solids::box(1, 1, 1)), ['Jar', 'jar', 'ja/r', 'ja r', 'manifest']);
        $document = Manifest::write($this->folder(), [], [], $pieces, []);
        $files = array_column($document['pieces'], 'file');
        self::assertSame(['Jar.stl', 'jar-2.stl', 'ja-r.stl', 'ja-r-2.stl', 'manifest-2.stl'], $files);
        foreach ($files as $file) {
            self::assertFileExists($this->path($file));
        }
        self::assertSame($document, json_decode((string) file_get_contents($this->path('manifest.json')), true));
    }

    public function test_a_piece_thinner_than_the_numbers_of_the_file_is_named_and_leaves_no_file(): void
    {
        $document = Manifest::write($this->folder(), [], [], [
            new Piece('jar', Solids::box(1, 1, 1)), new Piece('film', Solids::box(1, 1, 1e-13, [5.0, 5.0, 5.0])),
        ], []);
        self::assertSame([['jar'], ['film']], [array_column($document['pieces'], 'name'), $document['too_thin_for_file']]);
        self::assertFileDoesNotExist($this->path('film.stl'));
    }

    /** The measures are those of the file: a body whose edges fall together there is told as the file has it. */
    public function test_counts_are_those_of_the_file(): void
    {
        $close = Solids::together(Solids::box(1, 1, 1), Solids::box(1, 1, 1, [1 + 1e-12, 1 + 1e-12, 0.0]));
        $document = Manifest::write($this->folder(), [], [], [new Piece('pair', $close, watertight: true)], []);
        $read = StlReader::read($this->path('pair.stl'))->mesh;
        $entry = $document['pieces'][0];
        self::assertSame([$read->triangleCount(), $read->vertexCount(), true], [$entry['triangles'], $entry['vertices'], $entry['watertight']]);
        self::assertTrue(EdgeCheck::of($read)->isWatertight());
        self::assertGreaterThan(24, $entry['triangles'], 'the shared edge was told apart by a point of its own');
        self::assertSame(1, $entry['shells']);
    }

    public function test_a_folder_that_cannot_be_written_is_told(): void
    {
        $this->expectException(RuntimeException::class);
        $this->expectExceptionMessage('cannot be written');
        Manifest::write($this->path('nowhere'), [], [], [new Piece('jar', Solids::box(1, 1, 1))], []);
    }

    /** Steps taken in one go and steps taken up later, as the application does, are the same steps. */
    public function test_going_on_after_earlier_steps_changes_nothing(): void
    {
        $cut = static fn (array $through, array $facing): array => ['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => $through, 'facing' => $facing]];
        $steps = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [$cut([0, 0, 1], [0.1, 0, 1]), $cut([1, 0, 0], [1, 0, 0])]])->steps;
        $torus = Solids::torus(20, 7, 24, 16);
        $whole = Runner::on('ring', $torus);
        $first = Runner::on('ring', $torus);
        $whole->run($steps[0]);
        $whole->run($steps[1]);
        $first->run($steps[0]);
        $second = Runner::resume(array_values($first->pieces()), 1, count($first->pieces()));
        $second->run($steps[1]);
        self::assertEquals($whole->pieces(), $second->pieces());
    }

    public function test_a_run_can_be_stopped_from_its_progress_and_leaves_the_pieces(): void
    {
        $runner = Runner::on('box', Solids::box(1, 1, 1));
        $step = Recipe::fromArray(['isotome_recipe' => 1, 'steps' => [['do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => [0, 0, 0.5], 'facing' => [0, 0, 1]]]]])->steps[0];
        $told = [];
        try {
            $runner->run($step, static function (float $share) use (&$told): void {
                $told[] = $share;
                throw new RuntimeException('stop');
            });
            self::fail('it went on');
        } catch (RuntimeException) {
            self::assertSame([1.0], $told);
        }
        self::assertSame([['box'], []], [array_keys($runner->pieces()), $runner->records()]);
    }
}
