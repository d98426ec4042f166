<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Format\MeshFile;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Damage;
use Tests\Support\Folder;
use Tests\Support\RunsIsotome;
use Tests\Support\Solids;
use Tests\Support\Steps;

/** Commands with something wrong in them, fixed seeds: exit code 0, 1 or 2 as the contract says, one line when refused, and no file left. */
final class CommandLineFuzzTest extends TestCase
{
    use Folder;
    use RunsIsotome;

    /** @return iterable<string, array{list<string>, int}> words that are right, IN and OUT standing for files */
    public static function commands(): iterable
    {
        $seed = 600;
        foreach ([
            'check' => ['check', 'IN', '--units', 'cm', '--json', '--places'],
            'mend' => ['mend', 'IN', 'OUT.ply', '--json'],
            'run' => ['run', 'RECIPE', 'IN', '--out', 'OUT', '--as', 'glb', '--together', '--density', '1.8', '--json'],
            'section' => ['section', 'IN', '--through', '0,0,1', '--facing', '0,0.2,-1', '--svg', 'OUT.svg', '--json'],
            'profile' => ['profile', 'IN', '--facing', '-1,0,0', '--samples', '12', '--json'],
            'convert' => ['convert', 'IN', 'OUT.3mf'],
        ] as $name => $words) {
            yield $name => [$words, $seed++];
        }
    }

    /** @param  list<string>  $words */
    #[DataProvider('commands')]
    public function test_whatever_is_typed_is_done_or_refused_in_a_line(array $words, int $seed): void
    {
        MeshFile::write(Solids::torus(20, 7, 12, 8), $this->path('jar.obj'), 'jar');
        $this->file('broken.obj', "v 0 0 0\nv 1 0 0\nf 1 2 3\n");
        $this->file('empty.stl', '');
        $this->file('recipe.json', (string) json_encode(['isotome_recipe' => 1, 'steps' => [Steps::all()['uniform']]]));
        $damage = new Damage($seed);
        $odd = [
            '', '-1', '0', '1e999', 'nan', '0,0,0', '1,2', '1,2,3,4', ',,', 'x', '--', '-', '--json', '--nonsense', '--units', 'no/../folder', "line\nbreak", "\u{1b}[31m", '😀', str_repeat('9', 400),
            $this->path('missing.stl'), $this->path('broken.obj'), $this->path('empty.stl'), $this->path('recipe.json'), $this->path('no/such/folder/x.stl'), dirname($this->path('recipe.json')), '%s%n', '$(id)', '*',
        ];
        $home = (string) getcwd();
        $codes = [];
        // No word names a place outside this folder: tests may run with every right.
        for ($n = 0; $n < 24; $n++) {
            $typed = array_map(fn (string $word): string => match ($word) {
                'IN' => $this->path('jar.obj'), 'RECIPE' => $this->path('recipe.json'), default => str_starts_with($word, 'OUT') ? $this->path("made-$n".substr($word, 3)) : $word,
            }, $words);
            for ($changes = 1 + $n % 2; $changes > 0 && $n > 0; $changes--) {
                /** @var int $at */
                $at = $damage->one(array_keys($typed));
                $word = (string) $damage->one($odd);
                $typed = array_values(match ($damage->one([0, 1, 2])) {
                    0 => [...array_slice($typed, 0, $at), ...array_slice($typed, $at + 1)],
                    1 => [...array_slice($typed, 0, $at), $word, ...array_slice($typed, $at + 1)],
                    default => [...array_slice($typed, 0, $at), $word, ...array_slice($typed, $at)],
                });
                $typed = $typed === [] ? ['check'] : $typed;
            }
            $before = $this->files();
            // What is typed without a folder is meant here.
            chdir(dirname($this->path('jar.obj')));
            [$code, $out, $error] = $this->isotome(...$typed);
            chdir($home);
            $shown = implode(' ', $typed).": $error";
            $codes[$code] = ($codes[$code] ?? 0) + 1;
            self::assertContains($code, [0, 1, 2], $shown);
            if ($code === 2) {
                self::assertSame('', $out, $shown);
                self::assertMatchesRegularExpression('/^isotome: [^\n]{10,}\.\n$/u', $error, $shown);
                self::assertSame($before, $this->files(), $shown);
            } else {
                self::assertSame('', $error, $shown);
            }
            self::assertStringNotContainsString('error of the program', $error, $shown);
            self::assertStringNotContainsString('Stack trace', $out.$error, $shown);
        }
        self::assertGreaterThan(5, $codes[2] ?? 0);
        self::assertGreaterThan(0, ($codes[0] ?? 0) + ($codes[1] ?? 0));
    }

    /** Renaming a finished file onto a device or a pipe would put a file in its place. */
    public function test_what_is_no_ordinary_file_is_not_replaced(): void
    {
        MeshFile::write(Solids::box(1, 2, 3), $this->path('box.stl'), 'box');
        posix_mkfifo($this->path('pipe.stl'), 0600);
        mkdir($this->path('folder.stl'));
        foreach (['pipe.stl' => 'fifo', 'folder.stl' => 'dir'] as $name => $type) {
            [$code, $out, $error] = $this->isotome('convert', $this->path('box.stl'), $this->path($name));
            self::assertSame([2, '', 'isotome: The file '.$this->path($name)." cannot be written, for it is no ordinary file; give another name.\n"], [$code, $out, $error]);
            self::assertSame($type, filetype($this->path($name)));
        }
        self::assertSame(['box.stl', 'folder.stl', 'pipe.stl'], array_values(array_diff(scandir(dirname($this->path('box.stl'))) ?: [], ['.', '..'])));
        // An ordinary one is replaced, whole.
        $this->file('old.ply', 'old');
        self::assertSame(0, $this->isotome('convert', $this->path('box.stl'), $this->path('old.ply'))[0]);
        self::assertSame(12, MeshFile::read($this->path('old.ply'))->mesh->triangleCount());
    }

    /** @return list<string> */
    private function files(): array
    {
        return array_values(array_diff(scandir(dirname($this->path('jar.obj'))) ?: [], ['.', '..']));
    }
}
