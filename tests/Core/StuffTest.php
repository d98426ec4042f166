<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Exception\BadCommand;
use Isotome\Format\MeshFile;
use Isotome\Format\Picture;
use Isotome\Format\Stuff;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\PaintedGlb;
use Tests\Support\Png;
use Tests\Support\RunsIsotome;
use Tests\Support\Solids;

/** Pictures for the inside that are always there, and the command line that lays them on. */
final class StuffTest extends TestCase
{
    use Folder;
    use RunsIsotome;

    public function test_they_go_on_beyond_their_edges_and_are_the_same_every_time(): void
    {
        self::assertSame(['stone', 'oak', 'clay', 'plaster'], array_keys(Stuff::WIDTHS));
        $seen = [];
        foreach (array_keys(Stuff::WIDTHS) as $name) {
            $png = Stuff::png($name);
            self::assertNull(Picture::fault($png, 256));
            $seen[hash('sha256', $png)] = true;
            $rows = Png::rows($png);
            // From the last row or column to the first it changes no more than between others.
            $across = static fn (int $x): int => array_sum(array_map(static fn (array $row): int => abs($row[3 * $x] - $row[3 * (($x + 1) % 256)]), $rows));
            $down = static fn (int $y): int => array_sum(array_map(static fn (int $one, int $other): int => abs($one - $other), $rows[$y], $rows[($y + 1) % 256]));
            self::assertLessThanOrEqual(1.3 * max(array_map($across, range(0, 254))), $across(255), $name);
            self::assertLessThanOrEqual(1.3 * max(array_map($down, range(0, 254))), $down(255), $name);
            self::assertGreaterThan(0, $across(255));
        }
        self::assertCount(4, $seen);
        $this->expectException(BadCommand::class);
        $this->expectExceptionMessage('There is no picture called jade; choose one of stone, oak, clay, plaster.');
        Stuff::png('jade');
    }

    private function recipe(): string
    {
        file_put_contents($this->path('recipe.json'), '{"isotome_recipe":1,"steps":[{"do":"cut","blade":{"kind":"flat","through":[5,5,5],"facing":[0.3,0.2,1]}}]}');
        MeshFile::write(Solids::box(10, 10, 10), $this->path('box.stl'));

        return $this->path('recipe.json');
    }

    public function test_the_command_line_lays_them_on(): void
    {
        file_put_contents($this->path('slate.png'), PaintedGlb::png());
        foreach ([['oak'], ['stone', '--inside-mm', '12.5', '--inside-turn', '90'], ['#c9b79c'], [$this->path('slate.png'), '--inside-mm', '30']] as $n => $inside) {
            [$code, , $errors] = $this->isotome('run', $this->recipe(), $this->path('box.stl'), '--out', $this->path("out$n"), '--as', 'glb', '--together', '--inside', ...$inside);
            self::assertSame([0, ''], [$code, $errors]);
            $bytes = (string) file_get_contents($this->path("out$n/box.glb"));
            $json = json_decode(substr($bytes, 20, ((array) unpack('V', $bytes, 12))[1]), true);
            self::assertIsArray($json);
            $materials = array_values(array_filter($json['materials'], static fn (array $material): bool => $material['name'] === 'inside'));
            if (str_starts_with($inside[0], '#')) {
                self::assertSame([0.584078, 0.473531, 0.332452], array_map(static fn (float $part): float => round($part, 6), array_map(static fn (int $part): float => ($part / 255 + 0.055) ** 2.4 / 1.055 ** 2.4, [0xC9, 0xB7, 0x9C])));
                self::assertEqualsWithDelta([0.584078, 0.473531, 0.332452, 1.0], $materials[0]['pbrMetallicRoughness']['baseColorFactor'], 1e-4);
            } else {
                self::assertCount(1, $materials);
                self::assertSame(1, substr_count($bytes, $n === 3 ? PaintedGlb::png() : Stuff::png($inside[0])));
            }
        }
    }

    /** @return iterable<string, array{list<string>, string}> */
    public static function wrong(): iterable
    {
        yield 'no such file' => [['--inside', 'jade'], '--inside names jade, which is no picture that can be opened; choose one of stone, oak, clay, plaster, a colour such as #c9b79c, or a file.'];
        yield 'no colour' => [['--inside', '#12345'], 'The colour of the inside is "#12345"; write it as #rrggbb, such as #c9b79c.'];
        yield 'no number' => [['--inside', 'oak', '--inside-mm', 'wide'], '--inside-mm is wide; give a number.'];
        yield 'no width' => [['--inside', 'oak', '--inside-mm', '0'], 'The width of a picture is 0.1 to 100,000 mm; give another one.'];
        yield 'nothing to turn' => [['--inside-turn', '5'], '--inside-turn goes with --inside and a picture.'];
    }

    /** @param  list<string>  $options */
    #[DataProvider('wrong')]
    public function test_what_cannot_be_laid_on_is_refused(array $options, string $said): void
    {
        [$code, , $errors] = $this->isotome('run', $this->recipe(), $this->path('box.stl'), '--out', $this->path('out'), '--as', 'glb', ...$options);
        self::assertSame([2, "isotome: $said\n"], [$code, $errors]);
        self::assertDirectoryDoesNotExist($this->path('out'));
    }
}
