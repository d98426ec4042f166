<?php

declare(strict_types=1);

namespace App\Meshes;

/** Small pictures of meshes, as files beside their geometry: copies, drawn again when missing. */
final class Pictures
{
    /** As resources/ts/view/picture.ts draws them. */
    public const WIDTH = 640;

    public const HEIGHT = 460;

    /** Bytes. */
    private const LARGEST = 400_000;

    /** Of one mesh: by day and by night, in some colours. */
    private const MOST = 8;

    public static function get(string $hash, string $colour, string $theme): ?string
    {
        $png = @file_get_contents(self::path($hash, $colour, $theme));

        return $png === false || $png === '' ? null : $png;
    }

    /** @return bool false when it is no PNG of the right size */
    public static function put(string $hash, string $colour, string $theme, string $png): bool
    {
        $size = strlen($png) > self::LARGEST ? false : @getimagesizefromstring($png);
        if ($size === false || $size[2] !== IMAGETYPE_PNG || $size[0] !== self::WIDTH || $size[1] !== self::HEIGHT) {
            return false;
        }
        $had = self::all($hash);
        if (count($had) >= self::MOST) {
            @unlink($had[0]);
        }
        Geometry::write(self::path($hash, $colour, $theme), $png);

        return true;
    }

    /** @param  list<string>  $hashes */
    public static function forget(array $hashes): void
    {
        if ($hashes === []) {
            return;
        }
        // One look at the folder for all of them.
        $gone = array_fill_keys($hashes, true);
        foreach (glob(storage_path('geometry/*.png')) ?: [] as $path) {
            if (isset($gone[substr(basename($path), 0, strlen($hashes[0]))])) {
                @unlink($path);
            }
        }
    }

    /** @return list<string> */
    private static function all(string $hash): array
    {
        return glob(storage_path("geometry/$hash-*.png")) ?: [];
    }

    private static function path(string $hash, string $colour, string $theme): string
    {
        return storage_path("geometry/$hash-$colour-$theme.png");
    }
}
