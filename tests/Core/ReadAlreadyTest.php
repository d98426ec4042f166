<?php

declare(strict_types=1);

namespace Tests\Core;

use Isotome\Format\MeshFile;
use Isotome\Format\ReadAlready;
use Isotome\Format\ReadMesh;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\PaintedGlb;
use Tests\Support\Skins;
use Tests\Support\Solids;

/** What was read of a file comes back as it was, or not at all. */
final class ReadAlreadyTest extends TestCase
{
    use Folder;

    public function test_a_painted_mesh_comes_back_with_all_that_it_carries(): void
    {
        file_put_contents($this->path('painted.glb'), PaintedGlb::box());
        $read = MeshFile::read($this->path('painted.glb'));
        self::assertTrue(ReadAlready::write($read, $this->path('put')));
        $back = ReadAlready::read($this->path('put')) ?? [];
        self::assertSame([''], array_keys($back));
        self::assertSame(Packing::hash($read->mesh), Packing::hash($back['']));
        self::assertSame(array_column($read->mesh->skin->looks->pictures ?? [], 'bytes'), array_column($back['']->skin->looks->pictures ?? [], 'bytes'));
        self::assertFalse(ReadAlready::isWorth($read));
    }

    public function test_parts_come_back_by_name(): void
    {
        $parts = ['Wheel é' => Skins::linear(Solids::torus(9, 2, 20, 12)), '7 spokes' => Solids::box(1, 2, 3)];
        self::assertTrue(ReadAlready::write(new ReadMesh($parts['7 spokes'], 0, 'GLB', $parts), $this->path('put')));
        $back = ReadAlready::read($this->path('put')) ?? [];
        self::assertSame(array_map(Packing::hash(...), $parts), array_map(Packing::hash(...), $back));
        self::assertSame(array_map(static fn (Mesh $mesh): array => $mesh->xyz, $parts), array_map(static fn (Mesh $mesh): array => $mesh->xyz, $back));
    }

    /** A kill, a full disk, another version. */
    public function test_what_is_not_whole_is_nothing(): void
    {
        $read = new ReadMesh(Skins::linear(Solids::box(1, 2, 3)), 0, 'STL');
        ReadAlready::write($read, $this->path('put'));
        $bytes = (string) file_get_contents($this->path('put'));
        foreach ([0, 5, 20, 60, intdiv(strlen($bytes), 2), strlen($bytes) - 1] as $length) {
            file_put_contents($this->path('cut'), substr($bytes, 0, $length));
            self::assertNull(ReadAlready::read($this->path('cut')), "cut off after $length bytes");
        }
        file_put_contents($this->path('cut'), str_replace('isotome read 1', 'isotome read 0', $bytes));
        self::assertNull(ReadAlready::read($this->path('cut')));
        self::assertNull(ReadAlready::read($this->path('nothing')));
        self::assertFalse(ReadAlready::write($read, $this->path('no folder/put')));
    }
}
