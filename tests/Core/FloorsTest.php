<?php

declare(strict_types=1);

namespace Tests\Core;

use PHPUnit\Framework\TestCase;

/**
 * The core is a house with floors: a room uses rooms below it, rooms of one floor use each other in one direction only, and nothing goes upwards.
 * The arrows are drawn from what each file names of other rooms.
 */
final class FloorsTest extends TestCase
{
    /** Rooms by floor, from below. */
    private const FLOORS = [
        ['Exception', 'Schema', 'Geometry', 'Process'],
        ['Mesh'],
        ['Check', 'Seal', 'Measure', 'Format', 'Solid'],
        ['Mend'],
        ['Cut', 'Cells', 'Drawn', 'Mirror', 'Join'],
        ['Fit', 'Plate', 'Plan', 'Motion'],
        ['Operation'],
    ];

    /** @return array<string, array<string, list<string>>> files by room and by the room that they name */
    private static function arrows(): array
    {
        $core = dirname(__DIR__, 2).'/core';
        $arrows = [];
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($core, \FilesystemIterator::SKIP_DOTS)) as $file) {
            $path = substr((string) $file, strlen($core) + 1);
            $from = (string) strtok($path, '/');
            preg_match_all('/\bIsotome\\\\(\w+)\\\\/', (string) file_get_contents((string) $file), $named);
            foreach (array_unique($named[1]) as $to) {
                if ($to !== $from) {
                    $arrows[$from][$to][] = $path;
                }
            }
        }

        return $arrows;
    }

    public function test_every_room_stands_on_a_floor(): void
    {
        $rooms = array_map(basename(...), glob(dirname(__DIR__, 2).'/core/*', GLOB_ONLYDIR) ?: []);
        self::assertEqualsCanonicalizing($rooms, array_merge(...self::FLOORS));
    }

    public function test_no_arrow_goes_upwards(): void
    {
        $floor = [];
        foreach (self::FLOORS as $n => $rooms) {
            $floor += array_fill_keys($rooms, $n);
        }
        $arrows = self::arrows();
        self::assertGreaterThan(40, count($arrows, COUNT_RECURSIVE));
        foreach ($arrows as $from => $all) {
            foreach ($all as $to => $files) {
                self::assertLessThanOrEqual($floor[$from], $floor[$to], "$from uses $to, which is above it: ".implode(', ', $files));
            }
        }
    }

    public function test_there_is_no_circle(): void
    {
        $arrows = array_map(array_keys(...), self::arrows());
        // Rooms that use only rooms which are gone already go (A. B. Kahn 1962, "Topological sorting of large networks"); a circle is what stays.
        $left = array_fill_keys(array_merge(...self::FLOORS), true);
        do {
            $before = count($left);
            foreach (array_keys($left) as $room) {
                if (array_intersect_key(array_fill_keys($arrows[$room] ?? [], true), $left) === []) {
                    unset($left[$room]);
                }
            }
        } while (count($left) < $before);
        self::assertSame([], array_keys($left));
    }

    public function test_error_bounds_stand_in_one_place(): void
    {
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator(dirname(__DIR__, 2).'/core', \FilesystemIterator::SKIP_DOTS)) as $file) {
            $path = (string) $file;
            if (! str_ends_with($path, 'ErrorBound.php')) {
                self::assertDoesNotMatchRegularExpression('/\b(8e-16|1\.11\d+e-16|2\.22\d+e-16|3\.33\d+e-16|7\.77\d+e-16)\b/i', (string) file_get_contents($path), $path);
            }
        }
    }
}
