<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Mesh\Digest;
use Isotome\Mesh\Packing;
use PHPUnit\Framework\TestCase;
use Tests\Support\Skins;
use Tests\Support\Solids;

final class DigestTest extends TestCase
{
    /** Source: FIPS 180-4, the examples that NIST publishes with it. */
    public function test_it_gives_what_the_standard_gives(): void
    {
        self::assertSame('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad', Digest::of('abc'));
        self::assertSame('e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855', Digest::of(''));
        $bytes = str_repeat("\x00\xff", 70_000);
        self::assertSame(hash('sha256', $bytes), Digest::of($bytes));
    }

    public function test_a_mesh_has_the_same_hash_at_once_and_chunk_by_chunk(): void
    {
        foreach ([Solids::sphere(5, 5), Skins::linear(Solids::torus(9, 2, 60, 40))] as $mesh) {
            self::assertSame(Packing::hash($mesh), Packing::hash($mesh, 0));
        }
    }
}
