<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Mesh;

/** How skin and inside look in files that hold materials: the skin in the piece's identity colour, the inside in a lighter one (common practice). */
final class Materials
{
    /** How far the inside is from the skin's colour towards white. */
    private const LIGHTER = 0.55;

    /** @param  string  $colour  #rrggbb */
    public static function inside(string $colour): string
    {
        $parts = array_map(static fn (int $part): int => (int) round($part + self::LIGHTER * (255 - $part)), self::parts($colour));

        return sprintf('#%02x%02x%02x', ...$parts);
    }

    /**
     * A material library for OBJ (Wavefront's published MTL statements newmtl and Kd): a skin and an inside for each piece.
     *
     * @param  array<string, array{mesh: Mesh, colour: string}>  $pieces  by name
     * @return iterable<string>
     */
    public static function library(array $pieces, ?InsideLook $inside = null): iterable
    {
        yield "# Isotome: skin and inside of each piece\n";
        $picture = $inside?->picture;
        foreach ($pieces as $name => $piece) {
            foreach (['skin' => $piece['colour'], 'inside' => $inside->colour ?? self::inside($piece['colour'])] as $side => $colour) {
                if ($side === 'inside' && $picture !== null) {
                    yield 'newmtl '.TextWriters::word((string) $name)."_inside\nKd 1 1 1\nmap_Kd ".MtlWriter::file($picture)."\n";

                    continue;
                }
                yield sprintf("newmtl %s_%s\nKd %.4f %.4f %.4f\n", TextWriters::word((string) $name), $side, ...array_map(static fn (int $part): float => $part / 255, self::parts($colour)));
            }
        }
    }

    /** @return array{int, int, int} 0 to 255 */
    private static function parts(string $colour): array
    {
        $number = (int) hexdec(ltrim($colour, '#'));

        return [$number >> 16 & 255, $number >> 8 & 255, $number & 255];
    }
}
