<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * Numbers at every corner of every triangle: texture coordinates, colours or normals. At one place of a seam there are two of them, so they belong to
 * corners, not to vertices.
 *
 * As bytes, because a list would take four times the memory: for each triangle, for each of its corners, so many 64-bit floats.
 */
final readonly class Layer
{
    /** @param  int  $width  numbers a corner */
    public function __construct(public int $width, public string $bytes)
    {
    }

    /** @param  list<float>  $values  of all corners */
    public static function of(int $width, array $values): self
    {
        return new self($width, Packing::doubles($values));
    }

    /** Bytes of a triangle. */
    public function stride(): int
    {
        return 24 * $this->width;
    }

    /** @return list<float> of the three corners of a triangle */
    public function at(int $triangle): array
    {
        /** @var array<int, float> $values */
        $values = unpack('e'.(3 * $this->width), $this->bytes, $this->stride() * $triangle);

        return array_values($values);
    }

    /** What a new face has. */
    public static function blank(string $name, int $width): string
    {
        return str_repeat(pack('e*', ...array_fill(0, $width, $name === Skin::COLOUR ? 1.0 : 0.0)), 3);
    }
}
