<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\Report;
use Isotome\Exception\Refusal;
use Isotome\Format\MeshFile;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\FormatGrammar;
use Tests\Support\HostileFiles;

/** Files that are made to cost much are refused in a sentence, or read, within two seconds of the processor and 300 MB. */
final class HostileFilesTest extends TestCase
{
    use Folder;

    private const SECONDS = 2.0;

    private const MEMORY = 300_000_000;

    /** @return array<string, array{string}> */
    public static function files(): array
    {
        return HostileFiles::names();
    }

    #[DataProvider('files')]
    public function test_it_is_refused_in_a_sentence_and_soon(string $name): void
    {
        [$ending, $bytes] = HostileFiles::make($name);
        $says = $this->within($this->file("hostile.$ending", $bytes), self::SECONDS, self::MEMORY);
        self::assertMatchesRegularExpression('/^The (file|[A-Z0-9]+ file) hostile\.[^\n\x00-\x1f]{20,400}[;:,] [^\n\x00-\x1f]+\.$/u', (string) $says);
    }

    /** @return array<string, array{int, int}> */
    public static function polygons(): array
    {
        return HostileFiles::polygons();
    }

    #[DataProvider('polygons')]
    public function test_polygons_that_cross_themselves_are_read_soon(int $corners, int $many): void
    {
        self::assertNull($this->within($this->file('tangled.obj', HostileFiles::tangled($corners, $many)), $corners > 10_000 ? 10.0 : self::SECONDS, self::MEMORY));
        self::assertSame(($corners - 2) * $many, MeshFile::read($this->path('tangled.obj'))->mesh->triangleCount());
    }

    public function test_off_says_the_line(): void
    {
        self::assertStringContainsString('at line 4:', (string) $this->within($this->file('bad.off', "OFF\n3 1 0\n0 0 0\n1 x 0\n0 1 0\n3 0 1 2\n"), self::SECONDS, self::MEMORY));
        self::assertStringContainsString('at line 7:', (string) $this->within($this->file('bad.off', "OFF\n\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n3 0 1 9\n"), self::SECONDS, self::MEMORY));
    }

    /** @return iterable<string, array{string}> */
    public static function formats(): iterable
    {
        foreach (MeshFile::FORMATS as $format) {
            yield $format => [$format];
        }
    }

    #[DataProvider('formats')]
    public function test_what_the_grammar_makes_is_read_or_refused_in_a_sentence(string $format): void
    {
        $read = 0;
        for ($n = 0; $n < 120; $n++) {
            $says = $this->within($this->file("made.$format", (new FormatGrammar(5_000_001 + $n, [500, 3000, 20_000][$n % 3]))->file($format)), 5.0, 500_000_000);
            $read += $says === null ? 1 : 0;
            self::assertMatchesRegularExpression('/^[A-Z][^\n\x00-\x1f]{20,400}\.$/u', $says ?? 'It was read, and there is nothing to say.', "$format, case $n");
            self::assertStringNotContainsString('at line 0', (string) $says);
        }
        self::assertGreaterThan(10, $read, 'the grammar makes files that are read to their end');
    }

    /** @return string|null the refusal; null when the file was read */
    private function within(string $path, float $seconds, int $memory): ?string
    {
        $processor = static fn (): float => array_sum(array_map(static fn (string $of): float => getrusage()["ru_$of.tv_sec"] + getrusage()["ru_$of.tv_usec"] / 1e6, ['utime', 'stime']));
        memory_reset_peak_usage();
        $before = memory_get_usage();
        $start = $processor();
        $says = null;
        try {
            $read = MeshFile::read($path);
            Report::of($read->mesh, $read->collapsed, false)->toArray();
        } catch (Refusal $refusal) {
            $says = $refusal->getMessage();
        }
        self::assertLessThan($seconds, $processor() - $start, "seconds of the processor for $path");
        self::assertLessThan($memory, memory_get_peak_usage() - $before, "bytes of memory for $path");

        return $says;
    }
}
