<?php

declare(strict_types=1);

namespace Isotome\Format;

/** Pictures as bytes: PNG, JPEG and WebP, told by how they begin (W3C, ITU-T T.81, RFC 9649). They are measured by their headers and never decoded. */
final class Picture
{
    /** Pixels of a side. */
    public const LONGEST = 16_384;

    /** @return string media type; empty when it is none of these */
    public static function kind(string $bytes): string
    {
        return match (true) {
            str_starts_with($bytes, "\x89PNG\r\n\x1a\n") => 'image/png',
            str_starts_with($bytes, "\xff\xd8\xff") => 'image/jpeg',
            str_starts_with($bytes, 'RIFF') && substr($bytes, 8, 4) === 'WEBP' => 'image/webp',
            default => '',
        };
    }

    /**
     * @param  int  $longest  pixels that a side may have
     * @return string|null why it cannot be used; null when it can
     */
    public static function fault(string $bytes, int $longest): ?string
    {
        if (self::kind($bytes) === '') {
            return 'it is no PNG, JPEG or WebP';
        }
        $size = @getimagesizefromstring($bytes);
        if ($size === false || $size[0] < 1 || $size[1] < 1) {
            return 'it is damaged';
        }

        return $size[0] > $longest || $size[1] > $longest ? "its {$size[0]} × {$size[1]} pixels are more than $longest a side" : null;
    }
}
