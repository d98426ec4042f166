<?php

declare(strict_types=1);

namespace App\Meshes;

use App\Models\Mesh;
use Closure;
use Isotome\Mesh\Coarse;
use Isotome\Mesh\InsidePlaces;
use Isotome\Mesh\Mesh as Whole;
use Isotome\Mesh\OwnColours;
use Isotome\Mesh\OwnPictures;
use Isotome\Mesh\Packing;
use Isotome\Mesh\Skin;
use Isotome\Mesh\SkinBytes;

/**
 * A mesh for the view, as bytes (little-endian): "ISO1", u32 vertices, u32 triangles, u32 zero, 3 × f64 centre, 3 × f32 a
 * vertex counted from the centre, 3 × u32 a triangle, u16 tag a triangle, and padding to a multiple of 8.
 */
final class Geometry
{
    /** Triangles from which on the bytes are kept in a file: they take long to put together. */
    private const LARGE = 20_000;

    /** Triangles from which on there is a rough stand-in as well, for the first picture; and its cells along the longest side. */
    private const ROUGH = 200_000;

    private const CELLS = 110;

    public function __construct(private readonly MeshStore $store)
    {
    }

    public function bytes(Mesh $mesh): string
    {
        if ($mesh->triangles < self::LARGE) {
            return self::of($mesh, $this->store->get($mesh));
        }
        $kept = @file_get_contents(self::path($mesh->hash));

        return $kept === false || $kept === '' ? $this->keep($mesh, $this->store->get($mesh)) : $kept;
    }

    /** The file that holds the bytes of a large mesh, or of its rough stand-in, when it is there. */
    public function kept(Mesh $mesh, bool $isRough): ?string
    {
        if ($mesh->triangles < self::LARGE) {
            return null;
        }
        $path = self::path($isRough && $mesh->triangles >= self::ROUGH ? $mesh->hash.'.rough' : $mesh->hash);

        return (int) @filesize($path) > 0 ? $path : null;
    }

    /** A rough stand-in of a large mesh; the mesh itself when it is not large. */
    public function rough(Mesh $mesh): string
    {
        if ($mesh->triangles < self::ROUGH) {
            return $this->bytes($mesh);
        }
        $kept = @file_get_contents(self::path($mesh->hash.'.rough'));
        if ($kept !== false && $kept !== '') {
            return $kept;
        }
        $whole = $this->store->get($mesh);
        $this->keep($mesh, $whole);

        return self::of($mesh, Coarse::of($whole, self::CELLS));
    }

    /** The colours that a mesh carries, see OwnColours; none when it carries none. */
    public function colours(Mesh $mesh): string
    {
        return $this->ofSkin($mesh, '.colours', OwnColours::of(...));
    }

    /**
     * The pictures on a mesh, see OwnPictures: u32 length of a description in JSON, the description, a byte a triangle for its sheet, padding to a multiple of 4,
     * and six f32 a triangle. None when there are no pictures on it.
     */
    public function pictures(Mesh $mesh): string
    {
        return $this->ofSkin($mesh, '.pictures', self::picturesOf(...));
    }

    /** @param  Closure(Skin): string  $make */
    private function ofSkin(Mesh $mesh, string $kind, Closure $make): string
    {
        // Kept for large meshes; nothing is an answer as well.
        $kept = @file_get_contents(self::path($mesh->hash.$kind));
        if ($kept !== false) {
            return $kept;
        }
        $skin = $this->store->skin($mesh);

        return $skin === null ? '' : $make($skin);
    }

    private static function picturesOf(Skin $skin): string
    {
        $own = OwnPictures::of($skin);
        if ($own === null) {
            return '';
        }
        $hashes = SkinBytes::hashes($skin);
        $sheets = [];
        foreach ($own->sheets as $sheet) {
            $size = @getimagesizefromstring($skin->looks->pictures[$sheet['picture']]['bytes']) ?: [0, 0];
            $sheets[] = [...$sheet, 'picture' => $hashes[$sheet['picture']], 'pixels' => [$size[0], $size[1]]];
        }
        $text = json_encode(['sheets' => $sheets], JSON_THROW_ON_ERROR);
        $text .= str_repeat(' ', -strlen($text) & 3);

        return pack('V', strlen($text)).$text.$own->numbers.str_repeat("\0", -strlen($own->numbers) & 3).$own->coordinates;
    }

    /** For each corner of each inside triangle, in their order, across and up on its face: two f32, mm. See InsidePlaces. */
    public function insidePlaces(Mesh $mesh): string
    {
        $whole = $this->store->get($mesh);
        $places = InsidePlaces::of($whole);
        $bytes = '';
        foreach ($whole->tags as $t => $tag) {
            if ($tag > 0) {
                $bytes .= pack('g6', ...array_values((array) unpack('e6', $places, 48 * $t)));
            }
        }

        return $bytes;
    }

    /** Puts the bytes of a large mesh aside, so that its first picture need not wait for them. */
    public function keep(Mesh $mesh, Whole $whole): string
    {
        $bytes = self::of($mesh, $whole);
        if ($mesh->triangles >= self::LARGE) {
            self::write(self::path($mesh->hash), $bytes);
            if ($whole->skin !== null) {
                self::write(self::path($mesh->hash.'.colours'), OwnColours::of($whole->skin));
                self::write(self::path($mesh->hash.'.pictures'), self::picturesOf($whole->skin));
            }
        }
        if ($mesh->triangles >= self::ROUGH) {
            self::write(self::path($mesh->hash.'.rough'), self::of($mesh, Coarse::of($whole, self::CELLS)));
        }

        return $bytes;
    }

    /** A copy that can be made again, whole or not at all; a full disk is no error. */
    public static function write(string $path, string $bytes): void
    {
        @mkdir(dirname($path), 0700, true);
        // Whole or not there: another process may read it now.
        $part = $path.'.'.getmypid();
        if (@file_put_contents($part, $bytes) === strlen($bytes)) {
            @rename($part, $path);
        } else {
            @unlink($part);
        }
    }

    /** @param  list<string>  $hashes */
    public static function forget(array $hashes): void
    {
        foreach ($hashes as $hash) {
            foreach (['', '.rough', '.colours', '.pictures'] as $kind) {
                @unlink(self::path($hash.$kind));
            }
        }
        Pictures::forget($hashes);
    }

    private static function path(string $hash): string
    {
        return storage_path("geometry/$hash.bin");
    }

    private static function of(Mesh $mesh, Whole $whole): string
    {
        [$cx, $cy, $cz] = $centre = $mesh->centre();
        $near = [];
        $xyz = $whole->xyz;
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $near[] = $xyz[$i] - $cx;
            $near[] = $xyz[$i + 1] - $cy;
            $near[] = $xyz[$i + 2] - $cz;
        }
        $bytes = 'ISO1'.pack('V3', $whole->vertexCount(), $whole->triangleCount(), 0).Packing::doubles($centre)
            .Packing::singles($near).Packing::longs($whole->corners).Packing::shorts($whole->tags);

        return $bytes.str_repeat("\0", -strlen($bytes) & 7);
    }
}
