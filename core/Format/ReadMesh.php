<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Mesh;

/** What a reader gives. */
final readonly class ReadMesh
{
    /**
     * @param  Mesh  $mesh  everything in the file, millimetres
     * @param  int  $collapsed  triangles left out because two of their corners are one
     * @param  string  $format  as a person would name it
     * @param  array<string, Mesh>  $parts  by name, when the file holds several bodies that stand for themselves; else empty
     * @param  list<string>  $leftOut  what the file holds besides and is not read, as a person would name it
     */
    public function __construct(
        public Mesh $mesh,
        public int $collapsed,
        public string $format,
        public array $parts = [],
        public array $leftOut = [],
    ) {
    }
}
