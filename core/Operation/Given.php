<?php

declare(strict_types=1);

namespace Isotome\Operation;

use Isotome\Mesh\Mesh;
use Isotome\Solid\FileProof;

/** One mesh that a step gives: what it was made of, and how it is called. */
final readonly class Given
{
    /** @param  non-empty-list<Piece>  $parents */
    private function __construct(
        public Mesh $mesh,
        public array $parents,
        public ?string $name,
    ) {
    }

    /** A part of a piece, named after it by the next letter. */
    public static function partOf(Piece $parent, Mesh $mesh): self
    {
        return new self($mesh, [$parent], null);
    }

    /** The same piece with another mesh; it keeps its name, colour and place. The same mesh means that nothing was to be done. */
    public static function inPlace(Piece $piece, Mesh $mesh): self
    {
        return new self($mesh, [$piece], $piece->name);
    }

    /**
     * Made of several pieces together.
     *
     * @param  non-empty-list<Piece>  $parents  the first one's place in the list is taken
     */
    public static function madeOf(array $parents, Mesh $mesh, string $name): self
    {
        return new self($mesh, $parents, $name);
    }

    /**
     * The same of other parents and with another mesh.
     *
     * @param  non-empty-list<Piece>  $parents
     */
    public function with(array $parents, Mesh $mesh): self
    {
        return new self($mesh, $parents, $this->name);
    }

    /**
     * @param  list<self>  $gave
     * @return list<string> names, or those of the first parents, of what has details finer than 32-bit floats: see Report
     */
    public static function fine(array $gave): array
    {
        $names = [];
        foreach ($gave as $given) {
            if (FileProof::crossing($given->mesh) > 0) {
                $names[] = $given->name ?? $given->parents[0]->name;
            }
        }

        return array_values(array_unique($names));
    }

    public function isInPlace(): bool
    {
        return count($this->parents) === 1 && $this->name === $this->parents[0]->name;
    }
}
