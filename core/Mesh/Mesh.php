<?php

declare(strict_types=1);

namespace Isotome\Mesh;

use Isotome\Exception\BadMesh;

/**
 * A triangle mesh as a value: three flat packed arrays, never changed after it was made.
 *
 * xyz      3 floats a vertex, millimetres.
 * corners  3 vertex numbers a triangle, counter-clockwise seen from outside.
 * tags     1 number a triangle: 0 is skin, k is inside, made by step k.
 * skin     what it carries besides its shape, or null. Operations give meshes without; see Carry.
 */
final readonly class Mesh
{
    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @param  list<int>  $tags
     */
    private function __construct(
        public array $xyz,
        public array $corners,
        public array $tags,
        public ?Skin $skin,
    ) {
    }

    /**
     * A mesh from lists that the caller vouches for; only their lengths are compared.
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @param  list<int>|null  $tags  all skin when null
     *
     * @throws BadMesh when the lengths do not fit together
     */
    public static function of(array $xyz, array $corners, ?array $tags = null, ?Skin $skin = null): self
    {
        $triangles = intdiv(count($corners), 3);
        $tags ??= $triangles === 0 ? [] : array_fill(0, $triangles, 0);
        if (count($xyz) % 3 !== 0 || count($corners) % 3 !== 0 || count($tags) !== $triangles) {
            throw new BadMesh(sprintf(
                'The mesh lists do not fit together (%d coordinates, %d corners, %d tags); give 3, 3 and 1 for each vertex, triangle and triangle.',
                count($xyz), count($corners), count($tags),
            ));
        }

        return new self($xyz, $corners, $tags, $skin?->fits($triangles));
    }

    public function withSkin(?Skin $skin): self
    {
        return $skin === $this->skin ? $this : new self($this->xyz, $this->corners, $this->tags, $skin?->fits($this->triangleCount()));
    }

    public function vertexCount(): int
    {
        return intdiv(count($this->xyz), 3);
    }

    public function triangleCount(): int
    {
        return count($this->tags);
    }

    public function isEmpty(): bool
    {
        return $this->tags === [];
    }
}
