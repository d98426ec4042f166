<?php

declare(strict_types=1);

namespace Isotome\Recipe;

use Isotome\Mesh\Mesh;

/** A named mesh with its place in the lineage. */
final readonly class Piece
{
    /**
     * @param  string|null  $parent  the piece it was cut from; null for stock
     * @param  int  $step  the step that made it; 0 for stock
     * @param  bool|null  $watertight  null when nobody has asked yet
     * @param  string|null  $known  its name in the recipe, when a person calls it otherwise
     */
    public function __construct(
        public string $name,
        public Mesh $mesh,
        public ?string $parent = null,
        public int $step = 0,
        public string $colour = '',
        public ?bool $watertight = null,
        public ?string $known = null,
    ) {
    }
}
