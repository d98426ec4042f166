<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Isotome\Mesh\Mesh;

/** What a rule took out of an arrangement. */
final readonly class Extracted
{
    /**
     * @param  Mesh  $solid  its faces numbered from 1 by their tags
     * @param  list<int>  $of  of each face, by its number less 1: the mesh that it is of
     * @param  list<int>  $tags  and the tag that it is to have
     * @param  bool  $isCrossed  whether faces of it cross since their corners were rounded
     * @param  bool  $mayCrossInFiles  whether new faces cross once all coordinates are 32-bit floats
     */
    public function __construct(
        public Mesh $solid,
        public array $of,
        public array $tags,
        public bool $isCrossed,
        public Arrangement $all,
        public bool $mayCrossInFiles,
    ) {
    }

    /** A solid made of this one's, as if it had been made of the same meshes. */
    public function resolvedTo(self $again): self
    {
        return new self(
            $again->solid,
            array_map(fn (int $n): int => $this->of[$n - 1], $again->tags),
            array_map(fn (int $n): int => $this->tags[$n - 1], $again->tags),
            $again->isCrossed,
            $this->all,
            $this->mayCrossInFiles || $again->mayCrossInFiles,
        );
    }
}
