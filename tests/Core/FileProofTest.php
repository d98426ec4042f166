<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Check\Crossings;
use Isotome\Format\Rounded;
use Isotome\Mend\Mend;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Places;
use Isotome\Mesh\Volume;
use Isotome\Solid\Combined;
use Isotome\Solid\FileProof;
use PHPUnit\Framework\TestCase;
use RuntimeException;
use Tests\Support\SolidPairs;
use Tests\Support\Solids;

final class FileProofTest extends TestCase
{
    public function test_files_of_what_is_made_of_unlucky_pairs_are_solid(): void
    {
        $crossed = $same = 0;
        foreach ((new SolidPairs(6))->results(120) as $what => $body) {
            $proof = FileProof::of($body);
            $same += $proof === $body ? 1 : 0;
            $crossed += Crossings::of(Places::joined(Rounded::of($body)))->pairs === [] ? 0 : 1;
            $file = Rounded::of($proof);
            if ($file->isEmpty()) {
                self::assertLessThan(1e-6, Volume::of($body), $what);

                continue;
            }
            self::assertTrue(EdgeCheck::of($file)->isWatertight(), $what);
            self::assertSame([], Crossings::of(Places::joined($file))->pairs, $what);
            self::assertEqualsWithDelta(Volume::of($body), Volume::of($file), 1e-5 * Volume::of($body) + 1e-9, $what);
            // What was changed is in the file as it is.
            self::assertTrue($proof === $body || $file->xyz === $proof->xyz, $what);
        }
        self::assertGreaterThan(20, $crossed);
        self::assertGreaterThan(200, $same);
    }

    public function test_it_can_be_stopped(): void
    {
        foreach ((new SolidPairs(6))->results(120) as $body) {
            if (FileProof::of($body) !== $body) {
                $this->expectExceptionMessage('stopped');
                FileProof::of($body, static fn (float $share) => throw new RuntimeException('stopped'));
            }
        }
    }

    public function test_wedges_that_touch_along_an_edge_do_not_cross_in_a_file(): void
    {
        // Two bars side by side between two plates touch along an edge; turned, its points are no numbers of a file.
        $cells = Solids::cells(2, 2, 3, static fn (int $x, int $y, int $z): bool => $z !== 1 || $x === $y);
        $found = 0;
        for ($n = 0; $n < 12; $n++) {
            $touching = Places::joined(Solids::moved($cells, 0.3 + $n, 0.2 * $n, 0.1, 7.3, [0.1, 10.0 * $n, 0.3]));
            self::assertGreaterThan(0, EdgeCheck::of($touching)->nonmanifoldEdges);
            foreach ([Combined::solid([$touching], static fn (array $windings): bool => $windings[0] > 0), Mend::of($touching)->mesh] as $mesh) {
                self::assertTrue(EdgeCheck::of($mesh)->isWatertight());
                $file = Rounded::of($mesh);
                self::assertTrue(EdgeCheck::of($file)->isWatertight());
                self::assertSame([], Crossings::of(Places::joined($file))->pairs, "turned $n");
                self::assertSame(EdgeCheck::of(Places::joined($file))->nonmanifoldEdges, 0);
                self::assertEqualsWithDelta(10 * 7.3 ** 3, Volume::of($file), 1e-4 * 7.3 ** 3);
                $found += $file->vertexCount() > 26 ? 1 : 0;
            }
        }
        self::assertGreaterThan(0, $found);
    }
}
